import { findStepAnywhere, type Program, type SideKey } from "../programs";
import {
  daysBetween,
  isAsk,
  isSign,
  SIGNS_OF_EASE,
  TIGHT,
  type AskEvent,
  type Day,
  type Fault,
  type FoldedOuting,
  type RecordEvent,
  type StepId,
} from "../record";
import { sideOfAsk } from "../evidence";
import { weighAnswer } from "../outing";
import { DEFAULT_LINE } from "../outing";
import type { Help, LastOuting, OldHabit, WeakSide, Worry } from "./types";

const textOf = (value: unknown): string | null => (typeof value === "string" && value !== "" ? value : null);
const numberOf = (value: unknown): number | null => (typeof value === "number" ? value : null);
const MS_A_MINUTE = 60_000;
const SHOWN = 4;

export const minutesOf = ({ startedAt, endedAt }: FoldedOuting): number =>
  Math.round((Date.parse(endedAt) - Date.parse(startedAt)) / MS_A_MINUTE);

/** Where the last outing ended and how, what was weak in it, what worried him, what helped. */
export function lookBack(program: Program, outing: FoldedOuting, today: Day): LastOuting {
  const { events, head } = outing;
  const asks = events.filter(isAsk);
  const last = asks.at(-1);
  return {
    id: outing.id,
    day: outing.day,
    daysAgo: daysBetween(outing.day, today),
    minutes: minutesOf(outing),
    place: textOf(head.place),
    handler: textOf(head.handler),
    caught: textOf(head["caught"]),
    caughtSeconds: numberOf(head["caughtSeconds"]),
    unended: events.some((event) => event.type === "outing-end" && event.unended === true),
    lastAsk: last
      ? {
          step: last.step,
          answer: last.answer,
          ...(last.side === undefined ? {} : { side: last.side }),
          ...(last.phase === undefined ? {} : { phase: last.phase }),
          ...(last.mood === undefined ? {} : { mood: last.mood }),
        }
      : null,
    weak: weakIn(program, asks),
    worries: worriesIn(program, events),
    helped: helpIn(program, events),
    notes: events.flatMap((event) => (event.type === "note" ? [event.text] : [])),
  };
}

const FEW = 2;

/** Sides on which at most half of the answers were as they should be, weakest first. */
function weakIn(program: Program, asks: readonly AskEvent[]): WeakSide[] {
  const sides = new Map<string, WeakSide>();
  for (const ask of asks) {
    const step = findStepAnywhere(program, ask.step);
    const answer = step && weighAnswer(ask, step, DEFAULT_LINE);
    if (!answer || answer.worth === "practice") continue;
    const key = `${ask.step} ${answer.side}`;
    const one = sides.get(key) ?? { step: ask.step, side: answer.side, good: 0, asks: 0 };
    sides.set(key, { ...one, asks: one.asks + 1, good: one.good + (answer.good ? 1 : 0) });
  }
  return [...sides.values()]
    .filter(({ good, asks: of }) => of >= FEW && good * 2 <= of)
    .toSorted((a, b) => a.good / a.asks - b.good / b.asks)
    .slice(0, SHOWN);
}

function worriesIn(program: Program, events: readonly RecordEvent[]): Worry[] {
  const tight = new Map<string, Worry & { kind: "tight" }>();
  const worries: Worry[] = [];
  for (const event of events) {
    if (event.type === "startle") worries.push({ kind: "startle", thing: textOf(event.thing), size: event.size });
    else if (event.type === "mishap") worries.push({ kind: "mishap", what: event.kind, severity: event.severity });
    else if (event.type === "against-gate")
      worries.push({ kind: "against-gate", step: event.step, gate: event.gate, reason: event.reason ?? null });
    else if (isAsk(event) && (event.mood ?? 0) >= TIGHT) {
      const step = findStepAnywhere(program, event.step);
      const side: SideKey = (step && sideOfAsk(event, step)) ?? "none";
      const before = tight.get(`${event.step} ${side}`);
      tight.set(`${event.step} ${side}`, {
        kind: "tight",
        step: event.step,
        side,
        times: (before?.times ?? 0) + 1,
        over: (before?.over ?? false) || event.mood === 4,
      });
    }
  }
  const most = [...tight.values()].toSorted((a, b) => Number(b.over) - Number(a.over) || b.times - a.times);
  return [...worries, ...most].slice(0, SHOWN);
}

const EASE = new Set<string>(SIGNS_OF_EASE);
const WAITED_MS = 45_000;

/** What was different when a good answer came after a poor one on the same step and side, and where he let down. */
function helpIn(program: Program, events: readonly RecordEvent[]): Help[] {
  const helped: Help[] = [];
  const poor = new Map<string, AskEvent>();
  let last: AskEvent | null = null;
  let ease = false;
  for (const event of events) {
    if (isSign(event) && EASE.has(event.sign) && last && !ease) {
      helped.push({ kind: "ease", step: last.step, sign: event.sign });
      ease = true;
    }
    if (!isAsk(event)) continue;
    const step = findStepAnywhere(program, event.step);
    const answer = step && weighAnswer(event, step, DEFAULT_LINE);
    if (!step || !answer) continue;
    const key = `${event.step} ${answer.side}`;
    const before = poor.get(key);
    if (!answer.right) poor.set(key, event);
    else if (before) {
      const change = changeBetween(before, event, last);
      if (change && !helped.some((one) => one.kind === change.kind && one.step === event.step))
        helped.push({ ...change, step: event.step, side: answer.side } as Help);
      poor.delete(key);
    }
    last = event;
  }
  return helped.slice(0, SHOWN);
}

function changeBetween(
  poor: AskEvent,
  good: AskEvent,
  last: AskEvent | null,
): { kind: Help["kind"]; setting?: string } | null {
  if (poor.asked !== undefined && good.asked !== undefined && good.asked < poor.asked) return { kind: "smaller" };
  if (good.setting !== undefined && poor.setting !== undefined && good.setting !== poor.setting)
    return { kind: "setting", setting: good.setting };
  if (good.tool !== poor.tool && good.tool !== undefined) return { kind: "other-tool" };
  if (last && last.step !== good.step) return { kind: "came-back" };
  return Date.parse(good.at) - Date.parse(poor.at) >= WAITED_MS ? { kind: "waited" } : null;
}

/** Faults seen more than once, things he started at, and trouble catching him, most often first. */
export function habitsOf(outings: readonly FoldedOuting[]): OldHabit[] {
  const faults = new Map<string, { kind: "fault"; step: StepId; fault: Fault; times: number }>();
  const things = new Set<string>();
  let caught: OldHabit | null = null;
  for (const { events, head } of outings) {
    const how = textOf(head["caught"]);
    if (how !== null && HARD_TO_CATCH.has(how))
      caught = { kind: "caught", how, seconds: numberOf(head["caughtSeconds"]) };
    for (const event of events) {
      const thing = event.type === "startle" ? textOf(event.thing) : null;
      if (thing !== null) things.add(thing);
      if (!isAsk(event) || event.fault === undefined) continue;
      const key = `${event.step} ${event.fault}`;
      const times = (faults.get(key)?.times ?? 0) + 1;
      faults.set(key, { kind: "fault", step: event.step, fault: event.fault, times });
    }
  }
  return [
    ...(caught ? [caught] : []),
    ...[...faults.values()].filter(({ times }) => times >= FEW).toSorted((a, b) => b.times - a.times),
    ...[...things].map((thing): OldHabit => ({ kind: "startle", thing })),
  ].slice(0, SHOWN);
}

const HARD_TO_CATCH = new Set(["walked-off", "ran", "cornered", "not-caught"]);
