import {
  addDays,
  type Answer,
  type AskEvent,
  type BodyOf,
  type Fault,
  type Going,
  type HorseRecord,
  type Mood,
  type Part,
  type Phase,
  type RecordEvent,
  type SeriesEvent,
  type Setting,
  type Sign,
  type Tool,
  type StepId,
} from "../../record";
import { inFull } from "../../evidence";
import {
  everythingUnder,
  findStep,
  findStepAnywhere,
  loosePenStart,
  sideFields,
  sidesOf,
  type Program,
  type SideKey,
  type Step,
} from "../../programs";

/** Reads the short notation of the expected verdicts (see the README beside them) into records. For tests. */

const DAY_0 = "2026-01-10";
const ANSWERS: Record<string, Answer> = { g: "gave", t: "tried", u: "neutral", n: "none", a: "against" };
const EXTRA = />b|<[ph]|\+[\d.]+|\?[\d.]+|=[\d.]+|![sm]|[~@*%:^][a-z0-9-]+?(?=x\d|$|[>?=!~@*%:^<+])/g;
const TOKEN = /^([0-4-])([gtuna])([0-4]?)(.*?)(?:x(\d+))?$/;
const SERIES = /^s(\d+)\/(\d+)([gtuna])([gtuna])([0-4-])([0-4])([\^~!].*)?$/;

export type ShortOuting = [day: number, asks: string];

/** What is said of the horse, by day; `lifted` strikes it out again. */
export interface ShortAbout {
  day: number;
  type: string;
  lifted?: boolean;
  [field: string]: unknown;
}

const phaseOf = (text: string | undefined): { phase?: Phase } =>
  text === "-" || text === undefined ? {} : { phase: Number(text) as Phase };

function readToken(token: string, step: StepId, side: SideKey, stamp: () => { id: string; at: string }): RecordEvent[] {
  const series = SERIES.exec(token);
  if (series) {
    const [, count, clean, first, worst, phase, mood, how = ""] = series;
    const extras: Pick<Partial<SeriesEvent>, "v" | "rung" | "tool" | "setting"> = Object.assign(
      {},
      ...(how.match(EXTRA) ?? []).map(readExtra),
    );
    return [
      {
        ...stamp(),
        type: "series",
        step,
        ...sideFields(side),
        count: Number(count),
        clean: Number(clean),
        first: ANSWERS[first ?? ""] ?? "none",
        worst: ANSWERS[worst ?? ""] ?? "none",
        ...phaseOf(phase),
        mood: Number(mood) as Mood,
        ...asUsual(step, extras),
        ...extras,
      },
    ];
  }
  const ask = TOKEN.exec(token);
  const extras = ask?.[4] ?? "";
  if (!ask || extras.replaceAll(EXTRA, "") !== "") throw new Error(`not a token: ${token}`);
  const [, phase, answer, mood, , times] = ask;
  const fields: Partial<AskEvent> = Object.assign({}, ...(extras.match(EXTRA) ?? []).map(readExtra));
  return Array.from({ length: Number(times ?? 1) }, () => ({
    ...stamp(),
    step,
    ...sideFields(side),
    ...phaseOf(phase),
    answer: ANSWERS[answer ?? ""] ?? "none",
    ...(mood ? { mood: Number(mood) as Mood } : {}),
    ...asUsual(step, fields),
    ...fields,
    type: "ask" as const,
  }));
}

/** The rung that is said, or with a dash is not; an ask of the former shape could not say it. */
const rungOf = (value: string): { v: number; rung?: string } =>
  value === "former" ? { v: 1 } : { v: 2, ...(value === "-" ? {} : { rung: value }) };

/** What is usual says that it was asked as far as the standard. */
function asUsual(
  id: StepId,
  said: Partial<Pick<AskEvent, "v" | "tool">>,
): Pick<Partial<AskEvent>, "v" | "rung" | "tool"> {
  const step = findStepAnywhere(loosePenStart, id);
  return said.v === undefined && step ? { v: 2, ...inFull(step) } : {};
}

function readExtra(text: string): Partial<AskEvent> {
  const value = text.slice(1);
  switch (text[0]) {
    case ">":
      return { after: "bolted" };
    case "+":
      return { waitSeconds: Number(value) };
    case "?":
      return { asked: Number(value) };
    case "=":
      return { dose: Number(value) };
    case "!":
      return { setting: (value === "m" ? "moving" : "standing") satisfies Setting };
    case "~":
      return { tool: value as Tool };
    case "^":
      return rungOf(value);
    case "*":
      return { fault: value as Fault };
    case "%":
      return { gait: value as Going };
    case ":":
      return { purpose: value as "reminder" | "probe" };
    case "<":
      return { watch: "a watch", endedBy: value === "p" ? "person" : "horse" };
    default:
      return { part: value as Part };
  }
}

const reinOf = (side: string | undefined): Pick<BodyOf<"gait">, "direction"> =>
  side === "near" || side === "off" ? { direction: side } : {};

/** "catch-rope 20/1 2m h": how long he stood and his mood at its end, how far off the person was, and that he ended it. */
function readDwell([step = "", stood = "", ...more]: string[], at: { id: string; at: string }): RecordEvent {
  const [seconds, mood] = stood.split("/");
  const reach = more.find((one) => one.endsWith("m"));
  return {
    ...at,
    type: "dwell",
    v: 2,
    step,
    seconds: Number(seconds),
    ...(mood === undefined ? {} : { mood: Number(mood) as Mood }),
    ...(reach === undefined ? {} : { reachM: Number(reach.slice(0, -1)) }),
    ...(more.includes("h") ? { endedBy: "horse" } : {}),
  };
}

/** One part of an outing: asks of a step, or something else that was seen. */
function readPart(part: string, stamp: () => { id: string; at: string }): RecordEvent[] {
  const [step = "", ...rest] = part.split(" ");
  if (step === "sign") return [{ ...stamp(), type: "sign", sign: rest[0] as Sign }];
  if (step === "gait") {
    const [gait, unasked] = (rest[0] ?? "").split("-") as [BodyOf<"gait">["gait"], string | undefined];
    return [{ ...stamp(), type: "gait", gait, ...reinOf(rest[1]), ...(unasked ? { unasked: true } : {}) }];
  }
  if (step === "frame")
    return [{ ...stamp(), type: "frame", frame: rest[0] as BodyOf<"frame">["frame"], ...reinOf(rest[1]) }];
  if (step === "dwell") return [readDwell(rest, stamp())];
  if (step === "rest") return [{ ...stamp(), type: "spurt", edge: "end" }];
  if (step === "offer") {
    const times = Number(/^x(\d+)$/.exec(rest[1] ?? "x1")?.[1]);
    return Array.from({ length: times }, () => ({ ...stamp(), type: "offer", step: rest[0] ?? "" }));
  }
  const hasSide = /^(near|off)(-fore|-hind)?$/.test(rest[0] ?? "");
  const side = hasSide ? (rest[0] as SideKey) : "none";
  return rest.slice(hasSide ? 1 : 0).flatMap((token) => readToken(token, step, side, stamp));
}

/** A record from short outings. Asks stand ten seconds apart from 10:00 UTC on; two outings of one day three hours apart. */
export function shortRecord(outings: readonly ShortOuting[], about: readonly ShortAbout[] = []): HorseRecord {
  return {
    yard: { timeZone: "Europe/Dublin" },
    horse: { id: "h", name: "Test", foaled: "2023-05-01", foaledPrecision: "month", sex: "gelding" },
    program: { id: "loose-pen-start" },
    horseEvents: about.flatMap(({ day, lifted, ...fields }, index): RecordEvent[] => {
      const at = `${addDays(DAY_0, day)}T09:00:0${index}.000Z`;
      const event = { id: `h${index}`, at, ...fields } as RecordEvent;
      return lifted ? [event, { id: `l${index}`, at, type: "correction", replaces: event.id, void: true }] : [event];
    }),
    outings: outings.map(([day, text], index) => {
      const before = outings.slice(0, index).filter(([other]) => other === day).length;
      const start = Date.parse(`${addDays(DAY_0, day)}T10:00:00.000Z`) + before * 3 * 3_600_000;
      let n = 0;
      const stamp = (): { id: string; at: string } => {
        n += 1;
        return { id: `o${index}-${String(n).padStart(3, "0")}`, at: new Date(start + n * 10_000).toISOString() };
      };
      const parts = text
        .split(";")
        .map((part) => part.trim())
        .filter(Boolean);
      const said = (word: string): string | undefined =>
        parts.find((part) => part.startsWith(`${word} `))?.slice(word.length + 1);
      const place = said("at") ?? "round pen";
      return {
        id: `o${index}`,
        startedAt: new Date(start).toISOString(),
        endedAt: new Date(start + 3_600_000).toISOString(),
        ...(place === "-" ? {} : { place }),
        handler: said("by") ?? "A",
        events: parts.filter((part) => !/^(at|by) /.test(part)).flatMap((part) => readPart(part, stamp)),
      };
    }),
  };
}

function known(program: Program, id: string): Step {
  const step = findStep(program, id);
  if (!step) throw new Error(`no step ${id}`);
  return step;
}

/** Which steps a case wants steady beforehand. */
export function steadyIds(program: Program, steady: readonly string[] | string | undefined, step: StepId): string[] {
  if (Array.isArray(steady)) return [...(steady as string[])];
  const under = everythingUnder(program, step);
  const but = /^under-but (.+)$/.exec(String(steady))?.[1];
  return under.filter((id) => id !== but);
}

/** Outings that make steps of the first version steady: five clean a side on day −9 and on day −8. */
export function steadyOutings(program: Program, ids: readonly string[]): ShortOuting[] {
  const text = ids
    .flatMap((id) => {
      const step = known(program, id);
      const phase = step.standard.phase === null ? "-" : "1";
      return sidesOf(step).map((side) => `${id} ${side === "none" ? "" : `${side} `}${phase}g1x5`);
    })
    .join("; ");
  return ids.length === 0
    ? []
    : [
        [-9, text],
        [-8, text],
      ];
}

/** Outings that make steps of the whole road steady: days −10 to −7, two people, two places, standing and moving, a sign of ease at each thing he stands for. */
export function broughtUp(program: Program, ids: readonly string[]): ShortOuting[] {
  if (ids.length === 0) return [];
  const inOrder = program.steps.filter((step) => ids.includes(step.id));
  if (inOrder.length !== ids.length) throw new Error(`no such step among ${ids.join(", ")}`);
  const text = inOrder
    .flatMap((step) => {
      const { phase, mood } = step.standard;
      const clean = `${phase ?? "-"}g${Math.min(1, mood)}`;
      const asks = step.kind === "moment" ? `${clean}!sx3 ${clean}!mx2` : clean;
      const asked = sidesOf(step).flatMap((side) => [
        `${step.id} ${side === "none" ? "" : `${side} `}${asks}`,
        ...(step.elsewhere.includes("stretch") ? [`frame stretches ${side}`] : []),
      ]);
      // A sign of ease is of what was being done.
      return step.still ? [...asked, "sign yawn"] : asked;
    })
    .join("; ");
  return [
    [-10, text],
    [-9, text],
    [-8, `at Top yard; by B; ${text}`],
    [-7, text],
  ];
}

/** The evening of a day of the short notation. */
export function eveningOf(day: number): string {
  return `${addDays(DAY_0, day)}T20:00:00.000Z`;
}
