import type { AskEvent, EventOf, RecordEvent } from "../record";
import type { Ladder, Step } from "../programs";
import { isDwelt } from "../programs/dwelt";

/**
 * A dwell as the ask it shows: that he stands while the person is there. Null where it shows nothing: where nobody said how he was at
 * its end, or what was at hand is not about standing with him. Ended by himself it is a miss; ended by the person short of the
 * standard it is practice, as under a watch. Common practice, no published source.
 */
export function askOfDwell(dwell: EventOf<"dwell">, step: Step | undefined): AskEvent | null {
  const { v = 1, mood, seconds, endedBy = "person", reachM } = dwell;
  if (v < SAID_SINCE || mood === undefined || !step || step.id !== dwell.step || !isDwelt(step)) return null;
  const { id, at, side, device, seq, by, recordedAt } = dwell;
  const rung = dwell.rung ?? rungOf(step.ladder, seconds, reachM);
  return {
    type: "ask",
    v: SAID_SINCE,
    id,
    at,
    step: step.id,
    answer: endedBy === "horse" ? "none" : "gave",
    mood,
    dose: seconds,
    watch: id,
    endedBy,
    // Nothing was asked of him but to stay.
    ...(step.standard.phase === null ? {} : { phase: 0 }),
    ...(side === undefined ? {} : { side }),
    ...(rung === undefined ? {} : { rung }),
    ...(device === undefined ? {} : { device }),
    ...(seq === undefined ? {} : { seq }),
    ...(by === undefined ? {} : { by }),
    ...(recordedAt === undefined ? {} : { recordedAt }),
  };
}

/** From this version of a dwell on it says what was at hand and how he was. */
const SAID_SINCE = 2;

/** The highest rung measured in seconds that so long at that distance reaches; a distance that is not said is none of those measured. */
function rungOf({ rungs }: Ladder, seconds: number, reachM: number | undefined): string | undefined {
  return rungs.findLast(({ dose, at }) => dose !== undefined && dose <= seconds && isWithin(reachM, at))?.id;
}

function isWithin(reachM: number | undefined, at: string | undefined): boolean {
  const metres = /(\d+(?:\.\d+)?) m\b/.exec(at ?? "")?.[1];
  if (at === undefined) return true;
  return metres !== undefined && reachM !== undefined && reachM <= Number(metres);
}

/** An event as it counts for a step: a dwell that shows something of it as the ask it is. */
export function heardBy(event: RecordEvent, step: Step | undefined): RecordEvent {
  return event.type === "dwell" ? (askOfDwell(event, step) ?? event) : event;
}
