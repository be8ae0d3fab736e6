import type { EventOf, RecordEvent } from "./types";
import type { Fault, Side } from "./vocabulary";

/** A rein, or the side of him that is the same. */
type Way = "near" | "off";

/** What spoils the asks in whose work it is seen. */
const SPOILING: Partial<Record<EventOf<"frame">["frame"], Fault>> = {
  hollow: "hollow",
  "behind-the-vertical": "behind-the-vertical",
};

/** Asks of one exercise on one rein, with nothing else between. */
interface Spurt {
  readonly step: string | undefined;
  way: Way | undefined;
  readonly asks: EventOf<"ask">[];
  fault: Fault | undefined;
  /** He fell into a gait that was not asked for, and no ask has come since. */
  isUnasked: boolean;
}

/** Whether something is said of how he goes that may spoil an ask. */
export const saysCarriage = (event: RecordEvent): boolean =>
  (event.type === "frame" && SPOILING[event.frame] !== undefined) || (event.type === "gait" && event.unasked === true);

/**
 * Which asks how he went spoils, and by what fault. Hollow or behind the vertical spoils every ask of that spurt and rein, those
 * before it too; a gait that was not asked for spoils the ask it fell into: the next one of the spurt, or the last where none
 * follows. An ask that says its own fault keeps it. Common practice, no published source.
 *
 * @param events what counts of one outing, in effective order
 */
export function spoiltByCarriage(events: readonly RecordEvent[]): ReadonlyMap<string, Fault> {
  const spoilt = new Map<string, Fault>();
  const spoil = (ask: EventOf<"ask"> | undefined, fault: Fault): void => {
    if (ask && ask.fault === undefined && !spoilt.has(ask.id)) spoilt.set(ask.id, fault);
  };
  const spurtOf = (step?: string, way?: Way): Spurt => ({ step, way, asks: [], fault: undefined, isUnasked: false });
  let spurt = spurtOf();
  const begin = (step?: string, way?: Way): void => {
    if (spurt.isUnasked) spoil(spurt.asks.at(-1), "unasked-gait");
    spurt = spurtOf(step, way);
  };
  for (const event of events) {
    switch (event.type) {
      case "spurt":
        if (event.edge === "start") begin(event.step ?? spurt.step, wayOf(event.side) ?? spurt.way);
        else begin();
        break;
      case "side-change":
        if (spurt.way !== event.to) begin(spurt.step, event.to);
        break;
      case "ask":
        if (spurt.step !== event.step || isOtherWay(wayOf(event.side), spurt.way)) begin(event.step, wayOf(event.side));
        spurt.way ??= wayOf(event.side);
        if (spurt.fault) spoil(event, spurt.fault);
        if (spurt.isUnasked) spoil(event, "unasked-gait");
        spurt.isUnasked = false;
        spurt.asks.push(event);
        break;
      case "frame": {
        const fault = SPOILING[event.frame];
        if (!fault || spurt.step === undefined || isOtherWay(event.direction, spurt.way)) break;
        spurt.fault ??= fault;
        for (const ask of spurt.asks) spoil(ask, fault);
        break;
      }
      case "gait":
        if (event.unasked === true && spurt.step !== undefined && !isOtherWay(event.direction, spurt.way))
          spurt.isUnasked = true;
        break;
      default:
    }
  }
  begin();
  return spoilt;
}

/** Of the side of an ask; of a step without sides he goes on none that is said. */
const wayOf = (side: Side | undefined): Way | undefined => (side === "none" ? undefined : side);

const isOtherWay = (a: Way | undefined, b: Way | undefined): boolean => a !== undefined && b !== undefined && a !== b;

/** The same events, and on the asks that how he went spoiled their fault. @param events as `spoiltByCarriage` takes them */
export function withCarriage(events: readonly RecordEvent[]): readonly RecordEvent[] {
  if (!events.some(saysCarriage)) return events;
  const spoilt = spoiltByCarriage(events);
  return events.map((event) => withFault(event, spoilt));
}

/** An ask with the fault that how he went gave it; anything else as it is. */
export function withFault(event: RecordEvent, spoilt: ReadonlyMap<string, Fault>): RecordEvent {
  const fault = event.type === "ask" ? spoilt.get(event.id) : undefined;
  return fault ? ({ ...event, fault } as RecordEvent) : event;
}
