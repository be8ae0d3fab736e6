import { LADDERS, placeOfRung, readLadder } from "./ladders";
import type { StepId } from "../record";
import { findStep, refsOf, stepsInOrder, stepsMarked, type ProgramProblem } from "./graph";
import type { Gate, GateRole, JudgeNumbers, Need, NeedRef, Program, Step } from "./types";

/**
 * Whether a program keeps what guards a person. A gate's safety steps may be moved, never dropped or made easier; nothing that stands
 * behind a gate may be come to past it; numbers a gate goes by may be stricter, never laxer. Still Pine's own judgement.
 *
 * @param guard the program of the whole catalogue, in which every gate stands
 * @returns what is wrong, each with the place; empty where all is kept
 */
export function unsafePartsOf(program: Program, guard: Program): ProgramProblem[] {
  return [
    ...guard.gates.flatMap((gate) => unguarded(program, guard, gate)),
    ...easierSteps(program, guard),
    ...ownRides(program, guard),
    ...trustedOn(program, guard),
    ...laxNumbers(program, guard),
    ...weakStop(program, guard),
    ...stopUnasked(program),
  ];
}

const required = new WeakMap<Program, Map<string, ReadonlySet<string>>>();

/** Ids of all steps that have to be steady before a step whichever way is taken, without itself. */
export function alwaysUnder(program: Program, stepId: StepId): ReadonlySet<string> {
  let known = required.get(program);
  if (!known) required.set(program, (known = new Map()));
  return visitUnder(program, stepId, known, new Set());
}

function visitUnder(
  program: Program,
  id: string,
  known: Map<string, ReadonlySet<string>>,
  open: Set<string>,
): ReadonlySet<string> {
  const before = known.get(id);
  if (before) return before;
  if (open.has(id)) return new Set();
  open.add(id);
  const all = new Set<string>();
  const addWay = (way: readonly NeedRef[], to: Set<string>): Set<string> => {
    for (const { step } of way) {
      to.add(step);
      for (const one of visitUnder(program, step, known, open)) to.add(one);
    }
    return to;
  };
  for (const need of findStep(program, id)?.needs ?? []) {
    const [only] = need.anyOf;
    if (only && need.anyOf.length === 1) {
      addWay(only, all);
      continue;
    }
    const [first, ...others] = need.anyOf.map((way) => addWay(way, new Set()));
    for (const one of first ?? []) if (others.every((way) => way.has(one))) all.add(one);
  }
  open.delete(id);
  if (open.size === 0 || !known.has(id)) known.set(id, all);
  return all;
}

const above = new WeakMap<Program, Map<string, ReadonlySet<string>>>();

/**
 * Ids of all steps that have this one among what is always under them. Of a program that was changed a moment ago little is asked: this
 * way round it is found in one pass.
 */
export function alwaysAbove(program: Program, stepId: StepId): ReadonlySet<string> {
  const known = above.get(program) ?? new Map<string, ReadonlySet<string>>();
  above.set(program, known);
  let ids = known.get(stepId);
  if (!ids) known.set(stepId, (ids = findAlwaysAbove(program, stepId)));
  return ids;
}

function findAlwaysAbove(program: Program, stepId: StepId): ReadonlySet<string> {
  const found = new Set<string>();
  const isOver = ({ step }: NeedRef): boolean => step === stepId || found.has(step);
  for (const { id, needs } of stepsInOrder(program))
    if (needs.some(({ anyOf }) => anyOf.length > 0 && anyOf.every((way) => way.some(isOver)))) found.add(id);
  return found;
}

/** A gate of the catalogue that a program's road passes: it is there, before the same steps, with all it asks for. */
function unguarded(program: Program, guard: Program, gate: Gate): ProgramProblem[] {
  const index = program.gates.findIndex(({ id }) => id === gate.id);
  const own = program.gates[index];
  const passed = guardedBy(guard, gate).filter((id) => findStep(program, id));
  const isPassed =
    passed.length > 0 ||
    (gate.beforeCare !== undefined && refsOf(gate.needs).some(({ step }) => findStep(program, step)));
  if (!isPassed) return [];
  if (!own)
    return [
      {
        path: ["gates"],
        expected: `the gate ${gate.id}, which stands before ${passed[0] ?? gate.beforeCare}`,
        found: "none of that id",
      },
    ];
  const asked = [...own.needs];
  const askedRidden = [...own.needs, ...(own.ridden?.needs ?? [])];
  const isRidden = (gate.ridden?.before ?? []).some((id) => findStep(program, id));
  return [
    ...lackingOf(gate.needs, asked, ["gates", index, "steps"], gate),
    ...(isRidden ? lackingOf(gate.ridden?.needs ?? [], askedRidden, ["gates", index, "ridden"], gate) : []),
    ...pastTheGate(program, guard, gate, own, index),
  ];
}

const guarded = new WeakMap<Gate, readonly string[]>();

/** What stands behind a gate in the catalogue: the steps it stands before, and all that cannot be come to without one of them. */
function guardedBy(guard: Program, gate: Gate): readonly string[] {
  let behind = guarded.get(gate);
  if (!behind) {
    behind = guard.steps
      .map(({ id }) => id)
      .filter((id) => gate.before.includes(id) || gate.before.some((one) => alwaysAbove(guard, one).has(id)));
    guarded.set(gate, behind);
  }
  return behind;
}

function pastTheGate(program: Program, guard: Program, gate: Gate, own: Gate, index: number): ProgramProblem[] {
  return guardedBy(guard, gate).flatMap((id): ProgramProblem[] => {
    const step = findStep(program, id);
    if (!step) return [];
    if (gate.before.includes(id))
      return own.before.includes(id)
        ? []
        : [{ path: ["gates", index, "before"], expected: `${id}, which this gate stands before`, found: "not there" }];
    const wanted = gate.before.filter((one) => alwaysAbove(guard, one).has(id));
    return wanted.every((one) => alwaysAbove(program, one).has(id))
      ? []
      : [
          {
            path: ["steps", program.steps.indexOf(step), "needs"],
            expected: `to rest on ${wanted.join(" and ")}, so that the gate ${gate.id} stands before it`,
            found: "a way past the gate",
          },
        ];
  });
}

/** Whether each line of what a gate asks for is asked for still: every way of some line holds all of one way of it. */
function lackingOf(
  wanted: readonly Need[],
  asked: readonly Need[],
  path: readonly (string | number)[],
  gate: Gate,
): ProgramProblem[] {
  return wanted.flatMap((need) =>
    asked.some(({ anyOf }) => anyOf.every((way) => need.anyOf.some((one) => one.every((ref) => holds(way, ref)))))
      ? []
      : [
          {
            path,
            expected: `${need.anyOf.map((way) => way.map(({ step }) => step).join(" and ")).join(" or ")}, a safety step of the gate ${gate.id}`,
            found: "dropped",
          },
        ],
  );
}

const holds = (way: readonly NeedRef[], ref: NeedRef): boolean =>
  way.some(
    (one) =>
      one.step === ref.step &&
      (ref.gait === undefined || one.gait === ref.gait) &&
      (ref.setting === undefined || one.setting === ref.setting) &&
      (one.rung === undefined || (ref.rung !== undefined && isAsFar(ref.step, one.rung, ref.rung))) &&
      (ref.parts ?? []).every((part) => one.parts?.includes(part) === true),
  );

/** Whether one rung of a step of the catalogue is as far up its ladder as another. */
function isAsFar(step: StepId, one: number | string, other: number | string): boolean {
  const ladder = readLadder(LADDERS.get(step));
  return placeOfRung(ladder, one) >= placeOfRung(ladder, other);
}

/** Safety steps, and what stands behind a gate, whose standard asks less than the catalogue's. */
function easierSteps(program: Program, guard: Program): ProgramProblem[] {
  const careful = new Set(
    guard.gates.flatMap((gate) => [
      ...refsOf([...gate.needs, ...(gate.ridden?.needs ?? [])]).map(({ step }) => step),
      ...gate.before,
    ]),
  );
  program.stop.forEach((step) => careful.add(step));
  return program.steps.flatMap((step, index) => {
    const norm = careful.has(step.id) ? findStep(guard, step.id) : undefined;
    return norm
      ? easierIn(step, norm).map((found) => ({
          path: ["steps", index, "standard"],
          expected: `at least what the catalogue asks of ${step.id}, a safety step`,
          found,
        }))
      : [];
  });
}

function easierIn(step: Step, norm: Step): string[] {
  const { phase, mood, dose, withoutTool } = step.standard;
  const least = norm.standard;
  return [
    ...(least.phase !== null && (phase === null || phase > least.phase) ? [`phase ${phase ?? "not asked"}`] : []),
    ...(mood > least.mood ? [`mood ${mood}`] : []),
    ...(isLess(dose, least.dose)
      ? [dose ? `${dose.amount} ${dose.unit}` : "no dose"]
      : step.ladder.standard < norm.ladder.standard
        ? [`no farther than ${step.ladder.rungs[step.ladder.standard]?.id}`]
        : []),
    ...(least.withoutTool && !withoutTool ? ["with a tool"] : []),
    ...(norm.kind !== step.kind ? [`judged by ${step.kind}`] : []),
    ...(norm.side !== step.side ? [`sides ${step.side}`] : []),
    ...(norm.still && !step.still ? ["no sign of ease asked for"] : []),
    ...(step.people < norm.people ? [`${step.people} ${step.people === 1 ? "person" : "people"}`] : []),
    ...norm.elsewhere.filter((one) => !step.elsewhere.includes(one)).map((one) => `not shown elsewhere (${one})`),
  ];
}

function isLess(dose: Step["standard"]["dose"], least: Step["standard"]["dose"]): boolean {
  if (!least) return false;
  if (!dose || dose.unit !== least.unit || (dose.atMost ?? false) !== (least.atMost ?? false)) return true;
  return least.atMost ? dose.amount > least.amount : dose.amount < least.amount;
}

/** Stages in which somebody's weight is on him. */
const RIDDEN: readonly Step["stage"][] = ["riding", "schooling"];

/** Steps of somebody's own in which he is ridden: none before the gate of the first ride is behind him. */
function ownRides(program: Program, guard: Program): ProgramProblem[] {
  const first = guard.gates.filter(hasRole("first-ride")).flatMap(({ before }) => before);
  return program.steps.flatMap((step, index) =>
    RIDDEN.includes(step.stage) &&
    !findStep(guard, step.id) &&
    !first.some((one) => alwaysAbove(program, one).has(step.id))
      ? [
          {
            path: ["steps", index, "needs"],
            expected: `to rest on ${first.join(" or ")}: in this stage somebody sits on him`,
            found: `a way past the gate ${guard.gates.find(hasRole("first-ride"))?.id ?? ""}`,
          },
        ]
      : [],
  );
}

/** Marks of what is done on him, or with reins round him. */
const ON_HIM: readonly Step["marks"][number][] = ["weight", "onto-him", "first-ridden", "canter-ridden", "long-reins"];

/** Steps of somebody's own in which a person sits on him, or is behind him, and that may be begun on what is only good for today. */
function trustedOn(program: Program, guard: Program): ProgramProblem[] {
  const isOnHim = ({ stage, marks }: Step): boolean =>
    RIDDEN.includes(stage) || marks.some((mark) => ON_HIM.includes(mark));
  return program.steps.flatMap((step, index) =>
    !step.guarded && !findStep(guard, step.id) && isOnHim(step)
      ? [
          {
            path: ["steps", index, "guarded"],
            expected: "true: what it rests on has to be steady before somebody is on him or behind him",
            found: "false",
          },
        ]
      : [],
  );
}

/** Numbers that make a verdict stricter the higher they are, and the lower they are. */
const HIGHER: readonly (keyof JudgeNumbers)[] = [
  "share",
  "gateSure",
  "handlingSure",
  "latelySure",
  "lostUnder",
  "firstSure",
  "firstLost",
  "mendAsks",
  "enoughAsks",
  "enoughAfterMany",
  "gateDays",
  "handlingDays",
  "riderDays",
  "holdDays",
  "colds",
  "recent",
  "groundMost",
  "places",
  "people",
];
const LOWER: readonly (keyof JudgeNumbers)[] = [
  "gateFresh",
  "breakDays",
  "groundPer",
  "seriesWeight",
  "laterAsks",
  "holdMisses",
  "coldsLost",
  "tightLost",
  "mendedMost",
  "enoughMany",
  "enoughDays",
  "trustLinks",
];

/** Of those, what says when something may be begun on trust. */
const OF_TRUST: readonly (keyof JudgeNumbers)[] = [
  "enoughAsks",
  "enoughMany",
  "enoughAfterMany",
  "enoughDays",
  "trustLinks",
];

function laxNumbers({ judge }: Program, guard: Program): ProgramProblem[] {
  const lax = (names: readonly (keyof JudgeNumbers)[], isLax: (own: number, norm: number) => boolean, word: string) =>
    names
      .filter((name) => isLax(judge[name], guard.judge[name]))
      .map((name) => ({
        path: ["judge", name],
        expected: `${word} ${guard.judge[name]}: ${OF_TRUST.includes(name) ? "what is begun on trust goes" : "gates go"} by it`,
        found: String(judge[name]),
      }));
  return [...lax(HIGHER, (own, norm) => own < norm, "at least"), ...lax(LOWER, (own, norm) => own > norm, "at most")];
}

const hasRole =
  (role: GateRole) =>
  ({ roles }: Gate): boolean =>
    roles.includes(role);

/** Gates at which the stop is shown on the ground have to ask for it. */
function stopUnasked({ gates, stop }: Program): ProgramProblem[] {
  return gates.flatMap((gate, index) =>
    hasRole("stop-shown")(gate)
      ? stop
          .filter((step) => !gate.needs.some(({ anyOf }) => anyOf.every((way) => way.some((ref) => ref.step === step))))
          .map((step) => ({
            path: ["gates", index, "steps"],
            expected: `${step}, a step of this program's stop`,
            found: "dropped",
          }))
      : [],
  );
}

/** Kinds of stop: each stops him, on the ground, on both sides or in hand. */
const STOPS = ["stop-bend", "stop-line", "stop-reins"] as const;

function weakStop(program: Program, guard: Program): ProgramProblem[] {
  const isRidden = program.steps.some(({ stage }) => RIDDEN.includes(stage));
  const stops = STOPS.map((mark) => stepsMarked(guard, mark).map(({ id }) => id));
  if (!isRidden || stops.some((stop) => stop.every((id) => program.stop.includes(id)))) return [];
  return [
    {
      path: ["stop"],
      expected: `one of ${stops.map((stop) => stop.join(" with ")).join(", ")} among its steps`,
      found: program.stop.length > 0 ? program.stop.join(", ") : "none",
    },
  ];
}
