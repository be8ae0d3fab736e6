import { eventTypeOf, type OutingId } from "@still-pine/core/record";
import type { Pool, PoolClient } from "pg";
import { shown, type InputProblem } from "@still-pine/contract/record";
import { inTransaction } from "../db/pool";
import { isStillIn } from "../store/devices";
import type { StoredEvent } from "../store/events";
import { horsesOfOutings } from "../store/owners";
import { take, type Offered, type Taken } from "../recording/take-events";
import { holdYard, type Yard } from "../store/yard";
import { heldTo, type Actor } from "./actor";

/** Takes a batch from whoever sends it. A device that was shut out meanwhile has none of it taken. */
export function takeFrom(
  actor: Actor,
  pool: Pool,
  said: Yard,
  offered: readonly Offered[],
  now: string,
): Promise<Taken | "withdrawn"> {
  return inTransaction(pool, async (client) => {
    const yard = await holdYard(client, said);
    if (actor.kind === "device" && !(await isStillIn(client, yard.id, actor.id))) return "withdrawn";
    const held = heldTo(actor);
    if (held === null || actor.kind !== "device") return take(client, yard, offered, now, { isNew: true });
    const refused = await beyondRights(client, yard, { outing: held, recorder: actor.recorder }, offered);
    // Verdicts are none of a helper's.
    const maySee = ({ outingId }: StoredEvent): boolean => outingId === held;
    // They take back what they wrote themselves, and that is there: what is refused, or to come, vouches for nothing.
    const mayCorrect = (one: StoredEvent): boolean => maySee(one) && one.event.device === actor.recorder;
    const sender = { isNew: true, refused, maySee, mayCorrect };
    return { ...(await take(client, yard, offered, now, sender)), changes: [] };
  });
}

/**
 * What of a batch lies beyond a helper's rights, and why: they add to the one outing, under the name of the device that was let in,
 * and say how far out that device's own clock is. Of any other horse or outing they learn nothing.
 */
async function beyondRights(
  client: PoolClient,
  yard: Yard,
  { outing, recorder }: { outing: OutingId; recorder: string },
  offered: readonly Offered[],
): Promise<Map<number, InputProblem[]>> {
  const owner = (await horsesOfOutings(client, yard.id, [outing])).get(outing);
  const whyNot = ({ horse, outing: named, event: sent }: Offered): InputProblem | null => {
    const { device, type, of } = (sent ?? {}) as Record<string, unknown>;
    if (named !== outing || horse !== owner)
      return { path: "outing", expected: "the outing this phone writes down", found: "another" };
    if (device !== recorder)
      return { path: "event.device", expected: "the device that was let in", found: shown(device) };
    if (!eventTypeOf(type)?.byHelper)
      return { path: "event.type", expected: "what a helper writes down", found: shown(type) };
    if (type === "clock-skew" && of !== recorder)
      return { path: "event.of", expected: "this phone's own clock", found: shown(of) };
    return null;
  };
  return new Map(
    offered.flatMap((one, index): [number, InputProblem[]][] => {
      const why = whyNot(one);
      return why ? [[index, [{ ...why, path: `events[${index}].${why.path}` }]]] : [];
    }),
  );
}
