import type { UpTo } from "../readiness/types";
import type { StepId } from "../record";
import { findStep, isUnknown, placeOfRung, sidesOf, type Rung, type SideKey, type Step } from "../programs";
import { increasesBetween, isLighter, type Answer } from "./answers";
import {
  CALM_ANSWERS,
  endCauseOf,
  exerciseOf,
  isAtCap,
  isReached,
  lineFor,
  minutesAt,
  plannedOf,
  tallyOf,
} from "./state";
import { type ExerciseState, type OutingState } from "./state-types";
import { adviseCheckUp } from "./advise-check-up";
import { isSaidWhy, shutBefore } from "./behind-gate";
import { linkOf, openedBy } from "./links";
import { say } from "./say";
import type { Advice, OutingPlan } from "./types";

/** What the next ask will say: the exercise at hand, and the id of its rung. */
interface Meant {
  step: StepId;
  rung?: string | undefined;
}

/**
 * The coach's word at a moment: one verb, one reason, the entries it rests on. Of several that apply the stronger verb is said:
 * finish easy, leave it, go back, stay, go on. Common practice, no published source; numbers are Still Pine's own judgement.
 *
 * @param now milliseconds since 1970
 * @param meant step and rung of what the next ask will say, where that is known: past a shut gate it is told before it is asked
 */
export function advise(state: OutingState, plan: OutingPlan, now: number, meant?: Meant): Advice {
  const time = Math.max(now, state.at);
  const step = state.step === null ? undefined : findStep(plan.program, state.step);
  const end = finishOf(state, plan, time);
  if (end) return end;
  // Safety needs no program; what to do next does.
  if (isUnknown(plan.program)) return frightOf(state) ?? calmFirst(state) ?? say("go-on", "start");
  if (plan.checkUp) return frightOf(state) ?? calmFirst(state) ?? adviseCheckUp(state, plan.checkUp);
  const past = pastGate(plan, state, meant);
  if (!step) {
    const behind = behindGate(plan, state, meant?.step);
    return frightOf(state) ?? calmFirst(state) ?? past ?? behind ?? say("go-on", "start");
  }
  const look = new Look(state, plan, step, past);
  const advice = look.leave() ?? look.onRung(look.goBack() ?? look.stay() ?? look.goOn());
  // What a horse needs at once comes first; but nobody is told to go on behind a shut gate in silence.
  return advice.verb === "go-on" ? (behindGate(plan, state, step.id) ?? advice) : advice;
}

const withRung = (advice: Advice, rung: Rung | undefined): Advice => (rung ? { ...advice, rung: rung.id } : advice);
const idsOf = (answers: readonly Answer[]): string[] => answers.map(({ id }) => id);

function finishOf(state: OutingState, plan: OutingPlan, now: number): Advice | null {
  const cause = endCauseOf(state);
  const atCap = isAtCap(state, plan, now);
  if (cause === null && !atCap) return null;
  const isGrave = cause === "person-hurt" || cause === "mishap" || cause === "shut-down";
  if (!isGrave && state.easyDone !== null) return say("finish", "easy-done", [state.easyDone]);
  if (cause === "falling")
    return say(
      "finish",
      "falling",
      state.lastMoods.map(({ id }) => id),
    );
  if (cause === "frights") return say("finish", "frights", state.bigFrights);
  if (cause !== null && cause !== "enough") return say("finish", cause, state.ends[cause] ?? []);
  if (!atCap) return say("finish", "enough", state.ends.enough ?? []);
  const { inHand, working } = minutesAt(state, plan, now);
  const isInHand = inHand >= plan.caps.inHandMinutes;
  return say("finish", "cap", [], {
    have: Math.floor(isInHand ? inHand : working),
    need: isInHand ? plan.caps.inHandMinutes : plan.caps.workingMinutes,
  });
}

function frightOf({ fright }: OutingState): Advice | null {
  return fright && !fright.quiet ? say("stay", "fright-now", [fright.id]) : null;
}

/** After an over, a fright or two tight in a row nothing goes on before he has been quiet, whatever the exercise. */
function calmFirst({ unquiet }: OutingState): Advice | null {
  return unquiet ? say("stay", "calm-first", unquiet.ids, { have: unquiet.calm, need: CALM_ANSWERS }) : null;
}

/** The gate within a step's ladder that is shut, and the last rung before it with its place. */
type Shut = UpTo & { place: number };

function shutWithin({ upTo = [] }: OutingPlan, { id, ladder }: Step): Shut | null {
  const shut = upTo.find((one) => one.step === id);
  return shut ? { ...shut, place: placeOfRung(ladder, shut.rung) } : null;
}

/** More than a shut gate lets him do, as it is about to be asked; as it was asked last where that is not known. */
function pastGate(plan: OutingPlan, { step: at, tail }: OutingState, meant: Meant | undefined): Advice | null {
  const step = findStep(plan.program, at ?? meant?.step ?? "");
  const shut = step && shutWithin(plan, step);
  if (!shut) return null;
  const last = tail.at(-1);
  const next = meant?.step === step.id ? placeOfRung(step.ladder, meant.rung ?? "") : (last?.rung ?? -1);
  if (next <= shut.place) return null;
  const evidence = last?.rung !== undefined && last.rung > shut.place ? [last.id] : [];
  return say("go-back", "past-gate", evidence, { gate: shut.gate, rung: shut.rung });
}

/** A step on the far side of a shut gate, until a person has said why it is worked all the same. */
function behindGate(plan: OutingPlan, state: OutingState, id: StepId | undefined): Advice | null {
  const gate = id === undefined ? null : shutBefore(plan, id);
  return gate && !isSaidWhy(state, gate.gate) ? say("go-back", "behind-gate", [], { gate: gate.gate }) : null;
}

/** Right answers in a row on a rung before the next one is named; of something long two are enough. */
const RUNG_ANSWERS = 3;
const LONG_ANSWERS = 2;

/** One look at the exercise he is in. */
class Look {
  private readonly exercise: ExerciseState;
  private readonly sides: readonly SideKey[];
  private readonly tail: readonly Answer[];
  private readonly last: Answer | undefined;
  /** The gate within its ladder that is shut, and the place of the last rung before it. */
  private readonly shut: Shut | null;

  constructor(
    private readonly state: OutingState,
    private readonly plan: OutingPlan,
    private readonly step: Step,
    private readonly past: Advice | null,
  ) {
    this.exercise = exerciseOf(state, step.id);
    this.sides = sidesOf(step);
    this.tail = state.tail;
    this.last = state.tail.at(-1);
    this.shut = shutWithin(plan, step);
  }

  /** Enough of it: only ever on a good one, and never while a fright is not behind him. */
  leave(): Advice | null {
    const { state, step, last } = this;
    if (this.exercise.scare || (state.fright && !state.fright.quiet)) return null;
    if (last && !last.right) return null;
    const { side } = state;
    const line = lineFor(state, step.id);
    const numbers = { have: tallyOf(state, step.id, side).good, need: line.count };
    if (this.sides.every((one) => isReached(state, step.id, one))) {
      const ids = this.sides.flatMap((one) => tallyOf(state, step.id, one).goodIds.slice(-line.count));
      const [opened] = openedBy(state, this.plan, step.id);
      return opened
        ? say("leave", "opens", ids, { ...numbers, step: opened.step })
        : say("leave", "line", ids, numbers);
    }
    if (!last) return null;
    if (isReached(state, step.id, side)) {
      const other = this.sides.find((one) => !isReached(state, step.id, one));
      return say("leave", "line-side", tallyOf(state, step.id, side).goodIds.slice(-line.count), {
        ...numbers,
        ...(other ? { side: other } : {}),
      });
    }
    const lastTwo = this.tail.slice(-2);
    const isTwoGood = lastTwo.length === 2 && lastTwo.every(({ good }) => good);
    if (isTwoGood && this.isBetterThanLastTime(lastTwo)) return say("leave", "better", idsOf(lastTwo));
    if (isTwoGood && state.isBest) return say("leave", "best", idsOf(lastTwo));
    const most = this.plan.program.coach.spurtsMost;
    if (most !== null && this.exercise.spurts >= most)
      return say("leave", "spurts", [last.id], { have: this.exercise.spurts });
    return null;
  }

  /** An advice to go back or on with the rung it means: the one below, or the one above once enough in a row were right. */
  onRung(advice: Advice): Advice {
    const { rungs, standard } = this.step.ladder;
    const { last } = this;
    if (last?.rung === undefined || advice.reason === "past-gate" || advice.reason === "base-first") return advice;
    const { shut } = this;
    if (advice.verb === "go-back") return withRung(advice, rungs[Math.min(last.rung - 1, shut?.place ?? Infinity)]);
    const { side } = this.state;
    if (advice.reason !== "clean" || last.rung >= standard || !this.isSureOn(side, last.rung)) return advice;
    if (!shut || last.rung < shut.place) return withRung(advice, rungs[last.rung + 1]);
    const other = this.sides.find((one) => !this.isSureOn(one, shut.place));
    return say("leave", "gate", [last.id], { gate: shut.gate, ...(other ? { side: other } : {}) });
  }

  /** Whether enough answers in a row were right on a rung, on that side. */
  private isSureOn(side: SideKey, rung: number): boolean {
    const { onRung } = tallyOf(this.state, this.step.id, side);
    return onRung?.rung === rung && onRung.right >= (this.step.kind === "moment" ? RUNG_ANSWERS : LONG_ANSWERS);
  }

  private isBetterThanLastTime(lastTwo: readonly Answer[]): boolean {
    const then = plannedOf(this.plan, this.step.id)?.last[this.state.side];
    if (!then || then.asks === 0) return false;
    if (then.clean === 0 && then.asks >= 3) return true;
    const phase = Math.max(...lastTwo.map((one) => one.phase ?? 0));
    const mood = Math.max(...lastTwo.map((one) => one.mood ?? 0));
    const usual = then.phase ?? 0;
    return (phase < usual && mood <= then.mood) || (phase <= usual && mood < then.mood);
  }

  goBack(): Advice | null {
    const { exercise, state, tail, last } = this;
    const { scare } = exercise;
    if (scare && (scare.side === null || scare.side === state.side))
      return say("go-back", scare.kind, scare.ids, { have: scare.calm, need: CALM_ANSWERS });
    if (this.past) return this.past;
    const link = linkOf(state, this.plan, plannedOf(this.plan, this.step.id) ?? {});
    if (link.waitsFor) return say("go-back", "base-first", link.evidence, { step: link.waitsFor.step });
    const [first, second] = tail.slice(-2);
    if (first?.given === "against" && second?.given === "against")
      return say("go-back", "two-against", idsOf(tail.slice(-2)));
    const three = tail.slice(-3);
    const [a, b, c] = three.map(({ phase }) => phase);
    if (a !== undefined && b !== undefined && c !== undefined && a < b && b < c)
      return say("go-back", "rising", idsOf(three));
    if (last?.phase !== undefined && last.phase > this.plan.program.ways.pressureMost)
      return say("go-back", "too-much", [last.id]);
    if (last && !last.right && !last.close && isReached(state, this.step.id, state.side))
      return say("go-back", "end-good", [last.id]);
    return null;
  }

  stay(): Advice | null {
    return frightOf(this.state) ?? this.ofLast() ?? calmFirst(this.state) ?? this.ofExercise();
  }

  /** What the last answer says. */
  private ofLast(): Advice | null {
    const { last, tail, state, step } = this;
    if (!last) return null;
    if (last.right) {
      if (state.lucky && last.worth !== "practice") return say("stay", "lucky", [state.lucky.id]);
      const before = tail.at(-2);
      if (before && increasesBetween(before, last, step.standard.dose) >= 2)
        return say("stay", "two-increases", [before.id, last.id]);
      return null;
    }
    if (last.given === "gave" && last.mood !== undefined && last.mood > step.standard.mood)
      return say("stay", last.mood >= 3 ? "reacts" : "not-quiet", [last.id]);
    if (last.close && isReached(state, step.id, state.side)) return say("stay", "close", [last.id]);
    const isStill = ({ given, mood }: Answer): boolean => given === "none" && (mood === undefined || mood < 3);
    const run = tail.slice(tail.findLastIndex((one) => !isStill(one)) + 1);
    if (run.length >= 2) return say("stay", "stuck", idsOf(run));
    if (last.given === "tried") return say("stay", "tried", [last.id]);
    if (last.given !== "gave") return say("stay", "missed", [last.id]);
    const before = tail.at(-2);
    // Falling phases are the best news there is, though the last one still took more than it should.
    if (before && isLighter(before, last)) return say("stay", "lighter", [before.id, last.id]);
    const three = tail.slice(-3);
    if (three.length === 3 && three.every(({ heavy }) => heavy)) return say("stay", "dull", idsOf(three));
    return say("stay", "heavy", [last.id]);
  }

  /** What the exercise as a whole says. */
  private ofExercise(): Advice | null {
    const { exercise, plan, step, state } = this;
    if (exercise.offers.length >= 2)
      return say("stay", "anticipates", exercise.offers, { have: exercise.offers.length });
    if (exercise.scared.length > 0) return say("stay", "after-over", exercise.scared);
    const isNew = plannedOf(plan, step.id)?.isNew === true && plan.program.coach.firstDay === "no-more";
    const { goodIds } = tallyOf(state, step.id, state.side);
    return isNew && goodIds.length > 0 ? say("stay", "new", goodIds) : null;
  }

  goOn(): Advice {
    const { last, state, step } = this;
    if (!last) return say("go-on", "start");
    const other = this.sideToChangeTo();
    if (other)
      return say("go-on", "other-side", tallyOf(state, step.id, state.side).goodIds, {
        side: other,
        have: tallyOf(state, step.id, state.side).asks,
        need: tallyOf(state, step.id, other).asks,
      });
    return say("go-on", "clean", [last.id]);
  }

  /** The side that has had too little: never none on the good one, about three to two towards the sticky one. */
  private sideToChangeTo(): SideKey | null {
    const { state, step, plan } = this;
    if (this.sides.length < 2) return null;
    const asksOf = (side: SideKey): number => tallyOf(state, step.id, side).asks;
    const [least] = this.sides.filter((side) => side !== state.side).toSorted((a, b) => asksOf(a) - asksOf(b));
    if (least === undefined) return null;
    const sticky = plannedOf(plan, step.id)?.sticky ?? null;
    const { stickyShare, spareAsks } = plan.program.coach;
    const share = sticky === null ? 1 : state.side.startsWith(sticky) ? stickyShare : 1 / stickyShare;
    return asksOf(state.side) > asksOf(least) * share + spareAsks ? least : null;
  }
}
