import { catalogueOf } from "./catalogue";
import { FIRST_EDITION } from "./editions";
import {
  STOP,
  type Catalogue,
  type GateFile,
  type NeedFile,
  type ProgramFile,
  type RefFile,
  type StandardFile,
  type StepFile,
} from "./file-types";
import type { ProgramProblem } from "./graph";
import { asFarAsDose, LADDERS, placeOfRung, readLadder } from "./ladders";
import type {
  CoachSettings,
  Dose,
  Gate,
  GateKind,
  GateRole,
  JudgeNumbers,
  Ladder,
  Need,
  NeedRef,
  Program,
  Step,
  StepMark,
  Ways,
} from "./types";

/** Still Pine's own judgement, adjustable by each program. */
export const DEFAULT_NUMBERS: JudgeNumbers = {
  share: 0.75,
  sure: 0.8,
  gateSure: 0.9,
  handlingSure: 0.85,
  latelySure: 0.8,
  lostUnder: 0.3,
  forgetBy: 0.8,
  forgetPer: 3,
  longPer: 6,
  laterAsks: 0.5,
  seriesWeight: 0.5,
  holdDays: 3,
  holdMisses: 2,
  days: 2,
  handlingDays: 2,
  gateDays: 3,
  riderDays: 4,
  colds: 2,
  coldsLost: 2,
  firstBy: 0.92,
  firstSure: 0.7,
  firstLost: 0.2,
  enoughAsks: 3,
  enoughMany: 6,
  enoughAfterMany: 4,
  enoughDays: 7,
  trustLinks: 2,
  mendAsks: 2,
  mendedMost: 1,
  recent: 2,
  tightLost: 2,
  places: 2,
  people: 2,
  freshPerDay: 30,
  freshAtMost: 180,
  gateFresh: 14,
  breakDays: 14,
  groundPer: 14,
  groundMost: 6,
  soonDays: 7,
  gapAtLeast: 0.25,
  gapAsks: 3,
  cornerAtLeast: 3,
  cornerShare: 0.5,
  creepOutings: 3,
  creepRise: 0.75,
  offersAtLeast: 3,
};

/** What most schools do: a minute and a half on one thing, keep on through a fright until he is still, no building on a first day. */
export const DEFAULT_COACH: CoachSettings = {
  spurtSeconds: 90,
  spurtsMost: 3,
  stuck: "angle",
  fright: "keep-on",
  firstDay: "no-more",
  standing: "grows",
  stickyShare: 1.5,
  spareAsks: 3,
  pieces: 8,
  newPieces: 3,
};

/** The least age for line canter and for riding is Still Pine's own judgement for young bodies, not a norm; weeks of carrying the bit are a rule of thumb. */
export const DEFAULT_WAYS: Ways = {
  pressure: "phases",
  pressureMost: 4,
  reward: "rest",
  lead: "behind",
  headgear: "rope-halter",
  begin: "sticky",
  firstMount: "fence",
  firstRidesIn: "halter",
  twoEyes: true,
  quarters: "never",
  contactWeeks: 2,
  canterMonths: 36,
  ridingMonths: 36,
};

/**
 * Makes a program of what is written down and a catalogue. Says nothing of whether it is sound: `problemsOf` does.
 *
 * @param catalogue of the edition the file names, where it is not another one
 */
export function buildProgram(file: ProgramFile, catalogue: Catalogue = catalogueOf(file.catalogue)): Program {
  const { stop, optional = [], stageNeeds = {} } = file;
  const ways = { ...DEFAULT_WAYS, ...file.ways };
  const { steps, gates } = onTheRoad(file, catalogue);
  const read = (list: readonly NeedFile[]): Need[] => list.flatMap((need) => readNeed(need, stop));
  const asCatalogued = stepsOf(catalogue);
  // What guards a person stays with a step or a gate of the catalogue, whatever a file says of it.
  const marksOf = ({ id, marks = [] }: StepFile): StepMark[] => [
    ...new Set([...(asCatalogued.byId.get(id)?.marks ?? []), ...marks]),
  ];
  const isGuarded = ({ id, guarded }: StepFile): boolean => {
    const catalogued = asCatalogued.byId.get(id);
    return catalogued ? catalogued.guarded || guarded === true : guarded !== false;
  };
  const rolesOf = ({ id, roles = [] }: GateFile): GateRole[] => [
    ...new Set([...(catalogue.gates.find((gate) => gate.id === id)?.roles ?? []), ...roles]),
  ];
  const kindOf = ({ id, kind }: GateFile): GateKind =>
    catalogue.gates.find((gate) => gate.id === id)?.kind ?? kind ?? "rider";
  const readOnRoad = ({ step, needs }: OnTheRoad): Step => {
    const known = asCatalogued.byFile.get(step);
    const ofStage = stageNeeds[step.stage] ?? [];
    if (known && needs === step.needs && ofStage.length === 0 && !needs.includes(STOP)) return known;
    return { ...(known ?? readStep(step, marksOf(step), isGuarded(step))), needs: read([...needs, ...ofStage]) };
  };
  const all = [...(file.steps ?? catalogue.steps), ...(file.ownSteps ?? [])];
  const marked = (mark: StepMark): string[] => all.flatMap((step) => (marksOf(step).includes(mark) ? [step.id] : []));
  return {
    id: file.id,
    version: file.version,
    catalogue: file.catalogue ?? FIRST_EDITION,
    name: file.name,
    about: file.about,
    judge: { ...DEFAULT_NUMBERS, ...file.judge },
    coach: { ...DEFAULT_COACH, ...file.coach },
    ways,
    stop,
    optional,
    steps: steps.map((one) => goneAbout(readOnRoad(one), ways, file, marked)),
    gates: gates.map(({ steps: needs, ridden, riddenBefore, ...gate }): Gate => ({
      ...gate,
      kind: kindOf({ ...gate, steps: needs }),
      roles: rolesOf({ ...gate, steps: needs }),
      needs: read(needs),
      ...(ridden ? { ridden: { before: riddenBefore ?? [], needs: read(ridden) } } : {}),
    })),
  };
}

/** A step of a road and what it rests on there. */
interface OnTheRoad {
  step: StepFile;
  needs: readonly NeedFile[];
}

/** The steps and gates of a file in the order of its road. A step of which the file says nothing is the catalogue's own object. */
function onTheRoad(
  { steps, gates, road, ownSteps = [], ends = [], needs = {}, standards = {} }: ProgramFile,
  catalogue: Catalogue,
): { steps: readonly OnTheRoad[]; gates: readonly GateFile[] } {
  const asSaid = (step: StepFile): StepFile => {
    const standard = standards[step.id];
    const isEnd = ends.includes(step.id);
    return standard || isEnd ? { ...step, ...standardOf(step, standard), ...(isEnd ? { end: true } : {}) } : step;
  };
  const all = [...(steps ?? catalogue.steps), ...ownSteps].map((step): OnTheRoad => ({
    step: asSaid(step),
    needs: needs[step.id] ?? step.needs,
  }));
  if (!road) return { steps: all, gates: gates ?? catalogue.gates };
  const byId = new Map(all.map((one) => [one.step.id, one]));
  const onRoad = new Set([...road, STOP]);
  const has = (id: string): boolean => onRoad.has(id);
  const passable = (list: readonly NeedFile[]): readonly NeedFile[] => {
    const past = list.map((need) => waysPast(need, has));
    return past.every((need, index) => need === list[index]) ? list : past;
  };
  return {
    steps: road.flatMap((id) => {
      const one = byId.get(id);
      return one ? [{ step: one.step, needs: passable(one.needs) }] : [];
    }),
    gates:
      gates ??
      catalogue.gates
        .map((gate) => ({
          ...gate,
          before: gate.before.filter(has),
          steps: passable(gate.steps),
          ...(gate.ridden && gate.riddenBefore?.some(has)
            ? { ridden: gate.ridden, riddenBefore: gate.riddenBefore.filter(has) }
            : { ridden: undefined, riddenBefore: undefined }),
        }))
        .filter(({ before, beforeCare }) => before.length > 0 || beforeCare !== undefined),
  };
}

function standardOf(
  { phase, mood, dose }: StepFile,
  own: StandardFile = {},
): Pick<StepFile, "phase" | "mood" | "dose" | "within" | "lateSpoils" | "rung"> {
  return {
    phase: phase === null ? null : (own.phase ?? phase),
    mood: own.mood ?? mood,
    ...(dose ? { dose: { ...dose, amount: own.dose ?? dose.amount } } : {}),
    ...(own.within === undefined ? {} : { within: own.within }),
    ...(own.lateSpoils === undefined ? {} : { lateSpoils: own.lateSpoils }),
    ...(own.rung === undefined ? {} : { rung: own.rung }),
  };
}

const idOf = (ref: RefFile): string => (typeof ref === "string" ? ref : ref.step);

/** A need without the ways a road does not come by; the same where it comes by all, or by none, so that the lack is seen. */
function waysPast(need: NeedFile, has: (id: string) => boolean): NeedFile {
  if (!Array.isArray(need)) return need;
  const left = need.filter((way) =>
    typeof way === "object" && "all" in way ? way.all.every((ref) => has(idOf(ref))) : has(idOf(way)),
  );
  return left.length > 0 && left.length < need.length ? left : need;
}

/** Who gives a leg-up, who holds, and who gets up. */
const LEG_UP_PEOPLE = 3;

/** Any one of these steps. */
const anyOf = (ids: readonly string[]): Need[] => (ids.length > 0 ? [{ anyOf: ids.map((step) => [{ step }]) }] : []);

/** What a step rests on and takes, as the program goes about the first rides. @param marked ids of steps by their mark */
function goneAbout(
  step: Step,
  { firstMount, firstRidesIn }: Ways,
  { needs = {} }: ProgramFile,
  marked: (mark: StepMark) => readonly string[],
): Step {
  const is = (mark: StepMark): boolean => step.marks.includes(mark);
  if (is("mount-place") && !needs[step.id] && firstMount !== "fence") {
    const linedUp = marked("lined-up");
    const asksIt = (need: Need): boolean => need.anyOf.some((way) => way.some((ref) => linedUp.includes(ref.step)));
    const lineUp = firstMount === "block" ? anyOf(linedUp) : [];
    return { ...step, needs: [...step.needs.filter((need) => !asksIt(need)), ...lineUp] };
  }
  if (is("onto-him") && firstMount === "leg-up") return { ...step, people: LEG_UP_PEOPLE };
  if (is("first-ridden") && firstRidesIn === "snaffle")
    return { ...step, needs: [...step.needs, ...anyOf(marked("bridled"))] };
  return step;
}

interface CatalogueSteps {
  byId: ReadonlyMap<string, Step>;
  byFile: ReadonlyMap<StepFile, Step>;
}
const stepsKnown = new WeakMap<Catalogue, CatalogueSteps>();

/** The steps of a catalogue as it has them; most steps of most programs are these very objects. What rests on a program's stop has yet to be told of it. */
function stepsOf(catalogue: Catalogue): CatalogueSteps {
  let known = stepsKnown.get(catalogue);
  if (!known) {
    const read = catalogue.steps.map((file): [StepFile, Step] => [
      file,
      {
        ...readStep(file, file.marks ?? [], file.guarded === true),
        needs: file.needs.flatMap((need) => readNeed(need, [])),
      },
    ]);
    known = { byFile: new Map(read), byId: new Map(read.map(([, step]) => [step.id, step])) };
    stepsKnown.set(catalogue, known);
  }
  return known;
}

/** A step as it is written down, without what it rests on. */
function readStep(file: StepFile, marks: readonly StepMark[], guarded: boolean): Step {
  const { phase, mood, withoutTool, within, lateSpoils, british } = file;
  const { dose, ladder } = readStandardRung(file);
  return {
    id: file.id,
    stage: file.stage,
    name: file.name,
    ...(british ? { british } : {}),
    side: file.side,
    ends: file.ends,
    kind: file.kind ?? "moment",
    standard: {
      phase,
      mood,
      dose,
      ...(withoutTool ? { withoutTool } : {}),
      ...(within === undefined ? {} : { within }),
      ...(within !== undefined && lateSpoils ? { lateSpoils } : {}),
    },
    needs: [],
    guarded,
    elsewhere: file.elsewhere ?? [],
    still: file.still ?? false,
    end: file.end ?? false,
    rungs: file.rungs ?? [],
    ladder,
    people: file.people ?? 1,
    marks,
  };
}

/** The ladder with the standard as far as the dose, or as far as the rung that is named, and the dose of that. */
function readStandardRung({ id, dose: own, rung }: StepFile): { dose: Dose | null; ladder: Ladder } {
  const dose = own ?? null;
  const ladder = readLadder(LADDERS.get(id));
  const standard = rung === undefined ? -1 : placeOfRung(ladder, rung);
  if (standard < 0) return { dose, ladder: asFarAsDose(ladder, dose) };
  const { dose: amount, at } = ladder.rungs[standard] ?? {};
  if (!dose || amount === undefined) return { dose, ladder: { ...ladder, standard } };
  const { at: _at, ...measure } = dose;
  return { dose: { ...measure, amount, ...(at === undefined ? {} : { at }) }, ladder: { ...ladder, standard } };
}

/** Standards of a file that name a rung which the ladder of their step does not have. */
export const rungsNotThere = ({ standards = {} }: ProgramFile): ProgramProblem[] =>
  Object.entries(standards).flatMap(([step, { rung }]) => {
    const ladder = readLadder(LADDERS.get(step));
    if (rung === undefined || placeOfRung(ladder, rung) >= 0) return [];
    const ids = ladder.rungs.map(({ id }) => id).join(", ");
    return [{ path: ["standards", step, "rung"], expected: `a rung of ${step}: ${ids}`, found: rung }];
  });

const readRef = (ref: RefFile): NeedRef => (typeof ref === "string" ? { step: ref } : ref);

function readNeed(need: NeedFile, stop: readonly string[]): Need[] {
  if (need === STOP) return stop.map((step) => ({ anyOf: [[{ step }]] }));
  if (!Array.isArray(need)) return [{ anyOf: [[readRef(need)]] }];
  return [
    {
      anyOf: need.map((way) => (typeof way === "object" && "all" in way ? way.all.map(readRef) : [readRef(way)])),
    },
  ];
}
