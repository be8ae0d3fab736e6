import {
  isAsk,
  SIGNS_OF_EASE,
  type AskEvent,
  type FoldedOuting,
  type FoldedRecord,
  type Day,
  type EventOf,
  type SeriesEvent,
  type Side,
  type StepId,
} from "../record";
import { heirsOf, type JudgeNumbers, type Program } from "../programs";
import {
  addDay,
  asAskOf,
  askOfDwell,
  isFormerUnsaid,
  isOfFormerShape,
  NOTHING_SAID,
  sideOfAsk,
  type OutingFacts,
} from "../evidence";
import { aboutOf, isCarried } from "./about";
import { noteDay } from "./away";
import { formerReading, layFormerBeside } from "./former";
import { holdsOnItsOwn, meetsElsewhere } from "./rules";
import { isSameSide, SIDE_BITS } from "./same-side";
import { createGathered, hasGateAhead, type Gathered, type SideState, type Since, type StepState } from "./states";
import { areNeedsMet } from "./status";

export type { Gathered } from "./states";

/** Goes on through later outings, in place; every one of them must have begun after those already seen. */
export function gatherOn(gathered: Gathered, outings: readonly FoldedOuting[]): Gathered {
  for (const outing of outings) {
    if (!takeWhole(gathered, outing)) continue;
    const former =
      gathered.former ?? layFormerBeside(gathered, createGathered(formerReading(gathered.program), gathered.about));
    takeWhole(former, outing);
    for (const gate of gathered.gates) gate.isAhead = null;
  }
  return gathered;
}

/** @returns whether any of its asks is of the former shape */
function takeWhole(gathered: Gathered, outing: FoldedOuting): boolean {
  const since = { outing: gathered.outings, day: outing.day };
  noteDay(gathered.away, outing.day, gathered.program.judge);
  const { isWorked, isShown, hasFormer } = takeOuting(gathered, outing, since);
  if (isWorked) settle(gathered, since);
  if (gathered.away.ground > 0 && isShown && !isRidden(gathered, since)) gathered.away.ground -= 1;
  gathered.outings += 1;
  return hasFormer;
}

/** Whether an outing asked anything for which a person is on him. */
const isRidden = ({ gates }: Gathered, { outing }: Since): boolean =>
  gates.some(({ beyond }) => beyond.some(({ workedIn }) => workedIn?.outing === outing));

/** Whether an outing asked anything of a step, whether any of it came clean, and whether any is of the former shape. */
interface Taken {
  isWorked: boolean;
  isShown: boolean;
  hasFormer: boolean;
}

/**
 * Goes through a folded record once, outing by outing, and keeps for each side since when it was steady.
 *
 * @param program with this horse's own standards in it
 * @param wholeHistory a step whose asks are all kept for showing, not only those that still carry weight
 */
export function gather(folded: FoldedRecord, program: Program, wholeHistory?: string): Gathered {
  return gatherOn(createGathered(program, aboutOf(folded), wholeHistory), folded.outings);
}

const EASE: ReadonlySet<string> = new Set(SIGNS_OF_EASE);

function noteCanter(
  { gait, unasked, work, direction }: EventOf<"gait">,
  canter: { near: boolean; off: boolean },
): void {
  if (gait !== "canter" || unasked === true || work === "ridden") return;
  if (direction !== "off") canter.near = true;
  if (direction !== "near") canter.off = true;
}

interface Stretched {
  step: StepId;
  /** Unsaid: on both. */
  way: Side | undefined;
}

function waysOf(stretched: readonly Stretched[], step: StepId): OutingFacts["stretched"] {
  const own = stretched.filter((one) => one.step === step);
  return { near: own.some(({ way }) => way !== "off"), off: own.some(({ way }) => way !== "near") };
}

/** What is known of the side an ask is of; null where it says too little to be one of the step's. */
function stateOfSide({ step, sides }: StepState, event: AskEvent | SeriesEvent): SideState | null {
  const key = sideOfAsk(event, step);
  for (const one of sides) if (one.side === key) return one;
  return null;
}

/** What is known of the steps that entries of this one are of: itself, or what a later edition made of it. */
function statesOf({ byId }: Gathered, step: StepId): readonly StepState[] {
  const own = byId.get(step);
  return own ? [own] : heirsOf(step).flatMap((heir) => byId.get(heir) ?? []);
}

function takeOuting(gathered: Gathered, outing: FoldedOuting, since: Since): Taken {
  const touched: StepState[] = [];
  const { place, handler: person } = outing.head;
  const shutDown: string[] = [];
  const canter = { near: false, off: false };
  /** Steps in whose work a sign of ease was seen: it says nothing of the others. */
  const easedIn: StepId[] = [];
  /** Where he was seen to stretch, and on which rein. */
  const stretched: Stretched[] = [];
  let inHand: StepId | null = null;
  let way: Side | undefined;
  /** Asked since the side was said otherwise; its side is only read where something wants to know it. */
  let asked: AskEvent | SeriesEvent | null = null;
  let isCheckUp = false;
  let isShown = false;
  let hasFormer = false;
  // Asks of one step mostly follow each other.
  let last: StepId | null = null;
  let states: readonly StepState[] = [];
  const seen = (to: StepId[]): void => {
    if (inHand !== null) to.push(...statesOf(gathered, inHand).map((one) => one.step.id));
  };
  for (const event of outing.events) {
    switch (event.type) {
      case "ask":
      case "series": {
        const { step } = event;
        inHand = step;
        asked = event;
        if (last !== step) {
          last = step;
          states = statesOf(gathered, step);
        }
        for (const state of states) {
          const own = asAskOf(event, state.step);
          takeAsk(state, own, since, touched);
          for (const variant of state.variants) takeAsk(variant, own, since, touched);
          if (!isOfFormerShape(own)) continue;
          hasFormer = true;
          if (isFormerUnsaid(own, state.step)) noteFormer(state, own, since.day);
        }
        break;
      }
      case "dwell": {
        const stood = event.step === undefined ? undefined : gathered.byId.get(event.step);
        const shown = askOfDwell(event, stood?.step);
        if (!stood || !shown) break;
        inHand = stood.step.id;
        asked = shown;
        takeAsk(stood, shown, since, touched);
        for (const variant of stood.variants) takeAsk(variant, shown, since, touched);
        break;
      }
      case "spurt":
        inHand = event.edge === "start" ? (event.step ?? inHand) : null;
        way = event.side ?? asked?.side ?? way;
        asked = null;
        break;
      case "side-change":
        way = event.to;
        asked = null;
        break;
      case "offer": {
        for (const offered of statesOf(gathered, event.step))
          noteOuting(offered, since.outing, gathered.program).offers.push({ id: event.id, outing: since.outing });
        break;
      }
      case "sign":
        if (event.sign === "shut-down") shutDown.push(event.id);
        else if (EASE.has(event.sign)) seen(easedIn);
        break;
      case "gait":
        noteCanter(event, canter);
        break;
      case "frame":
        if (event.frame === "stretches" && inHand !== null)
          stretched.push({ step: inHand, way: event.direction ?? asked?.side ?? way });
        break;
      case "mishap":
        if (inHand !== null)
          for (const state of statesOf(gathered, inHand))
            for (const one of [state, ...state.variants]) takeMishap(one, event.id, asked?.side ?? way, since, touched);
        break;
      case "check-up":
        isCheckUp = true;
        break;
      default:
    }
  }
  if (touched.length === 0) return { isWorked: false, isShown: false, hasFormer };
  const said: OutingFacts = { ...NOTHING_SAID, shutDown, canter, place, person };
  for (const worked of touched) {
    const facts =
      easedIn.length === 0 && stretched.length === 0
        ? said
        : { ...said, eased: easedIn.includes(worked.step.id), stretched: waysOf(stretched, worked.step.id) };
    worked.workedIn = since;
    worked.mayTurn = true;
    noteOuting(worked, since.outing, gathered.program);
    for (const side of worked.sides) {
      if (!side.evidence.isOpen) continue;
      if (closeSide(worked, side, facts, gathered.program.judge)) {
        worked.cleanOn |= SIDE_BITS[side.side];
        isShown = true;
      }
      const visit = side.evidence.visits.at(-1);
      if (visit && worked.rung === null) addDay(gathered.days, side.evidence.visits.at(-2), visit);
      if (visit && visit.not > 0) side.checkedOn = null;
      else if (isCheckUp && visit && visit.clean > 0) side.checkedOn = since.day;
    }
  }
  freshenUnder(gathered, since.day);
  return { isWorked: true, isShown, hasFormer };
}

/** Takes an ask of a step. @param touched the steps of which this outing asked anything, each once; this one is added */
function takeAsk(state: StepState, event: AskEvent | SeriesEvent, { outing, day }: Since, touched: StepState[]): void {
  const side = stateOfSide(state, event);
  if (!side) return;
  if (!side.evidence.isOpen && !touched.includes(state)) touched.push(state);
  const workedBefore = state.workedIn !== null;
  if (isAsk(event)) side.evidence.ask(event, outing, day, workedBefore);
  else side.evidence.series(event, outing, day, workedBefore);
}

/** Notes a mishap with the step that was worked: on the side in hand, or on all of them where that is not known. */
function takeMishap(
  state: StepState,
  id: string,
  way: Side | undefined,
  { outing, day }: Since,
  touched: StepState[],
): void {
  if (!touched.includes(state)) touched.push(state);
  for (const { side, evidence } of state.sides)
    if (way === undefined || isSameSide(side, way)) evidence.upset(id, outing, day);
}

function noteFormer(state: StepState, event: AskEvent | SeriesEvent, day: Day): void {
  const { asks = 0, from = day } = state.formerAsks ?? {};
  const count = isAsk(event) ? 1 : event.count;
  state.formerAsks = { asks: asks + count, from, to: day };
}

/** Notes that a step was asked or offered in an outing, and lets go of offers from before the last outings. */
function noteOuting(state: StepState, outing: number, { judge }: Program): StepState {
  if (state.outings.at(-1) === outing) return state;
  state.outings.push(outing);
  while (state.outings.length > judge.recent) state.outings.shift();
  const from = state.outings[0] ?? 0;
  if (state.offers.length > 0) state.offers = state.offers.filter((offer) => offer.outing >= from);
  return state;
}

/** Ends an outing on a side. @returns whether it was shown clean in it, and not missed cold */
function closeSide(state: StepState, side: SideState, facts: OutingFacts, numbers: JudgeNumbers): boolean {
  const isWay = side.side === "near" || side.side === "off";
  side.evidence.close(facts, isWay ? (side.side as "near" | "off") : "none");
  side.holds = holdsOnItsOwn(state, side.evidence, numbers, side.holds);
  const { known } = side;
  known.rules = null;
  known.answers = null;
  known.least = null;
  const last = side.evidence.visits.at(-1);
  return last !== undefined && last.clean > 0 && last.cold !== false;
}

/** A clean ask freshens all its step rests on: the same side where both have sides, a leg that of its side, else all of it. */
function freshenUnder({ inOrder }: Gathered, day: Day): void {
  for (let index = inOrder.length - 1; index >= 0; index -= 1) {
    const state = inOrder[index];
    if (!state || state.cleanOn === 0) continue;
    for (const under of state.under) under.cleanOn |= state.cleanOn;
    for (const { freshenedBy, evidence } of state.sides)
      if ((state.cleanOn & freshenedBy) !== 0) evidence.fresh.freshen(day);
    state.cleanOn = 0;
  }
}

/** Whether a side that was never steady has by itself all that it has to have. */
const standsAtLast = (side: SideState): boolean => side.steadySince === null && side.holds;

function anyStandsAtLast(state: StepState): boolean {
  for (const side of state.sides) if (standsAtLast(side)) return true;
  return false;
}

/** After an outing that asked something: which sides are steady for the first time? Needs stand before what rests on them, so one pass is enough. */
function settle(gathered: Gathered, since: Since): void {
  const { about, program } = gathered;
  const judging = { program, about, today: since.day };
  for (const state of gathered.inOrder) {
    if (!state.mayTurn) continue;
    // Until it is worked again nothing of its own changes; what it rests on may.
    state.mayTurn = anyStandsAtLast(state);
    if (!state.mayTurn) continue;
    const mayBe = isCarried(about, state.step.id) || areNeedsMet(state, judging);
    if (!mayBe) continue;
    const isGateAhead = hasGateAhead(state, about);
    for (const side of state.sides) {
      if (!standsAtLast(side) || side.evidence.fresh.isCheckDue(since.day, isGateAhead)) continue;
      const elsewhere = meetsElsewhere(state, side.evidence, program.judge);
      if (elsewhere !== "no") side.readySince ??= since;
      if (elsewhere !== "yes") continue;
      side.steadySince = since;
      for (const gate of gathered.gates) gate.isAhead = null;
    }
  }
}
