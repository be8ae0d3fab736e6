import type { JudgeNumbers } from "../programs";
import { Forgetting } from "./forgetting";
import { isSureEnough, sureOf } from "./sureness";
import type { Visit } from "./visit";

/**
 * The records a side's share of clean asks is judged by: the long one, in which a day's first ask weighs 1, its later ones less, and all of
 * it pales slowly; the last asks, each of which weighs 1 and pales soon; and the first asks of the days alone.
 */
export type Memory = "long" | "lately" | "firsts";

/** Summed weights of each memory, as they are kept. */
export interface Weights {
  weightClean: number;
  weightNot: number;
  longClean: number;
  longNot: number;
  firstClean: number;
  firstNot: number;
}

/** What a side is remembered by: a word is earned on the long record and lost on the last asks. */
export class Memories implements Weights {
  weightClean = 0;
  weightNot = 0;
  longClean = 0;
  longNot = 0;
  firstClean = 0;
  firstNot = 0;
  private readonly soon: Forgetting;
  private readonly slowly: Forgetting;

  constructor(private readonly numbers: JudgeNumbers) {
    const { forgetBy, forgetPer, longPer } = numbers;
    this.soon = new Forgetting({ forgetBy, forgetPer });
    this.slowly = new Forgetting({ forgetBy, forgetPer: longPer });
  }

  /** As plain data. */
  save(): Weights {
    const { weightClean, weightNot, longClean, longNot, firstClean, firstNot } = this;
    return { weightClean, weightNot, longClean, longNot, firstClean, firstNot };
  }

  /** Takes up what was saved. @returns what else was saved with it */
  takeFrom<Saved extends Weights>(saved: Saved): Omit<Saved, keyof Weights> {
    const { weightClean, weightNot, longClean, longNot, firstClean, firstNot, ...others } = saved;
    Object.assign(this, { weightClean, weightNot, longClean, longNot, firstClean, firstNot });
    return others;
  }

  /** Adds an outing: what came before it is outweighed by what it added. */
  weigh(visit: Visit): void {
    visit.cleanBefore = this.weightClean;
    visit.notBefore = this.weightNot;
    const keep = this.soon.left(visit.clean + visit.not);
    this.weightClean = this.weightClean * keep + visit.clean;
    this.weightNot = this.weightNot * keep + visit.not;
    visit.longCleanBefore = this.longClean;
    visit.longNotBefore = this.longNot;
    const long = this.slowly.left(visit.longClean + visit.longNot);
    this.longClean = this.longClean * long + visit.longClean;
    this.longNot = this.longNot * long + visit.longNot;
  }

  /** Weighs outings again, from the first of them on. */
  weighAgain(visits: readonly Visit[]): void {
    const [first] = visits;
    if (!first) return;
    this.weightClean = first.cleanBefore;
    this.weightNot = first.notBefore;
    this.longClean = first.longCleanBefore;
    this.longNot = first.longNotBefore;
    for (const visit of visits) this.weigh(visit);
  }

  /** Adds a day's first ask to their own record. */
  weighFirst(isClean: boolean): void {
    const { firstBy } = this.numbers;
    this.firstClean = this.firstClean * firstBy + (isClean ? 1 : 0);
    this.firstNot = this.firstNot * firstBy + (isClean ? 0 : 1);
  }

  /** How sure a memory makes us of the asked share of clean asks. */
  sure(memory: Memory): number {
    const [clean, not] = this.of(memory);
    return sureOf(clean, not, this.numbers.share);
  }

  /** Whether `sure()` is at least so much, without working it out where it is plain. */
  isSureEnough(sure: number, memory: Memory): boolean {
    const [clean, not] = this.of(memory);
    return isSureEnough(clean, not, this.numbers.share, sure);
  }

  private of(memory: Memory): [clean: number, not: number] {
    if (memory === "long") return [this.longClean, this.longNot];
    return memory === "lately" ? [this.weightClean, this.weightNot] : [this.firstClean, this.firstNot];
  }

  /** The share of its weight that is left among the last asks after so many later ones. */
  leftLately(later: number): number {
    return this.soon.left(later);
  }

  /** Whether an ask still shows as evidence after so much later weight of the long record. */
  shows(later: number): boolean {
    return this.slowly.shows(later);
  }

  /** What an ask weighs in the long record. */
  longWeight(isFirstOfDay: boolean): number {
    return isFirstOfDay ? 1 : this.numbers.laterAsks;
  }

  /**
   * What a remembered series adds to the long record: its asks weigh half of what they would singly.
   *
   * @param firstClean how the first of them came; null where nobody said: then it is spread over all of them
   */
  longWeights(
    clean: number,
    missed: number,
    isFirstOfDay: boolean,
    firstClean: boolean | null,
  ): [clean: number, not: number] {
    const { laterAsks, seriesWeight } = this.numbers;
    const more = isFirstOfDay ? 1 - laterAsks : 0;
    const ofClean = firstClean === null ? clean / (clean + missed) : Number(firstClean);
    return [
      (clean * laterAsks + more * ofClean) * seriesWeight,
      (missed * laterAsks + more * (1 - ofClean)) * seriesWeight,
    ];
  }
}
