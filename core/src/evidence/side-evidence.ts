import { type AskEvent, type Day, type Phase, type SeriesEvent } from "../record";
import type { JudgeNumbers, Standard, Step } from "../programs";
import { asksStandardAt, countInSeries, isFirstOfSeriesClean, isTry, worthOfAsk, type Worth } from "./classify";
import { NOTHING_SHOWN, noteWhole, withAsk, withVisit, type OutingFacts, type Shown, type Watch } from "./shown";
import {
  cornerOf,
  createVisit,
  creepOf,
  firstOfDay,
  isAnyHeavyFrom,
  isOtherwiseClean,
  isRestoring,
  isUnquiet,
  unquietFrom,
  noted,
  noteFeel,
  noteHow,
  noteLater,
  noteMood,
  recentFrom,
  usualPhaseOf,
  weightAfter,
  weightOf,
  type Corner,
  type Visit,
} from "./visit";
import { copyOf, countBefore, isSeriesEvent, noteLast, type Entry, type SavedSide } from "./entry";
import { Memories } from "./memories";
import { Freshness } from "./freshness";
import { breakRow, EnoughForToday, takeIntoRow, takeSeriesIntoRow } from "./enough";

const TRIM_FIRST_AT = 72;

/**
 * What the answers show of one step on one side, built up outing by outing in effective order. Holds running sums only as
 * far as the rules need them; `visits` keeps what an ask proven later has to reopen.
 */
export class SideEvidence {
  /** Asks and series, oldest first: those that still carry weight, or all of them where the whole history is kept. */
  entries: Entry[] = [];
  readonly visits: Visit[] = [];
  /** Any ask at all, neutral and practice included. */
  asked = 0;
  /** Asks that count, a series at its half, not forgotten. */
  count = 0;
  days = 0;
  /** The event that last showed it clean. */
  lastCleanEvent: string | null = null;
  /** The last cold asks, so many as are asked for. */
  readonly colds: { id: string; clean: boolean }[] = [];
  shown: Shown = NOTHING_SHOWN;
  eased = false;
  /** Outings in which it was asked, and whether he ever gave it. */
  outings = 0;
  gave = false;
  lastOnes: boolean[] = [];
  /** When the standard was first asked: from then on a miss of less is one of it too. */
  standardAsked: string | null = null;
  lastDay: Day | null = null;
  private open: Visit | null = null;
  private afterMiss = false;
  private pending: Entry[] = [];
  private carriedKnown: readonly string[] | null = null;
  private trimAt = TRIM_FIRST_AT;
  readonly memories: Memories;
  readonly fresh: Freshness;
  readonly enough: EnoughForToday;
  readonly standard: Standard;

  constructor(
    readonly step: Step,
    private readonly numbers: JudgeNumbers,
    private readonly watch: Watch,
    private readonly keepsAll = false,
  ) {
    this.standard = step.standard;
    this.fresh = new Freshness(numbers);
    this.memories = new Memories(numbers);
    this.enough = new EnoughForToday(this.visits, step, numbers);
  }

  /** Whether an outing is open on this side. */
  get isOpen(): boolean {
    return this.open !== null;
  }

  ask(event: AskEvent, outing: number, day: Day, stepWorkedBefore: boolean): void {
    const visit = this.visit(outing, day);
    this.asked += 1;
    noteMood(visit, event);
    const worth = this.worthOf(event, visit);
    noteHow(visit, event, worth, this.step);
    const entry: Entry = { event, outing, worth, cold: false, clean: 0, not: 0 };
    this.entries.push(entry);
    if (worth === "neutral" || worth === "practice") return;
    const isClean = worth === "clean";
    if (event.answer === "gave") noteFeel(visit, event, 1, this.standard);
    this.noteCold(visit, entry, isClean, stepWorkedBefore);
    this.testLucky(this.standard.phase === null ? undefined : event.phase, isClean);
    const isFirst = this.isFirstOfDay(visit);
    if (isFirst) visit.first = isClean;
    else noteLater(visit, isClean);
    visit.counted = true;
    if (isClean && this.afterMiss) {
      entry.worth = "lucky";
      this.pending.push(entry);
    } else {
      entry.clean = isClean ? 1 : 0;
      entry.not = isClean ? 0 : 1;
      if (isClean) this.shown = withAsk(this.shown, this.watch, event);
      this.noteLast(isClean, 1);
      const weight = this.memories.longWeight(isFirst);
      this.add(visit, entry, isClean ? weight : 0, isClean ? 0 : weight);
    }
    this.afterMiss = event.answer === "none" || event.answer === "against";
  }

  /** What an ask is worth; it is taken into the outing's row as it came. A try at something new is practice: nothing against him, until he first gave it. */
  private worthOf(event: AskEvent, visit: Visit): Worth {
    const worth = worthOfAsk(event, this.step, this.standardAsked !== null);
    takeIntoRow(visit, worth, event);
    this.standardAsked ??= asksStandardAt(event, this.step);
    if (event.answer === "gave" && worth !== "practice" && worth !== "neutral") this.gave = true;
    return !this.gave && isTry(event, worth, this.outings) ? "practice" : worth;
  }

  series(event: SeriesEvent, outing: number, day: Day, stepWorkedBefore: boolean): void {
    const visit = this.visit(outing, day);
    this.asked += event.count;
    noteMood(visit, event);
    noteHow(visit, event, "series", this.step);
    this.standardAsked ??= asksStandardAt(event, this.step);
    const { clean, missed } = countInSeries(event, this.step);
    const isPractice = clean + missed === 0;
    if (!isPractice) takeSeriesIntoRow(visit, clean, missed);
    const entry: Entry = { event, outing, worth: isPractice ? "practice" : "series", cold: false, clean: 0, not: 0 };
    this.entries.push(entry);
    if (isPractice) return;
    this.gave ||= clean > 0 || event.first === "gave";
    const firstClean = isFirstOfSeriesClean(event, this.step);
    if (firstClean !== null) {
      this.noteCold(visit, entry, firstClean, stepWorkedBefore);
      this.testLucky(this.standard.phase === null ? undefined : event.phase, firstClean);
    }
    if (clean > 0 || event.first === "gave")
      noteFeel(visit, event, Math.floor(event.count * this.numbers.seriesWeight), this.standard);
    const isFirst = this.isFirstOfDay(visit);
    if (isFirst && firstClean !== null) visit.first = firstClean;
    visit.counted = true;
    if (clean > 0) this.shown = withAsk(this.shown, this.watch, event);
    entry.clean = clean * this.numbers.seriesWeight;
    entry.not = missed * this.numbers.seriesWeight;
    this.noteLast(true, clean);
    this.noteLast(false, missed);
    const [longClean, longNot] = this.memories.longWeights(clean, missed, isFirst, firstClean);
    this.add(visit, entry, longClean, longNot);
    this.afterMiss = false;
  }

  /** Notes a mishap while this side was worked. */
  upset(id: string, outing: number, day: Day): void {
    const visit = this.visit(outing, day);
    visit.upset = noted(visit.upset, id);
    breakRow(visit);
  }

  /** Ends the outing on this side: what came before it is outweighed by what it added. Some things belong to the whole outing. */
  close(facts: OutingFacts, way: "near" | "off" | "none"): void {
    const visit = this.open;
    if (!visit) return;
    noteWhole(visit, this.watch, facts, way);
    if (facts.shutDown.length > 0) breakRow(visit);
    if (isUnquiet(visit)) this.eased = false;
    else if (facts.eased) this.eased = true;
    this.memories.weigh(visit);
    if (visit.counted && visit.day !== this.lastDay) {
      this.days += 1;
      this.lastDay = visit.day;
    }
    if (visit.first !== undefined) this.memories.weighFirst(visit.first);
    if (visit.clean > 0) {
      this.fresh.showClean(visit.day, isRestoring(visit));
      this.shown = withVisit(this.shown, visit, this.numbers);
    }
    if (!this.keepsAll && this.entries.length > this.trimAt) this.dropWeightless();
    this.open = null;
    this.afterMiss = false;
    this.carriedKnown = null;
  }

  /** Misses among the last asks that a hold is judged by. */
  lastMisses(): number {
    return this.lastOnes.filter((clean) => !clean).length;
  }

  /** The visits since the beginning of the last but one that counts: the "last two outings" of rules 4 and 5. */
  recent(count = this.numbers.recent): Visit[] {
    return this.visits.slice(recentFrom(this.visits, count));
  }

  /** By how much the mean phase rose over the last outings, where it rose in each of them; else null. */
  creep(): number | null {
    return creepOf(this.visits, this.numbers);
  }

  /** Asks and series of the last outings, of those still kept. */
  lateEntries(count = this.numbers.recent): Entry[] {
    return this.entries.slice(countBefore(this.entries, this.recent(count)[0]?.outing ?? 0));
  }

  /** How many of the last two outings were not free of tight, over, shut down and mishaps. */
  unquietOutings(): number {
    return unquietFrom(this.visits, recentFrom(this.visits, this.numbers.recent));
  }

  /** Whether any answer of the last two outings took more than the standard's phase. */
  hasHeavy(): boolean {
    return isAnyHeavyFrom(this.visits, recentFrom(this.visits, this.numbers.recent));
  }

  /** Ids of what was noted of the last two outings. */
  ofLate(name: "upset" | "tight" | "shutDown" | "unsaid" | "spoiled" | "late"): string[] {
    return this.recent().flatMap((visit) => visit[name]);
  }

  /** The usual phase of the last two outings' `gave` answers: the median, the heavier one of two. Null without any. */
  usualPhase(): Phase | null {
    return usualPhaseOf(this.recent());
  }

  /** Ids of the answers in a corner of the feel square, where there are enough of them to give it its name. */
  corner(corner: Corner): string[] {
    return cornerOf(this.recent(), corner, this.numbers);
  }

  /** Good answers right after a miss that have not been tested yet. */
  lucky(): string[] {
    return this.pending.map((entry) => entry.event.id);
  }

  /** Ids of the asks and series that carry its weight, latest first. Call between outings. */
  carriedBy(): readonly string[] {
    return (this.carriedKnown ??= this.findCarrying());
  }

  private findCarrying(): string[] {
    const ids: string[] = [];
    let later = 0;
    let at = this.visits.length - 1;
    for (const { event, outing, clean, not } of this.entries.toReversed()) {
      for (; (this.visits[at]?.outing ?? outing) > outing; at -= 1) later += weightOf(this.visits[at]);
      if (!this.memories.shows(later)) break;
      if (clean + not > 0) ids.push(event.id);
    }
    return ids;
  }

  /** What an outing's asks are still worth now among the last ones, for showing. */
  keptOf(outing: number): number {
    return this.memories.leftLately(weightAfter(this.visits, outing));
  }

  private visit(outing: number, day: Day): Visit {
    if (this.open) return this.open;
    const visit = createVisit(outing, day);
    this.visits.push(visit);
    this.outings += 1;
    this.open = visit;
    return visit;
  }

  /** Whether the next ask that counts is the first of its day on this side. */
  private isFirstOfDay(visit: Visit): boolean {
    return !visit.counted && visit.day !== this.lastDay;
  }

  private add(visit: Visit, entry: Entry, longClean: number, longNot: number): void {
    visit.clean += entry.clean;
    visit.not += entry.not;
    visit.longClean += longClean;
    visit.longNot += longNot;
    if (entry.clean > 0) this.lastCleanEvent = entry.event.id;
    this.count += entry.clean + entry.not;
  }

  /** Lets go of entries whose weight no longer shows, and of visits nothing looks back to. */
  private dropWeightless(): void {
    let later = 0;
    let index = this.visits.length - 1;
    for (; index > 0 && this.memories.shows(later); index -= 1) later += weightOf(this.visits[index]);
    const from = Math.min(index, this.looksBackTo());
    this.entries.splice(0, countBefore(this.entries, this.visits[from]?.outing ?? 0));
    this.visits.splice(0, from);
    this.trimAt = Math.max(TRIM_FIRST_AT, this.entries.length * 2);
  }

  /** Index of the first visit that a rule or a late proof may still look at. */
  private looksBackTo(): number {
    const most = Math.max(this.numbers.recent, this.numbers.creepOutings);
    const oldest = Math.min(this.recent(most)[0]?.outing ?? 0, ...this.pending.map((entry) => entry.outing));
    // A late proof asks whether another visit of that day was clean.
    return firstOfDay(this.visits, oldest);
  }

  private noteCold(visit: Visit, entry: Entry, clean: boolean, stepWorkedBefore: boolean): void {
    // What he learnt earlier today has not stayed yet.
    if (visit.counted || !stepWorkedBefore || visit.day === this.lastDay) return;
    entry.cold = true;
    visit.cold = clean;
    if (this.colds.length >= Math.max(this.numbers.colds, this.numbers.coldsLost)) this.colds.shift();
    this.colds.push({ id: entry.event.id, clean });
  }

  /** The next ask at the same or a lighter phase proves a lucky answer, or lays it aside. */
  private testLucky(phase: Phase | undefined, isClean: boolean): void {
    if (this.pending.length === 0) return;
    const still: Entry[] = [];
    for (const entry of this.pending) {
      const luckyPhase = isSeriesEvent(entry.event) ? undefined : entry.event.phase;
      const isTest = phase === undefined || luckyPhase === undefined || phase <= luckyPhase;
      if (!isTest) still.push(entry);
      else if (isClean) this.prove(entry);
      else entry.worth = "failed-lucky";
    }
    this.pending = still;
  }

  private prove(entry: Entry): void {
    entry.worth = "clean";
    entry.clean = 1;
    this.count += 1;
    if (!isSeriesEvent(entry.event)) this.shown = withAsk(this.shown, this.watch, entry.event);
    this.noteLast(true, 1);
    const index = this.visits.findLastIndex((one) => one.outing === entry.outing);
    const visit = this.visits[index];
    if (!visit) return;
    visit.clean += 1;
    // A good answer right after a miss is never the first of a day.
    visit.longClean += this.memories.longWeight(false);
    this.lastCleanEvent ??= entry.event.id;
    if (visit === this.open) return;
    if (visit.clean === 1) {
      this.shown = withVisit(this.shown, visit, this.numbers);
      if (!isOtherwiseClean(this.visits, index)) this.fresh.showClean(visit.day, isRestoring(visit));
    }
    // It has been weighed, and so have those after it.
    this.memories.weighAgain(this.visits.slice(index).filter((one) => one !== this.open));
  }

  private noteLast(clean: boolean, times: number): void {
    if (this.step.kind !== "moment") noteLast(this.lastOnes, clean, times, this.numbers.holdDays);
  }

  /** A copy to try asks on: "what if the next three were clean?" Holds the last visits and what is not proven. Call between outings. */
  fork(): SideEvidence {
    // Only a late proof changes a visit that is closed: where none is waited for, the copy goes on with the same ones.
    return SideEvidence.restore(this.step, this.numbers, this.watch, this.sums(), this.pending.length === 0);
  }

  /** All that later asks and the rules need, as plain data; not the asks that show as evidence. Call between outings. */
  save(): SavedSide {
    return copyOf(this.sums());
  }

  /** As `save`, with the visits and entries this one goes on with. */
  private sums(): SavedSide {
    return {
      visits: this.visits.slice(this.looksBackTo()),
      pending: [...this.pending],
      colds: [...this.colds],
      asked: this.asked,
      count: this.count,
      ...this.memories.save(),
      days: this.days,
      cleanDays: this.fresh.cleanDays,
      lastDay: this.lastDay,
      lastClean: this.fresh.lastClean,
      lastCleanEvent: this.lastCleanEvent,
      freshened: this.fresh.freshened,
      shown: this.shown,
      eased: this.eased,
      outings: this.outings,
      gave: this.gave,
      standardAsked: this.standardAsked,
      lastOnes: [...this.lastOnes],
    };
  }

  /** Evidence as it was saved, ready for later outings; what was saved stays what it was. */
  static restore(step: Step, numbers: JudgeNumbers, watch: Watch, saved: SavedSide, isShared = false): SideEvidence {
    const side = new SideEvidence(step, numbers, watch);
    const { visits, colds, cleanDays, lastClean, freshened, ...others } = isShared ? saved : copyOf(saved);
    Object.assign(side, side.memories.takeFrom(others));
    Object.assign(side.fresh, { cleanDays, lastClean, freshened });
    side.visits.push(...visits);
    side.colds.push(...colds);
    return side;
  }
}
