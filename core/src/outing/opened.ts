import { orderEvents, standingEvents, withCarriage, type RecordEvent, type StepId } from "../record";
import { linkOf } from "./links";
import { startOuting, takeEvent } from "./state";
import type { OutingPlan } from "./types";

/** A piece of the card that opened, or closed again, in the course of an outing. */
export interface LinkChange {
  step: StepId;
  isOpen: boolean;
  /** What it rests on: all that had to be good today when it opened, the one it waits for where it closed. */
  bases: readonly StepId[];
  /** Milliseconds since 1970, and the entry with which it changed. */
  at: number;
  entry: string;
}

/** Which pieces of a card opened in an outing and which closed again, in the order in which it came. */
export function linkChanges(plan: OutingPlan, events: readonly RecordEvent[]): LinkChange[] {
  const chained = plan.exercises.filter(({ after = [] }) => after.length > 0);
  let state = startOuting(plan);
  const isOpen = new Map(chained.map((one) => [one.step, linkOf(state, plan, one).isOpen]));
  return withCarriage(standingEvents(orderEvents(events)).events).flatMap((event) => {
    const before = state.rows;
    state = takeEvent(state, event, plan);
    if (state.rows === before) return [];
    return chained.flatMap((one): LinkChange[] => {
      const link = linkOf(state, plan, one);
      if (link.isOpen === isOpen.get(one.step)) return [];
      isOpen.set(one.step, link.isOpen);
      const waited = (one.after ?? []).filter(({ stands }) => !stands).map(({ step }) => step);
      const bases = link.waitsFor
        ? [link.waitsFor.step]
        : waited.length > 0
          ? waited
          : basesAsked(one.after ?? [], event);
      return [{ step: one.step, isOpen: link.isOpen, bases, at: state.at, entry: event.id }];
    });
  });
}

/** What stood by itself, was missed and came again: the step of the entry that did it. */
const basesAsked = (after: readonly { step: StepId }[], event: RecordEvent): StepId[] =>
  after.map(({ step }) => step).filter((step) => "step" in event && event.step === step);
