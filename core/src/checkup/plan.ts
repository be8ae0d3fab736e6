import { alwaysUnder, type Program, type Stage } from "../programs";
import { stepStatus, type Gathered } from "../readiness";
import { daysBetween, type Day } from "../record";
import { expectedOf, orderStage } from "./order";
import type { CheckUpPlan, Scope, Test } from "./types";

/**
 * What to test of a horse of unknown past, back from a rest or to be re-trained: every step of the stages so far, or just some with
 * what they rest on and he never held, each once or twice a side, in an order that is safe and expected to take few asks. What
 * stands under a step that came clean lately needs no test. Stages are gone through once, in the order of the road.
 */
export function planCheckUp(gathered: Gathered, scope: Scope, today: Day): CheckUpPlan {
  const { program, about } = gathered;
  const isHeld = heldIn(gathered, today);
  const wanted = wantedOf(gathered, scope, isHeld);
  const heldBack = wanted.filter((id) => about.holds[id] || about.holds[""]);
  const spared = wanted.flatMap((step) => {
    const by = sparedBy(gathered, step, isHeld, today);
    return by ? [{ step, by }] : [];
  });
  const out = new Set([...heldBack, ...spared.map(({ step }) => step)]);
  const tests = wanted.filter((id) => !out.has(id)).map((id) => testOf(gathered, id, isHeld));
  const known = new Map([
    ...heldBack.map((step) => [step, "not-tested"] as const),
    ...spared.map(({ step }) => [step, "holds"] as const),
    // What lies outside of this check-up stands as the record says.
    ...program.steps
      .map(({ id }) => id)
      .filter((id) => !wanted.includes(id))
      .map((id) => [id, isHeld(id) ? "holds" : "not-tested"] as const),
  ]);
  const order: Test[] = [];
  const stages = [...new Set(program.steps.map(({ stage }) => stage))];
  for (const stage of stages) {
    const behind = new Set([...known.keys(), ...order.map(({ step }) => step)]);
    const ofStage = tests.filter((test) => program.steps.find(({ id }) => id === test.step)?.stage === stage);
    order.push(...orderStage(ofStage, behind));
  }
  return {
    tests: order,
    spared,
    heldBack,
    expected: expectedOf(order, known),
    most: order.reduce((sum, { sides }) => sum + 2 * sides.length, 0),
  };
}

/** What was found before the first ask: what needs no test, and what lies outside and was held. */
export function knownBefore(gathered: Gathered, plan: CheckUpPlan, today: Day): Map<string, "holds" | "not-tested"> {
  const isHeld = heldIn(gathered, today);
  const tested = new Set(plan.tests.map(({ step }) => step));
  const spared = new Set(plan.spared.map(({ step }) => step));
  return new Map(
    gathered.program.steps
      .map(({ id }) => id)
      .filter((id) => !tested.has(id))
      .map((id) => [id, spared.has(id) || (isHeld(id) && !plan.heldBack.includes(id)) ? "holds" : "not-tested"]),
  );
}

/** The stages a horse has come through: up to the farthest in which something was asked, at least first handling and the halter. */
export function stagesSoFar({ program, steps }: Gathered): Stage[] {
  const stages = [...new Set(program.steps.map(({ stage }) => stage))];
  const worked = steps.flatMap(({ step, workedIn }) => (workedIn === null ? [] : [stages.indexOf(step.stage)]));
  return stages.slice(0, Math.max(...worked, stages.indexOf("halter")) + 1);
}

function heldIn({ byId, program, about }: Gathered, today: Day): (id: string) => boolean {
  const known = new Map<string, boolean>();
  return (id) => {
    const before = known.get(id);
    if (before !== undefined) return before;
    const state = byId.get(id);
    const word = state ? stepStatus(state, program.judge, today, about) : "untried";
    const held = word === "steady" || word === "rusty";
    known.set(id, held);
    return held;
  };
}

/** Steps of the stages that stand on the road or were worked; or the ones named, with all they rest on that he does not hold. */
function wantedOf({ program, byId }: Gathered, scope: Scope, isHeld: (id: string) => boolean): string[] {
  const ids = program.steps.map(({ id }) => id);
  if ("steps" in scope) {
    const named = new Set(scope.steps.filter((id) => byId.has(id)));
    for (const id of scope.steps) for (const under of alwaysUnder(program, id)) if (!isHeld(under)) named.add(under);
    return ids.filter((id) => named.has(id));
  }
  return program.steps
    .filter(
      ({ id, stage }) =>
        scope.stages.includes(stage) && (!program.optional.includes(id) || byId.get(id)?.workedIn !== null),
    )
    .map(({ id }) => id);
}

/** A steady step that came clean within the time of a gate's check and rests on this one, which is steady itself: nothing is gained by a test. */
function sparedBy(
  { program, steps, about }: Gathered,
  id: string,
  isHeld: (id: string) => boolean,
  today: Day,
): string | undefined {
  if (!isHeld(id)) return undefined;
  const isSteady = (state: Gathered["steps"][number]): boolean =>
    stepStatus(state, program.judge, today, about) === "steady";
  const own = steps.find(({ step }) => step.id === id);
  if (!own || !isSteady(own)) return undefined;
  return steps.find(
    (above) =>
      alwaysUnder(program, above.step.id).has(id) &&
      isSteady(above) &&
      above.sides.every(
        ({ evidence: { lastClean } }) => lastClean !== null && daysBetween(lastClean, today) <= program.judge.gateFresh,
      ),
  )?.step.id;
}

function testOf({ program, byId }: Gathered, id: string, isHeld: (id: string) => boolean): Test {
  const state = byId.get(id);
  const step = program.steps.find((one) => one.id === id);
  if (!state || !step) throw new Error(`no step ${id} in ${program.id}`);
  const held = isHeld(id);
  const isOfGate = state.bar.isGate;
  return {
    step: id,
    sides: state.sides.map(({ side, evidence: { weightClean, weightNot } }) => ({
      side,
      share: (weightClean + 1) / (weightClean + weightNot + 2),
    })),
    // Minutes and whole outings are tried once.
    twice: step.kind === "moment" && (!held || isOfGate),
    held,
    // Minutes away from the pen, or tied: not before what makes them safe was shown.
    guarded: step.kind !== "moment" || isBehindGate(program, id, alwaysUnder(program, id)),
    needs: [...step.needs, ...gateNeeds(program, id)].map(({ anyOf }) =>
      anyOf.map((way) => way.map((ref) => ref.step)),
    ),
    under: [...alwaysUnder(program, id)],
  };
}

const gatesBefore = ({ gates }: Program, id: string): Program["gates"] =>
  gates.filter(({ before }) => before.includes(id));

/** What stands right behind a gate rests on all that the gate asks for. */
const gateNeeds = (program: Program, id: string): Program["steps"][number]["needs"] =>
  gatesBefore(program, id).flatMap(({ needs, ridden }) => [
    ...needs,
    ...(ridden?.before.includes(id) ? ridden.needs : []),
  ]);

/** Behind a gate somebody can get hurt. The first halter is the one exception: what rests on it is everything. */
const isBehindGate = ({ gates }: Program, id: string, under: ReadonlySet<string>): boolean =>
  gates.some((gate) => gate.before.includes(id) || (gate.id !== "halter" && gate.before.some((one) => under.has(one))));
