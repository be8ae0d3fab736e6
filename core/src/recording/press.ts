import { ZONES, type Answer, type BodyOf, type EventBody, type Side, type StepId } from "../record";
import { sideFields, type SideKey } from "../programs";

/**
 * What is at hand when something is recorded: the step that is worked, on which side of the horse, and what else every ask of it
 * says until it is changed.
 */
export interface AskLine {
  step: StepId;
  side: SideKey;
  more?: AskDetails;
}

/** What an ask can say beside its step, side, answer and feel. */
export type AskDetails = Omit<Partial<BodyOf<"ask">>, "type" | "step" | "side" | "answer" | "phase" | "mood">;

/** What of the line a remembered series says of all its asks. */
const ON_A_SERIES = [
  "rung",
  "setting",
  "gait",
  "ridden",
  "restraint",
  "tool",
  "stands",
  "reach",
  "manner",
  "headgear",
] as const satisfies readonly (keyof AskDetails & keyof BodyOf<"series">)[];

const lineOfSeries = (more: AskDetails = {}): Partial<BodyOf<"series">> =>
  Object.fromEntries(ON_A_SERIES.flatMap((name) => (more[name] === undefined ? [] : [[name, more[name]]])));

type Feel = Pick<BodyOf<"ask">, "phase" | "mood">;

/** One thing a hand does in the pen, in the review or in the write-up. */
export type Press =
  /** An ask, and how the horse answered it. */
  | ({ press: "ask"; answer: Answer } & Feel & AskDetails)
  /** A remembered series of asks and how they usually were. */
  | ({ press: "series" } & Pick<BodyOf<"series">, "count" | "clean" | "first" | "worst"> & Feel)
  /** The exercise of the line is taken up. */
  | { press: "take-up" }
  /** The exercise in hand is left; the horse rests. */
  | { press: "rest" }
  /** The exercise goes on, on the side of the line. */
  | { press: "side" }
  /** The exercise of the line is worked though a gate before it is shut. */
  | ({ press: "against-gate" } & Pick<BodyOf<"against-gate">, "gate">)
  /** The horse offered the exercise of the line by himself. */
  | { press: "offer" }
  /** He took fright: at what is at hand, on the side and at the place of the hide that the line says. */
  | { press: "fright"; size: BodyOf<"startle">["size"] }
  /** He goes in another gait, on the rein of the line; `unasked` where nobody asked for it. */
  | ({ press: "gait" } & Pick<BodyOf<"gait">, "gait" | "unasked" | "work">)
  /** He came back, at the press, from a gait that nobody asked for and that began at `at`, in milliseconds since 1970. */
  | { press: "came-back"; gait: string; at: number; back: NonNullable<BodyOf<"gait">["back"]> }
  /** How he carries himself, on the rein of the line. */
  | ({ press: "frame" } & Pick<BodyOf<"frame">, "frame" | "work">)
  /** Something long is begun: from now on it is timed. */
  | { press: "watch" }
  /**
   * What was timed is over, since `from` in milliseconds since 1970, by the person or by the horse himself. Its time is said in
   * the unit of the step; the line says the rung it came to.
   */
  | ({ press: "watch-end"; watch: string; from: number; unit: "seconds" | "minutes"; answer: Answer } & Feel)
  /** Stepped away again from a horse who was stood with, `from` in milliseconds since 1970. */
  | { press: "step-away"; from: number }
  /** The horse is quiet again after a fright that began at `at`, in milliseconds since 1970. */
  | { press: "quiet"; fright: string; at: number };

/** The side of a line where it names one. */
const halfOf = (side: SideKey): { side?: Side } => (side === "none" ? {} : { side: sideFields(side).side });

/** The rein of a line: near is to the left. */
const reinOf = (side: SideKey): Pick<BodyOf<"gait">, "direction"> =>
  side === "none" ? {} : { direction: side.startsWith("near") ? "near" : "off" };

const defined = <Said extends object>(said: Said): Said =>
  Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined)) as Said;

/**
 * The event a press records: the one way from a hand to the record, for the pen, the rail, a remote, the review, the write-up and
 * simulated people alike. Who keeps it adds an id, the time and the device.
 *
 * @param line what is at hand at the press; for a change of exercise or side, the new one
 * @param now the moment of the press, in milliseconds since 1970; what lasts is counted in whole seconds up to it
 */
export function bodyOfPress(press: Press, { step, side, more }: AskLine, now: number): EventBody {
  switch (press.press) {
    case "ask": {
      const { press: _ask, answer, ...said } = press;
      return { type: "ask", step, ...sideFields(side), answer, ...more, ...said };
    }
    case "series": {
      const { press: _series, count, clean, first, worst, ...said } = press;
      return { type: "series", step, ...sideFields(side), count, clean, first, worst, ...lineOfSeries(more), ...said };
    }
    case "take-up":
      return { type: "spurt", edge: "start", step, ...halfOf(side) };
    case "rest":
      return { type: "spurt", edge: "end" };
    case "side": {
      const { side: to, part } = sideFields(side);
      // A step without sides has none to go to: it is taken up.
      if (to === "none") return { type: "spurt", edge: "start", step };
      return { type: "side-change", to, ...(part ? { part } : {}) };
    }
    case "against-gate":
      return { type: "against-gate", step, gate: press.gate };
    case "offer":
      return { type: "offer", step, ...halfOf(side) };
    case "fright": {
      const zone = ZONES.find((one) => one === more?.part);
      return { type: "startle", step, ...halfOf(side), ...(zone ? { zone } : {}), size: press.size };
    }
    case "gait": {
      const { press: _gait, ...said } = press;
      return { type: "gait", ...reinOf(side), ...defined(said) };
    }
    case "came-back":
      return {
        type: "correction",
        replaces: press.gait,
        with: { back: press.back, seconds: Math.max(1, secondsSince(press.at, now)) },
      };
    case "frame": {
      const { press: _frame, ...said } = press;
      return { type: "frame", ...reinOf(side), ...defined(said) };
    }
    case "watch":
      return { type: "watch", step, ...sideFields(side), ...more };
    case "watch-end": {
      const { press: _end, watch, from, unit, answer, ...feel } = press;
      return {
        type: "ask",
        step,
        ...sideFields(side),
        answer,
        ...more,
        ...feel,
        dose: timed(from, now, unit),
        watch,
        // What he did not give he ended himself.
        endedBy: answer === "gave" || answer === "neutral" ? "person" : "horse",
      };
    }
    case "step-away":
      return { type: "dwell", seconds: Math.max(1, secondsSince(press.from, now)), ...halfOf(side) };
    case "quiet":
      return {
        type: "correction",
        replaces: press.fright,
        with: { recoverSeconds: Math.max(0, secondsSince(press.at, now)) },
      };
    default:
      return press satisfies never;
  }
}

/** How long something lasted, in whole seconds or in tenths of a minute, never more than it was. */
export function timed(from: number, now: number, unit: "seconds" | "minutes"): number {
  const seconds = Math.max(0, Math.floor((now - from) / 1000));
  return unit === "seconds" ? seconds : Math.floor(seconds / 6) / 10;
}

const secondsSince = (from: number, now: number): number => Math.round((now - from) / 1000);
