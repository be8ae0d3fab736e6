import { addDays, type AskEvent, type Day, type Setting } from "../record";
import type { JudgeNumbers, Step } from "../programs";
import { inFull, isSureEnough, NOTHING_SAID, type Shown, type SideEvidence } from "../evidence";
import { elsewhereOf, holdsOnItsOwn, whyNotEarned } from "./rules";
import type { SideState, StepState } from "./states";
import type { FindingCode, LeastWork } from "./types";

const MOST_DAYS = 60;
/** So many clean asks one quiet outing gives. */
const OUTING_ASKS = 4;
const MOST_ASKS = 120;

/** What is looked for: the work one side of a step still takes on a day. */
interface Search {
  state: StepState;
  side: SideState;
  numbers: JudgeNumbers;
  today: Day;
  /** The step was asked in an earlier outing, on any side. */
  workedBefore: boolean;
}

/**
 * Found by trying it on a copy of the evidence: the fewest further days first, then the fewest asks. Each ask is taken as clean at
 * the standard, quiet and true. Null where even many days would not do.
 */
export function leastWork(search: Search): LeastWork | null {
  const { state, side, numbers, workedBefore } = search;
  if (side.evidence.asked > 0) return searchFor(search);
  // Before the first ask all sides with the same bar take the same.
  const { kind, still, elsewhere, standard } = state.step;
  const key = [state.bar.kind, kind, still, standard.phase, standard.mood, elsewhere.join(), workedBefore].join();
  let known = ofUntried.get(numbers);
  if (!known) ofUntried.set(numbers, (known = new Map()));
  let work = known.get(key);
  if (work === undefined) known.set(key, (work = searchFor(search)));
  return work;
}

const ofUntried = new WeakMap<JudgeNumbers, Map<string, LeastWork | null>>();

function searchFor({ state, side, numbers, today, workedBefore }: Search): LeastWork | null {
  const { evidence } = side;
  // A lucky answer that is still to be proven shows its place and person, and whether he stood, once it is.
  const shown = evidence.lucky().length > 0 ? shownOnceProven(evidence, today, workedBefore) : evidence.shown;
  const elsewhere = elsewhereOf(state, shown, numbers).filter(({ met }) => !met);
  const further = (what: "place" | "person", need: number): number =>
    elsewhere.some((one) => one.what === what) ? need - (what === "place" ? shown.places : shown.people).length : 0;
  const missing = side.holds ? [] : whyNotEarned(state, evidence, numbers);
  const extra = {
    missing,
    places: further("place", numbers.places),
    people: further("person", numbers.people),
    settings: elsewhere.some(({ what }) => what === "settings")
      ? (["standing", "moving"] as const).filter((one) => !shown.settings.includes(one))
      : [],
    stretch: elsewhere.some(({ what }) => what === "stretch"),
    ease: missing.includes("not-proven-relaxed"),
  };
  const outingsAtLeast = Math.max(1, further("place", numbers.places), further("person", numbers.people));
  if (missing.length === 0) return { asks: 0, days: 0, outings: 0, later: false, ...extra };

  const from = evidence.lastDay !== null && evidence.lastDay > today ? evidence.lastDay : today;
  const starts = evidence.lastDay === from ? [false, true] : [false];
  const found = starts.flatMap((later) => {
    const trial: Trial = { state, evidence, numbers, first: addDays(from, later ? 1 : 0), workedBefore };
    const fewest = fewestFor(trial, outingsAtLeast);
    return fewest ? [{ ...fewest, later, trial }] : [];
  });
  const [best] = found.toSorted((a, b) => a.days - b.days || a.asks - b.asks || Number(a.later) - Number(b.later));
  if (!best) return null;
  const { asks, days, later } = best;
  return {
    asks,
    days,
    outings: days === 1 && asks <= OUTING_ASKS ? 1 : outingsOfSome(best.trial),
    later,
    ...extra,
  };
}

/** What is shown once the next ask proves what is lucky until now; standing or moving only as far as the ask that proves it need not say so. */
function shownOnceProven(evidence: SideEvidence, today: Day, workedBefore: boolean): Shown {
  const [standing, moving] = (["standing", "moving"] as const).map(
    (setting) => tryOuting(evidence, today, 1, workedBefore, setting).shown,
  ) as [Shown, Shown];
  return { ...standing, settings: standing.settings.filter((one) => moving.settings.includes(one)) };
}

/** Outings tried on a copy of a side, one a day from a first day on. */
interface Trial {
  state: StepState;
  evidence: SideEvidence;
  numbers: JudgeNumbers;
  first: Day;
  workedBefore: boolean;
}

/** The side after so many outings of one clean ask each. */
function afterOneADay({ evidence, first, workedBefore }: Trial, outings: number): SideEvidence {
  const copy = evidence.fork();
  for (let outing = 0; outing < outings; outing += 1)
    playOuting(copy, dayAfter(first, outing), 1, workedBefore || outing > 0);
  return copy;
}

/**
 * The fewest days, and then the fewest clean asks over them: one in each outing but the last, the rest in that; on the last day as many
 * outings as there are left.
 */
function fewestFor(trial: Trial, outingsAtLeast: number): { days: number; asks: number } | null {
  const { state, numbers, first, workedBefore } = trial;
  const daily = afterOneADay(trial, 0);
  for (let days = 1; days <= MOST_DAYS; days += 1) {
    const lastDay = dayAfter(first, days - 1);
    playOuting(daily, lastDay, 1, workedBefore || days > 1);
    // Several outings on the last day show more than one does.
    let single = daily;
    for (let outing = days; outing < outingsAtLeast; outing += 1) single = tryOuting(single, lastDay, 1, true);
    const outings = Math.max(days, outingsAtLeast);
    const missing = whyNotEarned(state, single, numbers);
    if (missing.length === 0) return { days, asks: outings };
    // Only what more asks can mend is worth trying.
    if (state.step.kind !== "moment" || missing.some((code) => !BY_ASKS.includes(code))) continue;
    let before = afterOneADay(trial, days - 1);
    for (let outing = days; outing < outingsAtLeast; outing += 1)
      before = tryOuting(before, lastDay, 1, workedBefore || outing > 1);
    // What is still to be proven weighs more once it is: then every number has to be tried.
    const atLeast = before.lucky().length > 0 ? 2 : enoughFor(state.bar.sure, before, numbers);
    for (let asks = atLeast; asks <= MOST_ASKS; asks += 1) {
      const after = tryOuting(before, lastDay, asks, workedBefore || outings > 1);
      if (whyNotEarned(state, after, numbers).length === 0) return { days, asks: outings - 1 + asks };
    }
  }
  return null;
}

/** How many outings on days running it takes where each has four and three clean asks by turns. */
function outingsOfSome({ state, evidence, numbers, first, workedBefore }: Trial): number {
  const copy = evidence.fork();
  for (let outing = 0; outing < MOST_DAYS; outing += 1) {
    const asks = state.step.kind === "moment" ? OUTING_ASKS - (outing % 2) : 1;
    playOuting(copy, dayAfter(first, outing), asks, workedBefore || outing > 0);
    if (holdsOnItsOwn(state, copy, numbers, false)) return outing + 1;
  }
  return MOST_DAYS;
}

/** What more asks of one outing can mend. */
const BY_ASKS: readonly FindingCode[] = ["clean-share", "lately", "light"];

/** How many clean asks in one outing make both memories sure, from two on; where the day has begun before it takes more. */
function enoughFor(sure: number, { memories }: SideEvidence, numbers: JudgeNumbers): number {
  const { forgetBy, forgetPer, longPer, laterAsks, share, latelySure } = numbers;
  const isEnough = (clean: number, not: number, more: number, per: number, wanted: number): boolean => {
    const keep = forgetBy ** (more / per);
    return isSureEnough(clean * keep + more, not * keep, share, wanted);
  };
  const { weightClean, weightNot, longClean, longNot } = memories;
  for (let asks = 2; asks <= MOST_ASKS; asks += 1)
    if (
      isEnough(longClean, longNot, 1 + (asks - 1) * laterAsks, longPer, sure) &&
      isEnough(weightClean, weightNot, asks, forgetPer, latelySure)
    )
      return asks;
  return MOST_ASKS + 1;
}

const EASY = { ...NOTHING_SAID, eased: true };

/** A copy of a side after one more outing with so many clean asks and a sign of ease. */
export function tryOuting(
  side: SideEvidence,
  day: Day,
  asks: number,
  workedBefore: boolean,
  setting?: Setting,
): SideEvidence {
  const copy = side.fork();
  playOuting(copy, day, asks, workedBefore, setting);
  return copy;
}

/** One more outing with so many clean asks and a sign of ease, on this very side. */
function playOuting(side: SideEvidence, day: Day, asks: number, workedBefore: boolean, setting?: Setting): void {
  const outing = (side.visits.at(-1)?.outing ?? 0) + 1;
  const ask = setting ? { ...askFor(side.step), setting } : askFor(side.step);
  for (let n = 0; n < asks; n += 1) side.ask(ask, outing, day, workedBefore);
  side.close(EASY, "none");
}

const asksFor = new WeakMap<Step, AskEvent>();
/** A clean ask of a step, just at its standard. */
function askFor(step: Step): AskEvent {
  let ask = asksFor.get(step);
  if (!ask) {
    const { phase, mood } = step.standard;
    const said = { phase: phase ?? undefined, mood, ...inFull(step) };
    asksFor.set(step, (ask = { type: "ask", v: 2, id: "try", at: "", step: "", answer: "gave", ...said }));
  }
  return ask;
}

let counted: { first: Day; days: Day[] } = { first: "", days: [] };
/** So many days after a first one; they are counted on from one and the same day again and again. */
function dayAfter(first: Day, count: number): Day {
  if (counted.first !== first) counted = { first, days: [] };
  return (counted.days[count] ??= addDays(first, count));
}
