import {
  type Diary,
  type EntryView,
  type FeelView,
  type HorseView,
  type OutingSummary,
  type OutingView,
  type BriefView,
  type StepView,
  type YardView,
} from "../http";
import { writeBrief } from "@still-pine/core/planning";
import { formerOf, type Program, type ProgramBook } from "@still-pine/core/programs";
import {
  type Finding,
  aboutOf,
  adjustedProgram,
  describeChanges,
  explainStep,
  findingInWords,
  gatherOn,
  judgeState,
  wordsOf,
  type Gathered,
  type Judgement,
  type Standing,
  type VerdictChange,
} from "@still-pine/core/readiness";
import {
  addDays,
  ageOn,
  isAsk,
  isCorrection,
  isSeries,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
  type StepId,
} from "@still-pine/core/record";
import type { Labels } from "./labels";
import { horseLine, nextFor, type HorseRow } from "./line";

/** Views put together from what was folded: the same on the server and on a phone that is alone. */

/** Places and people that a finding names by their ids, by their labels. */
function named(judgement: Judgement, { place, person }: Labels): Judgement {
  const nameOf = (id: string): string => place.get(id) ?? person.get(id) ?? id;
  return {
    ...judgement,
    findings: judgement.findings.map((finding): Finding =>
      finding.code === "elsewhere"
        ? { ...finding, have: { ...finding.have, shown: finding.have.shown.map(nameOf) } }
        : finding,
    ),
  };
}

interface OfHorse {
  row: HorseRow;
  standing: Standing;
  today: Day;
}

/** A horse's own page. @param ofHorse what is said of the horse itself, with every correction of it */
export function composeHorse({
  yard,
  row,
  standing,
  today,
  labels,
  page,
  ofHorse: { events, folded },
}: OfHorse & {
  yard: YardView;
  labels: Labels;
  page: Diary;
  ofHorse: { events: readonly RecordEvent[]; folded: FoldedRecord };
}): HorseView {
  return {
    yard,
    horse: horseLine(row, standing, today),
    judgements: standing.judgements.map((one) => named(one, labels)),
    gates: standing.gates,
    next: nextFor(row, standing, today),
    formerAsks: [...standing.formerAsks],
    outings: page.outings,
    outingCount: page.total,
    entries: entriesOf(
      events.toSorted((a, b) => Date.parse(b.at) - Date.parse(a.at)),
      folded,
    ),
  };
}

/**
 * A step's own page.
 *
 * @param state the step in `gathered`
 * @param explained where its asks are read from, in case the outings that are known are fewer than were gathered
 */
export function composeStep({
  row,
  standing,
  today,
  folded,
  gathered,
  state,
  explained = gathered,
}: OfHorse & {
  folded: FoldedRecord;
  gathered: Gathered;
  state: Gathered["steps"][number];
  explained?: Gathered;
}): StepView {
  const step = state.step.id;
  return {
    horse: horseLine(row, standing, today),
    judgement: judgeState(gathered, state, today),
    standard: state.step.standard,
    ladder: state.step.ladder,
    asks: explainStep(folded, explained, step),
    said: entriesOf(
      folded.ofHorse.filter(
        (event) =>
          SAID_OF_STEPS.includes(event.type) &&
          [step, formerOf(step), undefined].includes((event as { step?: StepId }).step),
      ),
      folded,
    ),
  };
}

/** Where answers lay on the feel square in these outings. */
export const composeFeel = (outings: readonly FoldedOuting[]): FeelView => ({
  outings: outings.map(({ id: outing, day }) => ({ id: outing, day })),
  answers: outings.flatMap(({ events }, index) => countAnswers(events).map((one) => ({ outing: index, ...one }))),
});

/** So many outings back a brief looks. */
export const BRIEF_OUTINGS = 20;

/** The brief for a horse's next outing. @param outings the last ones, in order */
export function composeBrief({
  yard,
  row,
  standing,
  today,
  outings,
}: OfHorse & { yard: YardView; outings: readonly FoldedOuting[] }): BriefView {
  const line = horseLine(row, standing, today);
  return {
    yard,
    horse: line,
    brief: writeBrief({
      program: standing.program,
      judgements: standing.judgements,
      next: nextFor(row, standing, today),
      outings: outings.slice(-BRIEF_OUTINGS),
      workDays: line.workDays,
      firstDay: line.calendarDays === 0 ? null : addDays(today, 1 - line.calendarDays),
      today,
      monthsAtLeast: ageOn(row.foaled, row.foaledPrecision, today).monthsAtLeast,
    }),
  };
}

/** What an outing adds up to. */
export function sumsOf({ events }: FoldedOuting): { asks: number; mishaps: number; steps: string[] } {
  return {
    asks: events.reduce((sum, event) => sum + (isAsk(event) ? 1 : isSeries(event) ? event.count : 0), 0),
    mishaps: events.filter((event) => event.type === "mishap").length,
    steps: [...new Set(events.flatMap((event) => (isAsk(event) || isSeries(event) ? event.step : [])))],
  };
}

/** An outing as a line of the diary. */
export function summarize(outing: FoldedOuting, labels: Labels): OutingSummary {
  const { place, handler } = outing.head;
  const nameOf = (kind: keyof Labels, id: unknown): string | null =>
    typeof id === "string" ? (labels[kind].get(id) ?? id) : null;
  return {
    id: outing.id,
    day: outing.day,
    startedAt: outing.startedAt,
    endedAt: outing.endedAt,
    place: nameOf("place", place),
    handler: nameOf("person", handler),
    ...sumsOf(outing),
  };
}

/** The program an outing was worked under, as it was for that horse; the one of now where it names none. */
export function programThen(
  { head }: FoldedOuting,
  now: Program,
  about: ReturnType<typeof aboutOf>,
  book: ProgramBook,
): Program {
  const { program: id, programVersion: version } = head;
  const under = typeof id === "string" && typeof version === "number" ? book.find(id, version) : now;
  return adjustedProgram(under, about);
}

/** What one outing's page is put together from. */
export interface OutingParts {
  summary: OutingSummary;
  /** As it is shown, with labels. */
  outing: FoldedOuting;
  folded: FoldedRecord;
  /** The same one as the judge reads it. */
  judged: FoldedOuting;
  /** What was gathered before it, and is gathered on; null where that is not known: then nothing is said of changes. */
  before: Gathered | null;
  /** Names of devices, by what they call themselves. */
  recorders: Record<string, string>;
}

/** One outing with every entry. */
export function composeOuting({
  row,
  standing,
  today,
  summary,
  outing,
  folded,
  judged,
  before,
  recorders,
}: OfHorse & OutingParts): OutingView {
  const { program: id, programVersion: version } = outing.head;
  const was = before && wordsOf(before, outing.day);
  const gathered = before && gatherOn(before, [judged]);
  const words = gathered ? wordsOf(gathered, outing.day) : [];
  const then = new Map(words.map((one) => [one.step, one.status]));
  const now = new Map(standing.judgements.map((one) => [one.step, one.status]));
  return {
    horse: horseLine(row, standing, today),
    outing: summary,
    head: outing.head,
    program: typeof id === "string" && typeof version === "number" ? { id, version } : null,
    verdicts: summary.steps.map((step) => ({
      step,
      before: then.get(step) ?? null,
      now: now.get(step) ?? null,
    })),
    changes:
      was && gathered
        ? describeChanges(was, words, gathered.program).map((change) => ({
            change,
            why: whyNotSteady(gathered, change, outing.day),
          }))
        : [],
    entries: entriesOf(
      outing.history.filter((event) => event.type !== "outing-start" && event.type !== "outing-end"),
      folded,
    ),
    pairs: folded.pairs,
    recorders,
  };
}

/** What a person can say of a step that bears on it. */
const SAID_OF_STEPS: readonly string[] = ["standard", "override", "hold", "in-full"];

function countAnswers(events: readonly RecordEvent[]): Omit<FeelView["answers"][number], "outing">[] {
  const counts = new Map<string, Omit<FeelView["answers"][number], "outing">>();
  for (const event of events) {
    if (!isAsk(event) || event.answer !== "gave" || event.mood === undefined) continue;
    const { step, phase = null, mood } = event;
    const key = `${step} ${phase} ${mood}`;
    const one = counts.get(key);
    if (one) one.count += 1;
    else counts.set(key, { step, phase, mood, count: 1 });
  }
  return [...counts.values()];
}

const REASONS_SHOWN = 2;

/** What a step still lacks after a change, or a side of it; nothing where it is steady. */
function whyNotSteady(gathered: Gathered, { step, side }: VerdictChange, day: Day): string[] {
  const state = gathered.byId.get(step);
  if (!state) return [];
  return judgeState(gathered, state, day)
    .findings.filter((one) => !one.met && (side === undefined || one.side === undefined || one.side === side))
    .filter(({ code }) => side === undefined || code !== "both-sides")
    .slice(0, REASONS_SHOWN)
    .map((finding) => findingInWords(finding, gathered.program));
}

/** Entries with all that was said of them; corrections are not entries themselves. */
function entriesOf(events: readonly RecordEvent[], { corrections }: FoldedRecord): EntryView[] {
  const { standingOf, about, isUndone } = corrections;
  return events
    .filter((event) => !isCorrection(event))
    .map((event) => {
      const standing = standingOf(event);
      return {
        event,
        current: standing.event,
        voided: standing.voided,
        corrections: about(event.id).map((one) => ({ event: one, undone: isUndone(one) })),
      };
    });
}
