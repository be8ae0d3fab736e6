import { dayIn, foldRecord, type Day, type FoldedRecord, type HorseRecord } from "../record";
import { saidOf, type JudgeNumbers, type Program } from "../programs";
import { idsOfGiven, type SideEvidence } from "../evidence";
import { aboutOf, adjustedProgram, holdsOn, type HorseAbout } from "./about";
import { gather } from "./gather";
import { elsewhereOf, freshFinding, round, sideFindings, wobbleOf } from "./rules";
import { hasGateAhead, type Gathered, type NeedState, type SideState, type StepState } from "./states";
import { isNeedMet, missingOf, sideStatus, stepStatus } from "./status";
import { Opener } from "./to-open";
import { openInWords } from "./words";
import { STATUSES, type Finding, type Judgement, type SideJudgement } from "./types";

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
  private readonly program: Program;
  private readonly numbers: JudgeNumbers;
  private readonly about: HorseAbout;
  private readonly opener: Opener;

  constructor(
    { program, about }: Gathered,
    private readonly today: Day,
  ) {
    this.program = program;
    this.numbers = program.judge;
    this.about = about;
    this.opener = new Opener(this.numbers, today, about);
  }

  step(state: StepState): Judgement {
    const sides: Judgement["sides"] = {};
    for (const side of state.sides) sides[side.side] = this.side(state, side);
    const status = this.statusOf(state);
    return {
      step: state.step.id,
      status,
      held: this.holdsOf(state).length > 0,
      sides,
      findings: [
        ...state.sides.flatMap((side) => this.ownFindings(state, side)),
        ...this.bothSides(state),
        ...this.restsOn(state),
        ...this.saidOf(state, status),
      ],
      toOpen: this.opener.actionsFor(state).map((action) => ({ ...action, text: openInWords(action, this.program) })),
      lastAsked: state.workedIn?.day ?? null,
    };
  }

  private statusOf(state: StepState, alone = false): Judgement["status"] {
    return stepStatus(state, this.today, this.about, alone);
  }

  private side(state: StepState, side: SideState): SideJudgement {
    const { evidence } = side;
    const { memories } = evidence;
    return {
      status: sideStatus(state, side, this.today, this.about),
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
    const { numbers } = this;
    const on = ({ code, met, ...rest }: Finding): Finding => ({ code, met, side: side.side, ...rest });
    side.known.rules ??= [
      ...sideFindings(state, evidence, numbers, side.holds),
      ...elsewhereOf(state, evidence.shown, numbers).map(({ met, have, need }): Finding => ({
        code: "elsewhere",
        met,
        have,
        need,
        evidence: [],
      })),
    ].map(on);
    side.known.answers ??= answerFindings(evidence, numbers).map(on);
    const fresh = steadySince === null ? [] : this.fresh(state, evidence).map(on);
    const wobble = steadySince === null || !side.holds ? null : wobbleOf(evidence);
    return [...side.known.rules, ...fresh, ...(wobble ? [on(wobble)] : []), ...side.known.answers];
  }

  /** Rule 7, and a word beforehand. */
  private fresh(state: StepState, evidence: SideEvidence): Finding[] {
    const isGateAhead = hasGateAhead(state, this.about);
    const fresh = freshFinding(evidence, this.today, isGateAhead);
    const left = typeof fresh.have === "number" ? evidence.fresh.freshFor(isGateAhead) - fresh.have : null;
    const isSoon = left !== null && left > 0 && left <= this.numbers.soonDays;
    return isSoon
      ? [fresh, { code: "cold-check-due", met: false, have: left, need: 0, evidence: fresh.evidence }]
      : [fresh];
  }

  /** Rule 2, and the gap between the sides by name: the weakest against the strongest. */
  private bothSides(state: StepState): Finding[] {
    if (state.sides.length < 2 || state.sides.every((side) => side.evidence.asked === 0)) return [];
    const { numbers, today, about } = this;
    const have = Object.fromEntries(state.sides.map((side) => [side.side, sideStatus(state, side, today, about)]));
    const met = state.sides.every((side) => side.holds);
    const carriedBy = new Array<string>().concat(...state.sides.map((side) => side.evidence.carriedBy()));
    const found: Finding[] = [{ code: "both-sides", met, have, need: "each by itself", evidence: carriedBy }];

    const share = ({ evidence: { memories } }: SideState): number =>
      memories.weightClean / (memories.weightClean + memories.weightNot);
    const enough = state.sides.filter((side) => side.evidence.count >= numbers.gapAsks);
    const sorted = enough.toSorted((a, b) => share(a) - share(b));
    const weaker = sorted[0];
    const stronger = sorted.at(-1);
    if (!weaker || !stronger) return found;
    const low = share(weaker);
    const high = share(stronger);
    if (high - low >= numbers.gapAtLeast)
      found.push({
        code: "side-gap",
        met: false,
        side: weaker.side,
        have: round(low),
        need: round(high),
        evidence: [...weaker.evidence.carriedBy(), ...stronger.evidence.carriedBy()],
      });
    return found;
  }

  /** Rule 8: a finding for each need, and a warning where one slipped after this step was steady. */
  private restsOn(state: StepState): Finding[] {
    const wasSteady = state.sides.every((side) => side.steadySince !== null);
    return state.needs.flatMap((need) => {
      const [first] = need;
      if (!first) return [];
      const met = isNeedMet(need, this.numbers, this.today, this.about);
      const best = this.bestWay(need);
      const weakest = this.weakestOf(best);
      if (!weakest) return [];
      const missing = [...new Set(best.flatMap((one) => missingOf(one).map(({ what }) => what)))];
      const have = {
        step: weakest.state.step.id,
        status: this.statusOf(weakest.state),
        ...(missing.length > 0 ? { missing } : {}),
      };
      const wanted = { anyOf: need.map((way) => way.map(({ ref }) => ref.step).join(" and ")), status: "steady" };
      const found: Finding[] = [{ code: "rests-on", met, have, need: wanted, evidence: [] }];
      if (wasSteady && !met && this.statusOf(weakest.state, true) === "slipped")
        found.push({
          code: "needs-slipped",
          met: false,
          have,
          need: wanted,
          evidence: this.whatSlipped(weakest.state),
        });
      return found;
    });
  }

  /** The way of a need that has come furthest. */
  private bestWay(need: readonly (readonly NeedState[])[]): readonly NeedState[] {
    const rank = (way: readonly NeedState[]): number =>
      Math.min(...way.map(({ state }) => STATUSES.indexOf(this.statusOf(state, true)))) -
      (way.some((one) => missingOf(one).length > 0) ? 0.5 : 0);
    return need.toSorted((a, b) => rank(b) - rank(a))[0] ?? [];
  }

  private weakestOf(way: readonly NeedState[]): NeedState | undefined {
    return way.toSorted(
      (a, b) => STATUSES.indexOf(this.statusOf(a.state, true)) - STATUSES.indexOf(this.statusOf(b.state, true)),
    )[0];
  }

  /** The events that made a step slip: what breaks a rule on a side that was steady. */
  private whatSlipped(state: StepState): string[] {
    return [
      ...new Set(
        state.sides.flatMap((side) =>
          sideStatus(state, side, this.today, this.about) === "slipped"
            ? sideFindings(state, side.evidence, this.numbers, side.holds).flatMap((one) =>
                one.met ? [] : one.evidence,
              )
            : [],
        ),
      ),
    ];
  }

  private holdsOf(state: StepState): { event: string; reason: string }[] {
    return holdsOn(this.about, state.step.id);
  }

  /** What a person said of it, and what he does unasked. */
  private saidOf(state: StepState, status: Judgement["status"]): Finding[] {
    const found: Finding[] = [];
    const from = this.numbers.offersAtLeast;
    if (state.offers.length >= from)
      found.push({
        code: "anticipates",
        met: false,
        have: state.offers.length,
        need: from - 1,
        evidence: state.offers.map(({ id }) => id),
      });
    const override = saidOf(this.about.overrides, state.step.id);
    if (override && status !== "steady")
      found.push({ code: "overridden", met: false, have: override.reason, need: null, evidence: [override.event] });
    for (const hold of this.holdsOf(state))
      found.push({ code: "held", met: false, have: hold.reason, need: null, evidence: [hold.event] });
    return found;
  }
}

/** What the answers of a side are like, beyond the rules. */
function answerFindings(evidence: SideEvidence, numbers: JudgeNumbers): Finding[] {
  const found: Finding[] = [];
  const note = (code: Finding["code"], ids: string[]): void => {
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
