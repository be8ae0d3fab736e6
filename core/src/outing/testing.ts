import type { Test } from "../checkup/types";
import { alwaysUnder, findStep, loosePenStart, sidesOf, type Program } from "../programs";
import type { RecordEvent, StepId } from "../record";
import { inFull } from "../evidence";
import type { Exercise, OutingPlan } from "./types";

export { randomMoments } from "./random-moments";

/** Reads the short notation of cases/README.md into events. Used by tests alone. */
export function readMoments(moments: readonly string[], step: StepId): RecordEvent[] {
  const events: RecordEvent[] = [];
  const standing: RecordEvent[] = [];
  let at = START;
  let side: string = "near";
  let current = step;
  const add = (fields: Record<string, unknown>): void => {
    const seq = events.length + 1;
    const event = { id: `e${seq}`, at: new Date(at).toISOString(), device: "phone", seq, ...fields } as RecordEvent;
    events.push(event);
    if (event.type !== "correction") standing.push(event);
  };
  const correct = (fields: Record<string, unknown>, drop: boolean): void => {
    const target = drop ? standing.pop() : standing.at(-1);
    add({ type: "correction", replaces: target?.id, ...fields });
  };
  add({ type: "spurt", edge: "start", step, side });
  for (const moment of moments) {
    at += 10_000;
    const words = moment.split(" ");
    if (words[0]?.endsWith(":")) side = words.shift()?.slice(0, -1) ?? side;
    const [word = "", first = "", second] = words;
    switch (word) {
      case "gave":
      case "tried":
      case "none":
      case "against":
      case "neutral":
        add({
          type: "ask",
          v: 2,
          step: current,
          side,
          answer: word,
          ...readFeel(first),
          ...asUsual(current),
          ...readMore(words.slice(1)),
        });
        break;
      case "step":
        add({ type: "spurt", edge: "start", step: (current = first), side });
        break;
      case "against-gate":
        add({ type: "against-gate", step: current, gate: first, reason: "He knows it from elsewhere." });
        break;
      case "offer":
        add({ type: "offer", step: current });
        break;
      case "startle":
        add({ type: "startle", size: Number(first) });
        break;
      case "quiet":
        correct({ with: { recoverSeconds: Number(first) } }, false);
        break;
      case "mishap":
        add(
          first === "untold"
            ? { type: "mishap", kind: "other", severity: 2, personHurt: false, toTell: true }
            : { type: "mishap", kind: first, severity: Number(second), personHurt: words.includes("hurt") },
        );
        break;
      case "tired":
        add({ type: "tired", seen: first });
        break;
      case "sign":
        add({ type: "sign", sign: first });
        break;
      case "enough":
        add({ type: "enough", why: first });
        break;
      case "after":
        at += Number(first) * 1000 - 10_000;
        add({ type: "note", text: "time passes" });
        break;
      case "undo":
        correct({ void: true }, true);
        break;
      case "was":
        correct({ with: { answer: first } }, false);
        break;
      default:
        throw new Error(`no such moment: ${moment}`);
    }
  }
  return events;
}

const START = Date.parse("2026-05-01T08:00:00Z");

/** What is usual says that it was asked as far as the standard. */
function asUsual(id: StepId): Record<string, unknown> {
  const step = findStep(loosePenStart, id);
  return step ? inFull(step) : {};
}

function readFeel(text: string): Record<string, number> {
  const [phase, mood] = text.split("/");
  if (mood === undefined) return {};
  return { ...(phase === "-" ? {} : { phase: Number(phase) }), mood: Number(mood) };
}

function readMore(words: readonly string[]): Record<string, unknown> {
  const after = (name: string): string | undefined => words[words.indexOf(name) + 1];
  const has = (name: string): boolean => words.includes(name);
  return {
    ...(has("rung") ? { rung: after("rung") } : {}),
    ...(has("bolted") ? { after: "bolted" } : {}),
    ...(has("asked") ? { asked: Number(after("asked")) } : {}),
    ...(has("tool") ? { tool: after("tool") } : {}),
    ...(has("standing") ? { setting: "standing" } : {}),
    ...(has("moving") ? { setting: "moving" } : {}),
  };
}

export interface PlanChoices extends Partial<Pick<Exercise, "isNew" | "sticky" | "after">> {
  /** Further pieces of the card, with what they rest on. */
  others?: Pick<Exercise, "step" | "after">[];
  step?: StepId;
  line?: Partial<Exercise["line"]>;
  last?: NonNullable<Exercise["last"]["near"]>;
  caps?: { working: number; inHand: number };
  known?: string[];
  settings?: Partial<Program["coach"]>;
  ways?: Partial<Program["ways"]>;
  /** Where it is a check-up: its steps in their order; those with a `!` were held before and are asked once. */
  checkUp?: string[];
  /** The rung as far as which the step may be worked, before a gate of the same name that is shut. */
  upTo?: string;
  /** The shut gate behind which the step lies. */
  shut?: string;
}

export const planOf = ({
  step = "flex",
  line,
  last,
  caps,
  known,
  settings,
  ways,
  checkUp,
  upTo,
  shut,
  others = [],
  ...more
}: PlanChoices = {}): OutingPlan => ({
  program: {
    ...loosePenStart,
    coach: { ...loosePenStart.coach, ...settings },
    ways: { ...loosePenStart.ways, ...ways },
  },
  startedAt: new Date(START).toISOString(),
  exercises: [
    {
      step,
      line: { count: 3, worth: "clean", ...line },
      isNew: false,
      sticky: null,
      last: last ? { near: last, off: last, none: last } : {},
      ...more,
    },
    ...others.map((one): Exercise => ({
      ...one,
      line: { count: 3, worth: "clean" },
      isNew: false,
      sticky: null,
      last: {},
    })),
  ],
  known: known ?? ["lead"],
  caps: { workingMinutes: caps?.working ?? 30, inHandMinutes: caps?.inHand ?? 60 },
  ...(upTo ? { upTo: [{ step, rung: upTo, gate: step }] } : {}),
  ...(shut
    ? {
        shut: [
          {
            gate: shut,
            why: { code: "gate-shut", met: false, have: { lacks: [] }, need: shut, evidence: [] },
            steps: [step],
          },
        ],
      }
    : {}),
  ...(checkUp ? { checkUp: { tests: checkUp.map(testOf), known: [] } } : {}),
});

function testOf(text: string, _at: number, all: readonly string[]): Test {
  const id = text.replace("!", "");
  const step = findStep(loosePenStart, id);
  const others = all.map((one) => one.replace("!", ""));
  const under = [...alwaysUnder(loosePenStart, id)].filter((one) => others.includes(one));
  return {
    step: id,
    sides: sidesOf(step ?? { side: "none" }).map((side) => ({ side, share: 0.5 })),
    twice: !text.endsWith("!"),
    held: text.endsWith("!"),
    guarded: false,
    needs: under.map((one) => [[one]]),
    under,
  };
}
