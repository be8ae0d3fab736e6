import {
  dayIn,
  type Care,
  type Day,
  type EventOf,
  type FoldedRecord,
  type Mood,
  type Phase,
  type RecordEvent,
  type StepId,
} from "../record";
import {
  asFarAsDose,
  formerOf,
  heirsOf,
  saidOf,
  type NamedProgram,
  type Program,
  type ProgramBook,
  type Step,
} from "../programs";

/** This horse's own standard of a step, as far as it differs from the program's. */
export interface OwnStandard {
  event: string;
  phase?: Phase;
  mood?: Mood;
  dose?: number;
}

/** Something a person said of a step, or of the whole horse, with the reason. */
export interface Said {
  event: string;
  reason: string;
  by?: string;
  until?: Day;
}

/** What was said of the horse itself and bears on its verdicts; only what stands, and the last word where there are several. */
export interface HorseAbout {
  program: { id: string; version?: number } | null;
  standards: Record<string, OwnStandard>;
  overrides: Record<string, Said>;
  /** By step; `""` is the whole horse. */
  holds: Record<string, Said>;
  /** Steps whose asks of the former shape were made in full, as somebody said: until when. */
  inFull?: Record<string, { event: string; until: string }>;
  /** Steps he held when he came to this program from another: they need not wait for what they rest on here. */
  carried?: string[];
  /** When each care was last given. */
  care: Partial<Record<Care, Day>>;
}

/** Reads what bears on verdicts out of the events said of a horse, in effective order, corrections applied. */
export function readAbout(events: readonly RecordEvent[], timeZone: string): HorseAbout {
  const about: HorseAbout = { program: null, standards: {}, overrides: {}, holds: {}, care: {} };
  for (const event of events) {
    if (event.type === "program") {
      const { program: id, programVersion: version } = event;
      about.program = { id, ...(version === undefined ? {} : { version }) };
      about.carried = [...(event.counted ?? [])];
    } else if (event.type === "standard")
      about.standards[event.step] = { ...about.standards[event.step], ...ownStandard(event) };
    else if (event.type === "in-full") {
      about.inFull ??= {};
      about.inFull[event.step] = { event: event.id, until: event.at };
    } else if (event.type === "override") about.overrides[event.step] = saidIn(event);
    else if (event.type === "hold") about.holds[event.step ?? ""] = saidIn(event);
    else if (event.type === "care") about.care[event.kind] = dayIn(timeZone, event.at);
  }
  return about;
}

const saidIn = (event: EventOf<"override"> | EventOf<"hold">): Said => ({
  event: event.id,
  reason: event.reason,
  ...(event.by ? { by: event.by } : {}),
  ...("until" in event && event.until ? { until: event.until } : {}),
});

const ownStandard = ({ id, phase, mood, dose }: EventOf<"standard">): OwnStandard => ({
  event: id,
  ...(phase === undefined ? {} : { phase }),
  ...(mood === undefined ? {} : { mood }),
  ...(dose === undefined ? {} : { dose }),
});

/** Whether a step of his need not wait for what it rests on: he held it when he came to this program. */
export function isCarried({ carried = [] }: HorseAbout, step: StepId): boolean {
  const former = formerOf(step);
  return carried.includes(step) || (former !== undefined && carried.includes(former));
}

/**
 * The holds that bind a step: its own, that of the step of a former edition it was a part of, those of the steps a later edition made of
 * it, and that of the whole horse. Who holds a part holds the whole: what guards a person takes the cautious reading.
 */
export function holdsOn({ holds }: HorseAbout, step: StepId): Said[] {
  const parts = heirsOf(step).filter((heir) => heir !== step);
  return [saidOf(holds, step), ...parts.map((heir) => holds[heir]), holds[""]].flatMap((hold) => hold ?? []);
}

/** What was said of the horse of a folded record. */
export const aboutOf = ({ ofHorse, timeZone }: FoldedRecord): HorseAbout => readAbout(ofHorse, timeZone);

/**
 * The program a horse is judged by: the last one chosen, else the one its record came with; on the edition of the catalogue of the version
 * that was named, where none was on that of its record. Unknown where it is not in the book.
 */
export function chosenProgram(ofRecord: NamedProgram, { program }: HorseAbout, book: ProgramBook): Program {
  const first = book.goneBy(ofRecord);
  return program ? book.goneBy(program, first.catalogue) : first;
}

/**
 * The program with this horse's own standards in it, and with what was said of his asks of the former shape. Standards hold for all he
 * ever did, as a rule improved later does. A phase where the step has none, or a dose, changes nothing.
 */
export function adjustedProgram(program: Program, { standards, inFull = {} }: HorseAbout): Program {
  const said = new Set([...Object.keys(standards), ...Object.keys(inFull)].flatMap((id) => [id, ...heirsOf(id)]));
  if (!program.steps.some(({ id }) => said.has(id))) return program;
  return {
    ...program,
    steps: program.steps.map((step) =>
      said.has(step.id) ? withFull(withOwn(step, ownOf(standards, step.id)), saidOf(inFull, step.id)?.until) : step,
    ),
  };
}

/** What was said of a step's standard; where it says nothing of something, what was said of the step of a former edition it was a part of. */
function ownOf(standards: HorseAbout["standards"], step: StepId): OwnStandard | undefined {
  const former = formerOf(step);
  const ofBoth = former === undefined ? undefined : standards[former];
  const own = standards[step];
  return own && ofBoth ? { ...ofBoth, ...own } : (own ?? ofBoth);
}

const withFull = (step: Step, until: string | undefined): Step =>
  until === undefined ? step : { ...step, ladder: { ...step.ladder, inFullUntil: Date.parse(until) } };

/** The program a horse is judged by, with his own standards in it. @param ofRecord the one his record came with */
export const horseProgram = (ofRecord: NamedProgram, about: HorseAbout, book: ProgramBook): Program =>
  adjustedProgram(chosenProgram(ofRecord, about, book), about);

function withOwn(step: Step, own: OwnStandard | undefined): Step {
  const { phase, mood } = step.standard;
  const dose = step.standard.dose && { ...step.standard.dose, amount: own?.dose ?? step.standard.dose.amount };
  return {
    ...step,
    standard: {
      ...step.standard,
      phase: phase === null ? null : (own?.phase ?? phase),
      mood: own?.mood ?? mood,
      dose,
    },
    ladder: asFarAsDose(step.ladder, dose),
  };
}
