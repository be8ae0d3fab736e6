import { dayIn, foldRecord, type Day, type FoldedRecord, type HorseRecord } from "../record";
import type { JudgeNumbers, Program } from "../programs";
import type { SideEvidence } from "../evidence";
import { gather, sideStatus, stands, stepStatus, type Gathered, type SideState, type StepState } from "./gather";
import { freshFinding, round, sideFindings, whyNotOnItsOwn } from "./rules";
import { leastWork } from "./to-open";
import { openInWords } from "./words";
import { STATUSES, type Finding, type FindingCode, type Judgement, type OpenAction, type SideJudgement } from "./types";

/** A gap between the sides is named from this difference in the share of clean asks on [0, 1], with three asks on each. */
const GAP_AT_LEAST = 0.25;

/**
 * Judges every step of a program from a horse's record.
 *
 * @param record as parsed; order and repeats do not matter
 * @param now ISO 8601 instant; its day in the yard's zone decides what has grown rusty
 * @returns one judgement a step, in catalogue order
 */
export function judgeRecord(record: HorseRecord, program: Program, now: string): Judgement[] {
  return judgeFolded(foldRecord(record), program, dayIn(record.yard.timeZone, now));
}

/** As `judgeRecord`, from a record already folded and a day of the yard. */
export function judgeFolded(folded: FoldedRecord, program: Program, today: Day): Judgement[] {
  return judgeGathered(gather(folded, program), today);
}

/** As `judgeRecord`, from evidence already gathered. */
export function judgeGathered(gathered: Gathered, today: Day): Judgement[] {
  return gathered.steps.map((state) => judgeStep(state, gathered.program, today));
}

function judgeStep(state: StepState, program: Program, today: Day): Judgement {
  const numbers = program.judge;
  const sides: Judgement["sides"] = {};
  for (const side of state.sides) sides[side.side] = judgeSide(side, numbers, today);
  const findings = [
    ...state.sides.flatMap((side) => ownFindings(side, numbers, today)),
    ...bothSides(state, numbers, today),
    ...restsOn(state, numbers, today),
  ];
  return {
    step: state.step.id,
    status: stepStatus(state, numbers, today),
    held: false,
    sides,
    findings,
    toOpen: toOpen(state, program, today),
  };
}

function judgeSide(side: SideState, numbers: JudgeNumbers, today: Day): SideJudgement {
  const { evidence } = side;
  return {
    status: sideStatus(side, numbers, today),
    weightClean: round(evidence.weightClean),
    weightNot: round(evidence.weightNot),
    sure: round(evidence.sure()),
    days: evidence.days,
    lastClean: evidence.lastClean,
  };
}

/** Rules 1, 3, 4, 5 and 7 of one side, and what its answers are like. */
function ownFindings(side: SideState, numbers: JudgeNumbers, today: Day): Finding[] {
  const { evidence } = side;
  if (evidence.asked === 0) return [];
  const key = side.side;
  const found: Finding[] = sideFindings(evidence, numbers);
  if (side.steadyAfter !== null) found.push(freshFinding(evidence, today));
  const shutDown = evidence.shutDown();
  for (const code of ["reacts", "dull", "braced"] as const) {
    const ids = evidence.corner(code);
    if (ids.length > 0) found.push({ code, met: false, have: ids.length, need: 0, evidence: ids });
  }
  if (shutDown.length > 0)
    found.push({ code: "shut-down", met: false, have: shutDown.length, need: 0, evidence: shutDown });
  const lucky = evidence.lucky();
  if (lucky.length > 0) found.push({ code: "lucky", met: false, have: lucky.length, need: 0, evidence: lucky });
  return found.map(({ code, met, ...rest }) => ({ code, met, side: key, ...rest }));
}

/** Rule 2, and the gap between the sides by name. */
function bothSides(state: StepState, numbers: JudgeNumbers, today: Day): Finding[] {
  if (state.sides.length < 2 || state.sides.every((side) => side.evidence.asked === 0)) return [];
  const have = Object.fromEntries(state.sides.map((side) => [side.side, sideStatus(side, numbers, today)]));
  const met = state.sides.every((side) => side.evidence.asked > 0 && stands(side, numbers));
  const found: Finding[] = [{ code: "both-sides", met, have, need: "each by itself", evidence: [] }];

  const share = ({ weightClean, weightNot }: SideEvidence): number => weightClean / (weightClean + weightNot);
  const [weaker, stronger] = state.sides.toSorted((a, b) => share(a.evidence) - share(b.evidence));
  if (!weaker || !stronger || weaker.evidence.count < 3 || stronger.evidence.count < 3) return found;
  const low = share(weaker.evidence);
  const high = share(stronger.evidence);
  if (high - low >= GAP_AT_LEAST)
    found.push({ code: "side-gap", met: false, side: weaker.side, have: round(low), need: round(high), evidence: [] });
  return found;
}

/** Rule 8: a finding for each need, and a warning where one slipped after this step was steady. */
function restsOn(state: StepState, numbers: JudgeNumbers, today: Day): Finding[] {
  const wasSteady = state.sides.every((side) => side.steadyAfter !== null);
  return state.needs.flatMap((need) => {
    const words = need.map((one) => ({ step: one.step.id, status: stepStatus(one, numbers, today) }));
    const best = words.toSorted((a, b) => STATUSES.indexOf(b.status) - STATUSES.indexOf(a.status))[0];
    if (!best) return [];
    const wanted = { anyOf: words.map((word) => word.step), status: "steady" };
    const found: Finding[] = [
      { code: "rests-on", met: best.status === "steady", have: { ...best }, need: wanted, evidence: [] },
    ];
    if (wasSteady && best.status === "slipped")
      found.push({ code: "needs-slipped", met: false, have: { ...best }, need: wanted, evidence: [] });
    return found;
  });
}

/** The least that would make the step steady, side by side; empty when it is. */
function toOpen(state: StepState, program: Program, today: Day): OpenAction[] {
  const numbers = program.judge;
  const actions: Omit<OpenAction, "text">[] = [];
  const neverSteady = state.sides.some((side) => side.steadyAfter === null);
  if (neverSteady)
    for (const need of state.needs)
      if (!need.some((one) => stepStatus(one, numbers, today) === "steady")) {
        const [first] = need;
        if (first) actions.push({ code: "rests-on", step: first.step.id });
      }
  for (const side of state.sides) {
    if (sideStatus(side, numbers, today) === "steady") continue;
    const work = leastWork(side.evidence, numbers, today, state.workedIn !== null);
    if (!work) continue;
    const after = (code: FindingCode): number => work.afterOutings.get(code) ?? work.outings;
    // The very first outing of a step has no cold ask: nothing was there to stay.
    const counts = {
      "clean-share": work.asks,
      light: work.asks,
      "different-days": after("different-days"),
      "cold-asks": after("cold-asks") - (state.workedIn === null ? 1 : 0),
      relaxed: after("relaxed"),
    };
    const missing = new Set(whyNotOnItsOwn(side.evidence, numbers));
    for (const code of ["clean-share", "light", "different-days", "cold-asks", "relaxed"] as const)
      if (missing.has(code)) actions.push({ code, side: side.side, count: counts[code] });
    if (work.asks === 0 && sideStatus(side, numbers, today) === "rusty")
      actions.push({ code: "fresh", side: side.side, count: 1 });
  }
  return actions.map((action) => ({ ...action, text: openInWords(action, program) }));
}
