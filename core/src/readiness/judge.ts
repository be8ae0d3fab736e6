import { dayIn, foldRecord, type Day, type FoldedRecord, type HorseRecord } from "../record";
import { saidOf, type JudgeNumbers, type Program } from "../programs";
import { idsOfGiven, type SideEvidence } from "../evidence";
import { aboutOf, adjustedProgram, holdsOn, isCarried } from "./about";
import { gather } from "./gather";
import type { Judging } from "./judging";
import { isGoodToday, Openings } from "./openings";
import { bothSides, elsewhereFindings, freshness, restsOn, round, sideFindings, wobbleOf } from "./rules";
import type { Gathered, SideState, StepState } from "./states";
import { areNeedsMet, sideStatus, stepStatus } from "./status";
import { Opener } from "./to-open";
import { openInWords } from "./words";
import type { Finding, Judgement, SideJudgement, Status } from "./types";

/**
 * Judges every step of a program from a horse's record.
 *
 * @param record as parsed; order and repeats do not matter
 * @param program judged by instead of the one chosen for this horse; his own standards are laid over it
 * @param now ISO 8601 instant; its day in the yard's zone decides what has grown rusty
 * @returns one judgement a step, in the order of the road
 */
export function judgeRecord(record: HorseRecord, program: Program, now: string): Judgement[] {
  return judgeFolded(foldRecord(record), program, dayIn(record.yard.timeZone, now));
}

/** As `judgeRecord`, from a record already folded and a day of the yard. */
export function judgeFolded(folded: FoldedRecord, program: Program, today: Day): Judgement[] {
  return judgeGathered(gather(folded, adjustedProgram(program, aboutOf(folded))), today);
}

/** As `judgeRecord`, from evidence already gathered. */
export function judgeGathered(gathered: Gathered, today: Day): Judgement[] {
  const judge = new Judge(gathered, today);
  return gathered.steps.map((state) => judge.step(state));
}

/** Judges one step, or a step as far as one rung. */
export function judgeState(gathered: Gathered, state: StepState, today: Day): Judgement {
  return new Judge(gathered, today).step(state);
}

class Judge {
  private readonly judging: Judging;
  private readonly opener: Opener;

  private readonly openings: Openings;

  constructor(gathered: Gathered, today: Day) {
    const { program, about } = gathered;
    this.judging = { program, about, today };
    this.openings = new Openings(gathered, today);
    this.opener = new Opener(this.judging);
  }

  step(state: StepState): Judgement {
    const { judging } = this;
    const sides: Judgement["sides"] = {};
    for (const side of state.sides) sides[side.side] = this.side(state, side);
    const status = stepStatus(state, judging);
    return {
      step: state.step.id,
      status,
      held: this.holdsOf(state).length > 0,
      sides,
      findings: [
        ...state.sides.flatMap((side) => this.ownFindings(state, side)),
        ...bothSides(state, judging),
        ...restsOn(state, judging),
        ...this.saidOf(state, status),
      ],
      toOpen: this.opener
        .actionsFor(state)
        .map((action) => ({ ...action, text: openInWords(action, judging.program) })),
      lastAsked: state.workedIn?.day ?? null,
      ...this.today(state, status),
    };
  }

  /** What today says of it besides its word: whether it is good for today, and on what it stands. */
  private today(state: StepState, status: Status): Pick<Judgement, "goodToday" | "standsOn"> {
    if (state.workedIn === null) return {};
    const goodToday = isGoodToday(state, this.judging.today) ? { goodToday: true as const } : {};
    if (status === "steady" || status === "rusty" || isCarried(this.judging.about, state.step.id)) return goodToday;
    if (areNeedsMet(state, this.judging)) return goodToday;
    const standsOn = this.openings.trustedBy(state);
    return standsOn.length > 0 ? { ...goodToday, standsOn } : goodToday;
  }

  private side(state: StepState, side: SideState): SideJudgement {
    const { evidence } = side;
    const { memories } = evidence;
    return {
      status: sideStatus(state, side, this.judging),
      weightClean: round(memories.weightClean),
      weightNot: round(memories.weightNot),
      longClean: round(memories.longClean),
      longNot: round(memories.longNot),
      sure: round(memories.sure("long")),
      lately: round(memories.sure("lately")),
      days: evidence.days,
      lastClean: evidence.fresh.lastClean,
      outings: evidence.outings,
      standardAsked: evidence.standardAsked,
    };
  }

  /** Rules 1 and 3 to 7 of one side, and what its answers are like. */
  private ownFindings(state: StepState, side: SideState): Finding[] {
    const { evidence, steadySince } = side;
    if (evidence.asked === 0) return [];
    const numbers = this.judging.program.judge;
    const on = <One extends Finding>(found: One): One =>
      Object.assign({ code: found.code, met: found.met, side: side.side }, found);
    side.known.rules ??= [
      ...sideFindings(state, evidence, numbers, side.holds),
      ...elsewhereFindings(state, evidence.shown, numbers),
    ].map(on);
    side.known.answers ??= answerFindings(evidence, numbers).map(on);
    if (steadySince === null) return [...side.known.rules, ...side.known.answers];
    const fresh = freshness(state, evidence, this.judging).map(on);
    const wobble = side.holds ? wobbleOf(evidence) : null;
    return [...side.known.rules, ...fresh, ...(wobble ? [on(wobble)] : []), ...side.known.answers];
  }

  private holdsOf(state: StepState): { event: string; reason: string }[] {
    return holdsOn(this.judging.about, state.step.id);
  }

  /** What a person said of it, and what he does unasked. */
  private saidOf(state: StepState, status: Judgement["status"]): Finding[] {
    const found: Finding[] = [];
    const from = this.judging.program.judge.offersAtLeast;
    if (state.offers.length >= from)
      found.push({
        code: "anticipates",
        met: false,
        have: state.offers.length,
        need: from - 1,
        evidence: state.offers.map(({ id }) => id),
      });
    const override = saidOf(this.judging.about.overrides, state.step.id);
    if (override && status !== "steady")
      found.push({ code: "overridden", met: false, have: override.reason, need: null, evidence: [override.event] });
    for (const hold of this.holdsOf(state))
      found.push({ code: "held", met: false, have: hold.reason, need: null, evidence: [hold.event] });
    return found;
  }
}

/** What is listed by how often it was seen. */
type Seen = "reacts" | "dull" | "braced" | "shut-down" | "lucky" | "unsaid" | "spoiled";

/** What the answers of a side are like, beyond the rules. */
function answerFindings(evidence: SideEvidence, numbers: JudgeNumbers): Finding[] {
  const found: Finding[] = [];
  const note = (code: Seen, ids: string[]): void => {
    if (ids.length > 0) found.push({ code, met: false, have: ids.length, need: 0, evidence: ids });
  };
  const rise = evidence.creep();
  if (rise !== null)
    found.push({
      code: "force-creep",
      met: false,
      have: round(rise),
      need: numbers.creepRise,
      evidence: idsOfGiven(evidence.lateEntries(numbers.creepOutings)),
    });
  for (const code of ["reacts", "dull", "braced"] as const) note(code, evidence.corner(code));
  note("shut-down", evidence.ofLate("shutDown"));
  note("lucky", evidence.lucky());
  note("unsaid", evidence.ofLate("unsaid"));
  note("spoiled", evidence.ofLate("spoiled"));
  const timed = evidence.recent().reduce((sum, visit) => sum + visit.timed, 0);
  const slow = evidence.ofLate("late");
  // The usual answer is the middle one of those that were timed.
  if (slow.length * 2 > timed)
    found.push({ code: "late", met: false, have: slow.length, need: evidence.standard.within ?? null, evidence: slow });
  return found;
}
