import {
  findStep,
  gatedRungOf,
  howMuchRestsOn,
  idsFor,
  placeOfRung,
  sidesOf,
  stepsMarked,
  type Program,
  type Step,
} from "../programs";
import { daysBetween, is, isAsk, type Day, type FoldedOuting, type StepId } from "../record";
import { ageFor, NEXT_REASONS, STATUSES, type Base, type Judgement, type NextStep, type WhatNext } from "../readiness";
import { aThirdMore, foldOuting, shutBefore, type Exercise, type FinishLine } from "../outing";
import { capsFor, leftOf } from "../workload";
import { outingsFor } from "../evidence";
import { lastTimeOf } from "./last-time";
import { isShownUpTo, rungsToBegin, rungsUpTo } from "./rung-to-begin";
import { habitsOf, lookBack, minutesOf } from "./look-back";
import type { Brief, HeldBack, Proposed } from "./types";

/** What the brief is made from. */
export interface BriefFacts {
  program: Program;
  judgements: readonly Judgement[];
  next: WhatNext;
  /** Outings of late, earliest first. */
  outings: readonly FoldedOuting[];
  /** Different days of work so far, and the first of them. */
  workDays: number;
  firstDay: Day | null;
  today: Day;
  monthsAtLeast: number;
}

const COLD_MOST = 3;
const LATE_OUTINGS = 5;

/** What a horse's record says before going in: where the last outing ended, what to check cold, where to work, and what is enough. */
export function writeBrief(asked: BriefFacts): Brief {
  const { program, today, workDays, firstDay } = asked;
  const outings = outingsFor(program, asked.outings);
  const facts = { ...asked, outings };
  const last = asked.outings.at(-1);
  const daysSince = last ? daysBetween(last.day, today) : null;
  const { breakDays } = asked.next;
  const isSameDay = daysSince === 0;
  const nextTime = last ? nextTimeOf(last, facts) : null;
  const lengths = outings
    .slice(-LATE_OUTINGS)
    .map(minutesOf)
    .toSorted((a, b) => a - b);
  const checkCold = coldChecks(facts);
  return {
    workDay: workDays + (isSameDay ? 0 : 1),
    calendarDay: firstDay === null ? 1 : daysBetween(firstDay, today) + 1,
    last: last ? lookBack(facts.program, last, today) : null,
    nextTime,
    oldHabits: breakDays === null ? [] : habitsOf(outings),
    breakDays,
    heldBack: (nextTime?.heldBack ?? []).flatMap(({ step }) => proposed(facts, step, "again") ?? []),
    checkCold,
    edge: edgeOf(facts, nextTime?.steps ?? [], new Set(checkCold.map(({ step }) => step))),
    upTo: facts.next.upTo,
    shut: facts.next.shut,
    caps: capsOfDay(facts),
    usualMinutes: lengths[Math.floor(lengths.length / 2)] ?? null,
  };
}

const MS_A_MINUTE = 60_000;

/** The minutes for his age, less what the earlier outings of the day took. */
function capsOfDay({ program, outings, today, monthsAtLeast }: BriefFacts): Brief["caps"] {
  const caps = capsFor(monthsAtLeast);
  const earlier = { working: 0, inHand: 0 };
  for (const outing of outings.filter(({ day }) => day === today)) {
    const plan = { program, startedAt: outing.startedAt, exercises: [], known: [], caps };
    earlier.working += foldOuting(plan, outing.events).workingMs / MS_A_MINUTE;
    earlier.inHand += minutesOf(outing);
  }
  if (earlier.inHand === 0) return caps;
  return { ...caps, ...leftOf(caps, earlier), earlier: { ...earlier, working: Math.ceil(earlier.working) } };
}

/** What the review of an outing said to start with next. */
function nextTimeOf({ events }: FoldedOuting, facts: BriefFacts): Brief["nextTime"] {
  const said = events.findLast((event) => is(event, "next-time"));
  if (!said) return null;
  const steps = idsFor(facts.program, said.steps ?? []);
  const heldBack = steps.flatMap((step) => {
    const by = heldBackBy(facts, step);
    return by ? [{ step, ...by }] : [];
  });
  return { steps, text: said.text ?? null, heldBack };
}

/** What holds a step back today: the last shut gate before it, or the months of age the program waits for; null where nothing does. */
function heldBackBy({ next, program, monthsAtLeast }: BriefFacts, step: StepId): Omit<HeldBack, "step"> | null {
  const gate = shutBefore(next, step);
  if (gate) return { why: gate.why };
  const months = ageFor(program, step);
  return months !== null && monthsAtLeast < months ? { why: null, months } : null;
}

const isHeldBack = (facts: BriefFacts, step: StepId): boolean => heldBackBy(facts, step) !== null;

/** What is due, the lowest of the road first; then what wobbled, and what was steady and was longest not asked. What the work goes back to is worked, not checked. */
function coldChecks(facts: BriefFacts): Proposed[] {
  const isWorked = (step: StepId): boolean => facts.next.work.some((one) => one.step === step && one.reason === "base");
  const checks = facts.next.checkCold.filter(({ step }) => !isWorked(step));
  const due = checks.map(({ step }) => step);
  const overdue = checks.filter(({ reason }) => reason !== "soon").length;
  const wobbles = ({ findings }: Judgement): boolean => findings.some(({ code }) => code === "wobble");
  const steady = facts.judgements
    .filter(({ status, step, lastAsked }) => status === "steady" && lastAsked !== null && !due.includes(step))
    .filter(({ step }) => !isWorked(step) && !isHeldBack(facts, step))
    .toSorted((a, b) => Number(wobbles(b)) - Number(wobbles(a)) || (a.lastAsked ?? "").localeCompare(b.lastAsked ?? ""))
    .map(({ step }) => step);
  // Where more is due than that, the lowest come first, as many as a card holds pieces: each takes one ask a side.
  const most = Math.max(COLD_MOST, Math.min(overdue, facts.program.coach.pieces));
  return [...due, ...steady].slice(0, most).flatMap((id) => proposed(facts, id, "cold") ?? []);
}

/** What the last review chose, and pieces of the road: where work is, and what may follow once a piece on this card is good today. */
function edgeOf(facts: BriefFacts, again: readonly string[], taken: ReadonlySet<string>): Proposed[] {
  const { newPieces } = facts.program.coach;
  // Checks beyond the usual few stand in the place of other pieces.
  const pieces = facts.program.coach.pieces - Math.max(0, taken.size - COLD_MOST);
  // A card holds no step twice, and what a person chose stands, but not before a gate that is shut.
  const chosen = [...new Set(again)]
    .filter((step) => !isHeldBack(facts, step))
    .flatMap((step) => proposed(facts, step, "again", nextOf(facts, step)?.after) ?? []);
  const road = piecesOf(facts).filter(({ step }) => !taken.has(step) && !chosen.some((one) => one.step === step));
  // On his first day all is new to him.
  const newMost = facts.workDays === 0 ? pieces : newPieces;
  const isOnCard = (step: StepId): boolean => taken.has(step) || chosen.some((one) => one.step === step);
  while (chosen.length < pieces) {
    const isNewLeft = chosen.filter(({ outings, why }) => outings === 0 && why !== "again").length < newMost;
    const at = road.findIndex(({ after = [] }) => after.every(({ step, stands }) => stands || isOnCard(step)));
    const next = road[at];
    if (!next) break;
    road.splice(at, 1);
    const one = proposed(facts, next.step, next.reason, next.after);
    if (one && (isNewLeft || one.outings > 0)) chosen.push(one);
  }
  return chosen.map((one) => withLineOfChain(facts, one, chosen));
}

const nextOf = ({ next }: BriefFacts, step: StepId): NextStep | undefined =>
  [...next.work, ...next.follow].find((one) => one.step === step);

/** Reasons of what simply comes next. */
const OF_ROAD: readonly NextStep["reason"][] = ["gate", "longest", "untried"];

/**
 * Pieces of the road that may be worked today or may follow: what slipped and what is gone back to, then what an open gate stood before,
 * then by their reason; of those alike the one on which most rests, then what lay longest, then what may be worked now.
 */
function piecesOf({ program, next: { work, follow } }: BriefFacts): NextStep[] {
  const opened = new Set(program.gates.flatMap(({ before }) => before));
  stepsMarked(program, "onto-him").forEach(({ id }) => opened.add(id));
  const rank = ({ step, reason }: NextStep): number =>
    NEXT_REASONS.indexOf(opened.has(step) && OF_ROAD.includes(reason) ? "base" : reason);
  const resting = ({ step }: NextStep): number => howMuchRestsOn(program, step);
  return [...work, ...follow]
    .filter(({ reason }) => !NOT_NOW.includes(reason))
    .toSorted((a, b) => rank(a) - rank(b) || resting(b) - resting(a) || (b.days ?? -1) - (a.days ?? -1));
}

/** What another piece of the card waits for is enough once it is good for today on the rung that counts; of something quite new a try is enough. */
function withLineOfChain({ program }: BriefFacts, one: Proposed, all: readonly Proposed[]): Proposed {
  const step = findStep(program, one.step);
  const waited = all.flatMap(({ after = [] }) => after.filter((base) => base.step === one.step && !base.stands));
  if (!step || waited.length === 0 || one.line.worth === "tried") return one;
  const placeOf = (rung: string | number | undefined): number =>
    rung === undefined ? step.ladder.standard : Math.max(0, placeOfRung(step.ladder, rung));
  const place = Math.max(...[one.line.rung, ...waited.map(({ rung }) => rung)].map(placeOf));
  const { rung: _less, ...line } = one.line;
  const rung = place < step.ladder.standard ? step.ladder.rungs[place]?.id : undefined;
  const least = step.kind === "moment" ? program.judge.enoughAsks : 1;
  return { ...one, line: { ...line, count: Math.max(line.count, least), ...(rung === undefined ? {} : { rung }) } };
}

function proposed(
  facts: BriefFacts,
  id: string,
  why: NextStep["reason"] | "again" | "cold",
  after: readonly Base[] = [],
): Proposed | null {
  const step = findStep(facts.program, id);
  const judgement = facts.judgements.find((one) => one.step === id);
  if (!step || !judgement || (judgement.held && why !== "cold")) return null;
  const most = (name: "days" | "outings"): number =>
    Math.max(0, ...Object.values(judgement.sides).map((side) => side[name]));
  const last = lastTimeOf(facts.program, facts.outings, id, judgement.sides);
  // Work on the smaller rungs is no new thing either, though it counts for nothing yet.
  const isNew = most("outings") === 0 && why !== "cold";
  const upTo = facts.next.upTo.find((one) => one.step === id)?.rung;
  const from = rungsUpTo(step, rungsToBegin(step, facts.outings, judgement.sides), upTo);
  // All that may be worked before the gate was shown: what is left waits for the gate.
  if (upTo !== undefined && why !== "again" && isShownUpTo(step, from, upTo)) return null;
  const asked = sidesOf(step).filter((side) => typeof judgement.sides[side]?.standardAsked === "string");
  const line =
    why === "cold" ? { count: 1, worth: "clean" as const } : lineFor(facts, step, judgement, last, isNew, from, upTo);
  const sticky = stickySide(step, judgement);
  const begin = beginOn(facts, step, sticky);
  return {
    step: id,
    line,
    isNew,
    sticky,
    ...(begin ? { begin } : {}),
    ...(Object.keys(from).length > 0 ? { from } : {}),
    ...(asked.length > 0 ? { asked } : {}),
    ...(after.length > 0 ? { after } : {}),
    last,
    why,
    days: most("days"),
    outings: most("outings"),
  };
}

/** The side the program begins on: the sticky one, the other one, or one after the other from work day to work day. */
function beginOn({ program, workDays }: BriefFacts, step: Step, sticky: Exercise["sticky"]): Exercise["begin"] {
  if (sidesOf(step).length !== 2) return undefined;
  if (program.ways.begin === "by-turns") return workDays % 2 === 0 ? "near" : "off";
  if (sticky === null) return undefined;
  return (program.ways.begin === "sticky") === (sticky === "near") ? "near" : "off";
}

/** Reasons that keep a step of the edge out of today's proposal. */
const NOT_NOW: readonly NextStep["reason"][] = ["held", "beside", "too-young", "bit-weeks"];

const SET = 3;
const LINE_MOST = 5;

/** What counts as enough: a try of something new; else what it lacks, no more than five, as light as it was the last time. */
function lineFor(
  facts: BriefFacts,
  step: Step,
  judgement: Judgement,
  last: Exercise["last"],
  isNew: boolean,
  from: NonNullable<Exercise["from"]>,
  upTo: string | undefined,
): FinishLine {
  // A first time is small: three tries, and of what he holds one.
  if (isNew) return { count: step.kind === "moment" ? SET : 1, worth: "tried" };
  const amount = { ...rungFor(facts.program, step, from, upTo), ...(upTo === undefined ? doseFor(facts, step) : {}) };
  if (step.kind !== "moment") return { count: 1, worth: "clean", ...amount };
  const lacking = judgement.toOpen.flatMap(({ code, count }) =>
    code === "clean-share" && count !== undefined ? [count] : [],
  );
  const count = lacking.length === 0 ? SET : Math.min(LINE_MOST, Math.max(2, ...lacking));
  const usual = Math.max(...Object.values(last).map(({ phase }) => phase ?? 0), 0);
  const most = step.standard.phase;
  return {
    count,
    worth: "clean",
    ...(most !== null && usual > most ? { phase: usual as NonNullable<FinishLine["phase"]> } : {}),
    ...amount,
  };
}

/** So many rungs a piece may come up in one outing. */
const RUNGS_MORE = 2;

/** Two rungs more than the side begins on that has less, no higher than the last before a shut gate; nothing where that is the standard. */
function rungFor(
  program: Program,
  step: Step,
  from: NonNullable<Exercise["from"]>,
  upTo: string | undefined,
): Pick<FinishLine, "rung"> {
  const { rungs, standard } = step.ladder;
  const places = sidesOf(step).map((side) =>
    Math.max(
      0,
      rungs.findIndex(({ id }) => id === from[side]),
    ),
  );
  const most = upTo === undefined ? rungs.length : placeOfRung(step.ladder, upTo);
  const least = Math.min(...places);
  // The first time past a gate within the ladder is its first rung beyond: a first tying is two minutes.
  const gated = gatedRungOf(program, step)?.place ?? Infinity;
  const place = Math.min(least + RUNGS_MORE, most, least <= gated ? gated + 1 : Infinity);
  const rung = rungs[place];
  return rung && place < standard ? { rung: rung.id } : {};
}

/** A third more than the last time, up to the standard; nothing where that is reached, no dose was written down, or the rungs say how much. */
function doseFor({ outings }: BriefFacts, { id, standard: { dose }, ladder }: Step): Pick<FinishLine, "dose"> {
  if (dose === null || dose.atMost || ladder.rungs.some((rung) => rung.dose !== undefined)) return {};
  const got = outings
    .flatMap(({ events }) => events.filter(isAsk))
    .filter((ask) => ask.step === id && ask.answer === "gave")
    .flatMap((ask) => ask.dose ?? ask.asked ?? [])
    .at(-1);
  if (got === undefined || got >= dose.amount) return {};
  return { dose: Math.min(dose.amount, aThirdMore(got)) };
}

const CLEAR_GAP = 0.1;

/** The weaker of two sides, where they clearly differ. */
function stickySide(step: Step, { sides }: Judgement): Exercise["sticky"] {
  if (sidesOf(step).length !== 2) return null;
  const { near, off } = sides;
  if (!near || !off) return null;
  const gap = STATUSES.indexOf(near.status) - STATUSES.indexOf(off.status);
  if (gap !== 0) return gap < 0 ? "near" : "off";
  const byShare = near.sure - off.sure;
  return Math.abs(byShare) < CLEAR_GAP ? null : byShare < 0 ? "near" : "off";
}
