import type { Pool, PoolClient } from "pg";
import { shown, type InputProblem } from "@still-pine/contract/record";
import { inTransaction } from "../db/pool";
import { isStillIn } from "../store/devices";
import { eventsById, horsesOfOutings } from "../store/events";
import { take, type Offered, type Taken } from "../store/take-events";
import type { Yard } from "../store/yard";
import { heldTo, type Actor } from "./actor";

/** What a helper at the rail may write down. */
const FOR_HELPERS: ReadonlySet<string> = new Set([
  "ask",
  "sign",
  "startle",
  "offer",
  "dwell",
  "tired",
  "enough",
  "note",
  "spurt",
  "side-change",
  "correction",
  "clock-skew",
  "clock-moved",
]);

/** Takes a batch from whoever sends it. A device that was shut out meanwhile has none of it taken. */
export function takeFrom(
  actor: Actor,
  pool: Pool,
  yard: Yard,
  offered: readonly Offered[],
  now: string,
): Promise<Taken | "withdrawn"> {
  return inTransaction(pool, async (client) => {
    if (actor.kind === "device" && !(await isStillIn(client, yard.id, actor.id))) return "withdrawn";
    const held = heldTo(actor);
    if (held === null || actor.kind !== "device") return take(client, yard, offered, now, true);
    const refused = await beyondRights(client, yard, { outing: held, recorder: actor.recorder }, offered);
    // Verdicts are none of a helper's.
    return { ...(await take(client, yard, offered, now, true, refused)), changes: [] };
  });
}

/**
 * What of a batch lies beyond a helper's rights, and why: they add to the one outing, under the name of the device that was let in,
 * and take back what they wrote themselves. Of any other horse or outing they learn nothing.
 */
async function beyondRights(
  client: PoolClient,
  yard: Yard,
  { outing, recorder }: { outing: string; recorder: string },
  offered: readonly Offered[],
): Promise<Map<number, InputProblem[]>> {
  const events = offered.map(({ event }) => (event ?? {}) as Record<string, unknown>);
  const replaced = events.flatMap(({ type, replaces }) => (type === "correction" ? String(replaces) : []));
  const [owners, stored] = [
    await horsesOfOutings(client, yard.id, [outing]),
    await eventsById(client, yard.id, replaced),
  ];
  // What is stored under an id counts; who says in the same batch that it is theirs does not make it so.
  const recorderOf = new Map<unknown, unknown>([
    ...events.map(({ id, device }) => [id, device] as const),
    ...stored.map(({ event }) => [event.id, event.device] as const),
  ]);
  const whyNot = ({ horse, outing: named }: Offered, event: Record<string, unknown>): InputProblem | null => {
    if (named !== outing || horse !== owners.get(outing))
      return { path: "outing", expected: "the outing this phone writes down", found: "another" };
    if (event["device"] !== recorder)
      return { path: "event.device", expected: "the device that was let in", found: shown(event["device"]) };
    if (!FOR_HELPERS.has(String(event["type"])))
      return { path: "event.type", expected: "what a helper writes down", found: shown(event["type"]) };
    if (event["type"] === "correction" && recorderOf.get(event["replaces"]) !== recorder)
      return { path: "event.replaces", expected: "an entry of this phone's own", found: shown(event["replaces"]) };
    return null;
  };
  return new Map(
    offered.flatMap((one, index): [number, InputProblem[]][] => {
      const why = whyNot(one, events[index] ?? {});
      return why ? [[index, [{ ...why, path: `events[${index}].${why.path}` }]]] : [];
    }),
  );
}
