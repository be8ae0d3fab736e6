import { alwaysUnder, findStep, isUnknown, type Program, type Stage } from "../programs";
import { ageFor, holdsOn, stepStatus, type Gathered, type Status } from "../readiness";
import { daysBetween, type Day } from "../record";
import { expectedOf, orderStage } from "./order";
import type { Results } from "./run";
import type { CheckUpPlan, Found, Scope, Test } from "./types";

/**
 * What to test of a horse of unknown past, back from a rest or to be re-trained: every step of the stages so far, or just some with
 * what they rest on and he never held, each once or twice a side, in an order that is safe and expected to take few asks. What
 * stands under a step that came clean lately needs no test. Stages are gone through once, in the order of the road.
 *
 * @param months of age, the younger end: what the program does not ask at that age is not tested either
 */
export function planCheckUp(gathered: Gathered, scope: Scope, today: Day, months = Infinity): CheckUpPlan {
  const { program, about } = gathered;
  const wordOf = wordsIn(gathered, today);
  const wanted = wantedOf(gathered, scope, wordOf);
  const heldBack = wanted.filter((id) => holdsOn(about, id).length > 0);
  const tooYoung = wanted.filter((id) => months < (ageFor(program, id) ?? 0));
  const spared = wanted.flatMap((step) => {
    const by = sparedBy(gathered, step, wordOf, today);
    return by ? [{ step, by }] : [];
  });
  const left = new Set([...heldBack, ...tooYoung]);
  const needless = new Set(spared.map(({ step }) => step));
  const tests = wanted.filter((id) => !left.has(id) && !needless.has(id)).map((id) => testOf(gathered, id, wordOf));
  const tested = new Set(tests.map(({ step }) => step));
  const known = new Map<string, Found>(
    program.steps
      .map(({ id }) => id)
      .filter((id) => !tested.has(id))
      .map((id) => [id, left.has(id) ? "not-tested" : foundAlready(wordOf(id))]),
  );
  const order: Test[] = [];
  for (const stage of new Set(program.steps.map((step) => step.stage))) {
    const behind: Results = new Map([...known, ...order.map(({ step }) => [step, "holds"] as const)]);
    order.push(
      ...orderStage(
        tests.filter((test) => findStep(program, test.step)?.stage === stage),
        behind,
      ),
    );
  }
  return {
    tests: order,
    spared,
    heldBack,
    tooYoung,
    known: [...known],
    expected: expectedOf(order, known),
    most: order.reduce((sum, { sides }) => sum + 2 * sides.length, 0),
  };
}

/** What the record says of a step that is not tested: fresh it holds; waiting for its check it is rusty, and nothing behind a gate stands on that. */
const foundAlready = (word: Status): Found => (word === "steady" ? "holds" : word === "rusty" ? "rusty" : "not-tested");

/** The stages a horse has come through: up to the farthest in which something was asked, at least first handling and the halter. */
export function stagesSoFar({ program, steps }: Gathered): Stage[] {
  const stages = [...new Set(program.steps.map(({ stage }) => stage))];
  const worked = steps.flatMap(({ step, workedIn }) => (workedIn === null ? [] : [stages.indexOf(step.stage)]));
  return stages.slice(0, Math.max(...worked, stages.indexOf("halter")) + 1);
}

type WordOf = (id: string) => Status;

function wordsIn({ byId, program, about }: Gathered, today: Day): WordOf {
  const known = new Map<string, Status>();
  return (id) => {
    let word = known.get(id);
    if (word === undefined) {
      const state = byId.get(id);
      word = state ? stepStatus(state, { program, about, today }) : "untried";
      known.set(id, word);
    }
    return word;
  };
}

const isHeld = (word: Status): boolean => word === "steady" || word === "rusty";

/**
 * Steps of the stages that stand on the road or were worked; or the ones named, with all they rest on that he does not hold. Under
 * one behind a gate what only waits for its check is tested as well.
 */
function wantedOf({ program, byId }: Gathered, scope: Scope, wordOf: WordOf): string[] {
  if (isUnknown(program)) return [];
  const ids = program.steps.map(({ id }) => id);
  if ("steps" in scope) {
    const named = new Set(scope.steps.filter((id) => byId.has(id)));
    for (const id of scope.steps)
      for (const under of alwaysUnder(program, id))
        if (!isHeld(wordOf(under)) || (isGuarded(program, id) && wordOf(under) === "rusty")) named.add(under);
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
function sparedBy({ program, steps }: Gathered, id: string, wordOf: WordOf, today: Day): string | undefined {
  if (wordOf(id) !== "steady") return undefined;
  return steps.find(
    (above) =>
      alwaysUnder(program, above.step.id).has(id) &&
      wordOf(above.step.id) === "steady" &&
      above.sides.every(
        ({
          evidence: {
            fresh: { lastClean },
          },
        }) => lastClean !== null && daysBetween(lastClean, today) <= program.judge.gateFresh,
      ),
  )?.step.id;
}

function testOf({ program, byId }: Gathered, id: string, wordOf: WordOf): Test {
  const state = byId.get(id);
  const step = findStep(program, id);
  if (!state || !step) throw new Error(`no step ${id} in ${program.id}`);
  const held = isHeld(wordOf(id));
  const isOfGate = state.bar.kind !== "ordinary";
  return {
    step: id,
    sides: state.sides.map(
      ({
        side,
        evidence: {
          memories: { weightClean, weightNot },
        },
      }) => ({
        side,
        share: (weightClean + 1) / (weightClean + weightNot + 2),
      }),
    ),
    // Minutes and whole outings are tried once.
    twice: step.kind === "moment" && (!held || isOfGate),
    held,
    guarded: isGuarded(program, id),
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

/**
 * Behind a gate somebody can get hurt; the first halter is the one exception, since what rests on it is everything. And what takes
 * minutes, tied or away from the pen, is not asked before what makes it safe was shown.
 */
function isGuarded(program: Program, id: string): boolean {
  if (findStep(program, id)?.kind !== "moment") return true;
  const under = alwaysUnder(program, id);
  return program.gates.some(
    (gate) => gate.before.includes(id) || (gate.id !== "halter" && gate.before.some((one) => under.has(one))),
  );
}
