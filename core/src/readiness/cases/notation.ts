import {
  addDays,
  type Answer,
  type HorseRecord,
  type Mood,
  type Phase,
  type RecordEvent,
  type Side,
} from "../../record";
import { everythingUnder, sidesOf, type Program } from "../../programs";

/** Reads the short notation of `verdicts.json` (see the README beside it) into records. For tests. */

const DAY_0 = "2026-01-10";
const ANSWERS: Record<string, Answer> = { g: "gave", t: "tried", u: "neutral", n: "none", a: "against" };
const TOKEN = /^([0-4-])([gtuna])([0-4]?)((?:>b|\?\d+|=\d+)*)(?:x(\d+))?$/;
const SERIES = /^s(\d+)\/(\d+)([gtuna])([gtuna])([0-4-])([0-4])$/;

export type ShortOuting = [day: number, asks: string];

const phaseOf = (text: string | undefined): Phase | undefined =>
  text === "-" || text === undefined ? undefined : (Number(text) as Phase);

function readToken(token: string, step: string, side: Side, stamp: () => { id: string; at: string }): RecordEvent[] {
  const series = SERIES.exec(token);
  if (series) {
    const [, count, clean, first, worst, phase, mood] = series;
    return [
      {
        ...stamp(),
        type: "series",
        step,
        side,
        count: Number(count),
        clean: Number(clean),
        first: ANSWERS[first ?? ""] ?? "none",
        worst: ANSWERS[worst ?? ""] ?? "none",
        phase: phaseOf(phase),
        mood: Number(mood) as Mood,
      },
    ];
  }
  const ask = TOKEN.exec(token);
  if (!ask) throw new Error(`not a token: ${token}`);
  const [, phase, answer, mood, extras = "", times] = ask;
  const asked = /\?(\d+)/.exec(extras)?.[1];
  const dose = /=(\d+)/.exec(extras)?.[1];
  return Array.from({ length: Number(times ?? 1) }, () => ({
    ...stamp(),
    type: "ask" as const,
    step,
    side,
    phase: phaseOf(phase),
    answer: ANSWERS[answer ?? ""] ?? "none",
    mood: mood ? (Number(mood) as Mood) : undefined,
    ...(asked ? { asked: Number(asked) } : {}),
    ...(dose ? { dose: Number(dose) } : {}),
    ...(extras.includes(">b") ? { after: "bolted" as const } : {}),
  }));
}

/** A record from short outings. Asks stand ten seconds apart from 10:00 UTC on; two outings of one day three hours apart. */
export function shortRecord(outings: readonly ShortOuting[]): HorseRecord {
  return {
    yard: { timeZone: "Europe/Dublin" },
    horse: { id: "h", name: "Test", foaled: "2023-05-01", foaledPrecision: "month", sex: "gelding" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings: outings.map(([day, text], index) => {
      const before = outings.slice(0, index).filter(([other]) => other === day).length;
      const start = Date.parse(`${addDays(DAY_0, day)}T10:00:00.000Z`) + before * 3 * 3_600_000;
      let n = 0;
      const stamp = (): { id: string; at: string } => {
        n += 1;
        return { id: `o${index}-${String(n).padStart(3, "0")}`, at: new Date(start + n * 10_000).toISOString() };
      };
      const events = text
        .split(";")
        .map((part) => part.trim())
        .filter(Boolean)
        .flatMap((part): RecordEvent[] => {
          const [step = "", ...rest] = part.split(" ");
          if (step === "sign") return [{ ...stamp(), type: "sign", sign: rest[0] }];
          const hasSide = rest[0] === "near" || rest[0] === "off";
          const side = hasSide ? (rest[0] as Side) : "none";
          return rest.slice(hasSide ? 1 : 0).flatMap((token) => readToken(token, step, side, stamp));
        });
      return {
        id: `o${index}`,
        startedAt: new Date(start).toISOString(),
        endedAt: new Date(start + 3_600_000).toISOString(),
        place: "round pen",
        handler: "A",
        events,
      };
    }),
  };
}

/** Outings that make the named steps steady: five clean a side on day −9 and on day −8. */
export function steadyOutings(program: Program, ids: readonly string[] | "under", step: string): ShortOuting[] {
  const wanted = ids === "under" ? everythingUnder(program, step) : ids;
  if (wanted.length === 0) return [];
  const text = wanted
    .flatMap((id) => {
      const known = program.steps.find((one) => one.id === id);
      if (!known) throw new Error(`no step ${id}`);
      const phase = known.standard.phase === null ? "-" : "1";
      return sidesOf(known).map((side) => `${id} ${side === "none" ? "" : `${side} `}${phase}g1x5`);
    })
    .join("; ");
  return [
    [-9, text],
    [-8, text],
  ];
}

/** The evening of a day of the short notation. */
export function eveningOf(day: number): string {
  return `${addDays(DAY_0, day)}T20:00:00.000Z`;
}
