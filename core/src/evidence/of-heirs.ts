import { rungAtSamePlace } from "../programs/ladders";
import { isFormerStep } from "../programs/editions";
import { findStep, stepsFor, type Program, type Step } from "../programs";
import { isAsk, isSeries, type AskEvent, type FoldedOuting, type RecordEvent, type SeriesEvent } from "../record";

/**
 * An ask as one of this step: an ask of the step of a former edition that this one was a part of counts for it, at the rung that has the
 * same place on its ladder. Any other is given back as it is.
 */
export function asAskOf<Event extends AskEvent | SeriesEvent>(event: Event, step: Pick<Step, "id" | "ladder">): Event {
  if (event.step === step.id) return event;
  const { rung } = event;
  return {
    ...event,
    step: step.id,
    ...(rung === undefined ? {} : { rung: rungAtSamePlace(event.step, rung, step.ladder) }),
  };
}

/**
 * Outings as a program reads them: where entries are of a step of a former edition, each of the steps it became has them. Outings
 * without such entries are given back as they are.
 */
export const outingsFor = <Read extends Pick<FoldedOuting, "events">>(
  program: Program,
  outings: readonly Read[],
): Read[] =>
  outings.map((outing) => {
    const heirsOfIts = (event: RecordEvent): readonly Step[] => {
      const { step } = event as { step?: unknown };
      return typeof step === "string" && isFormerStep(step) && !findStep(program, step) ? stepsFor(program, step) : [];
    };
    if (!outing.events.some((event) => heirsOfIts(event).length > 0)) return outing;
    return {
      ...outing,
      events: outing.events.flatMap((event) => {
        const heirs = heirsOfIts(event);
        if (heirs.length === 0) return [event];
        return heirs.map((heir) =>
          isAsk(event) || isSeries(event) ? asAskOf(event, heir) : ({ ...event, step: heir.id } as RecordEvent),
        );
      }),
    };
  });
