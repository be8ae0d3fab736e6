import { addDays, type AskEvent, type Day, type Setting } from "../record";
import type { JudgeNumbers } from "../programs";
import { inFull, isSureEnough, NOTHING_SAID, type Shown, type SideEvidence } from "../evidence";
import { elsewhereOf, whyNotEarned } from "./rules";
import type { SideState, StepState } from "./states";
import type { FindingCode, LeastWork } from "./types";

const MOST_DAYS = 60;
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
  const ways = starts.map((later) => ({
    later,
    way: new OneADay(evidence, addDays(from, later ? 1 : 0), workedBefore),
  }));
  for (let days = 1; days <= MOST_DAYS; days += 1) {
    let best: { asks: number; later: boolean } | null = null;
    for (const { later, way } of ways) {
      const asks = fewestAsks(state, way, numbers, days, Math.max(days, outingsAtLeast));
      if (asks !== null && (best === null || asks < best.asks)) best = { asks, later };
    }
    if (best) return { ...best, days, outings: days === 1 ? 1 : outingsOfSome(state, ways[0]?.way, numbers), ...extra };
  }
  return null;
}

/** What is shown once the next ask proves what is lucky until now; standing or moving only as far as the ask that proves it need not say so. */
function shownOnceProven(evidence: SideEvidence, today: Day, workedBefore: boolean): Shown {
  const [standing, moving] = (["standing", "moving"] as const).map(
    (setting) => tryOuting(evidence, today, 1, workedBefore, setting).shown,
  ) as [Shown, Shown];
  return { ...standing, settings: standing.settings.filter((one) => moving.settings.includes(one)) };
}

/** How the evidence stands after so many outings of one clean ask each, on days running. */
class OneADay {
  private readonly after: SideEvidence[];

  constructor(
    evidence: SideEvidence,
    private readonly first: Day,
    private readonly workedBefore: boolean,
  ) {
    this.after = [evidence];
  }

  /** The day of an outing, the first being 0. */
  dayOf(outing: number): Day {
    return addDays(this.first, outing);
  }

  isWorked(outings: number): boolean {
    return this.workedBefore || outings > 0;
  }

  afterOutings(count: number): SideEvidence {
    let evidence = this.after[count];
    if (!evidence) {
      const before = this.afterOutings(count - 1);
      evidence = tryOuting(before, this.dayOf(count - 1), 1, this.isWorked(count - 1));
      this.after[count] = evidence;
    }
    return evidence;
  }
}

/** The fewest clean asks over so many days: one in each outing but the last, the rest in that; on the last day as many outings as there are left. */
function fewestAsks(
  state: StepState,
  way: OneADay,
  numbers: JudgeNumbers,
  days: number,
  outings: number,
): number | null {
  const lastDay = way.dayOf(days - 1);
  let before = way.afterOutings(days - 1);
  for (let n = days - 1; n < outings - 1; n += 1) before = tryOuting(before, lastDay, 1, way.isWorked(n));
  const after = (asks: number): SideEvidence => tryOuting(before, lastDay, asks, way.isWorked(outings - 1));
  const single = whyNotEarned(state, after(1), numbers);
  if (single.length === 0) return outings;
  // Only what more asks can mend is worth trying.
  if (state.step.kind !== "moment" || single.some((code) => !BY_ASKS.includes(code))) return null;
  // What is still to be proven weighs more once it is: then every number has to be tried.
  const atLeast = before.lucky().length > 0 ? 2 : enoughFor(state.bar.sure, before, numbers);
  for (let asks = atLeast; asks <= MOST_ASKS; asks += 1)
    if (whyNotEarned(state, after(asks), numbers).length === 0) return outings - 1 + asks;
  return null;
}

/** How many outings on days running it takes where each has four and three clean asks by turns. */
function outingsOfSome(state: StepState, way: OneADay | undefined, numbers: JudgeNumbers): number {
  if (!way) return MOST_DAYS;
  let evidence = way.afterOutings(0);
  for (let outing = 0; outing < MOST_DAYS; outing += 1) {
    evidence = tryOuting(
      evidence,
      way.dayOf(outing),
      state.step.kind === "moment" ? 4 - (outing % 2) : 1,
      way.isWorked(outing),
    );
    if (whyNotEarned(state, evidence, numbers).length === 0) return outing + 1;
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
  const { phase, mood } = side.standard;
  const outing = (side.visits.at(-1)?.outing ?? 0) + 1;
  const ask: AskEvent = {
    type: "ask",
    v: 2,
    ...inFull(side.step),
    id: `try-${outing}`,
    at: `${day}T10:00:00Z`,
    step: "",
    answer: "gave",
    phase: phase ?? undefined,
    mood,
    ...(setting ? { setting } : {}),
  };
  for (let n = 0; n < asks; n += 1) copy.ask(ask, outing, day, workedBefore);
  copy.close(EASY, "none");
  return copy;
}
