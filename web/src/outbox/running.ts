import type { RecordEvent } from "@still-pine/core/record";
import { keeper, type KeptEvent, type KeptOuting, type Keeper } from "./kept";
import { stamp } from "./stamp";

/** After so long without an entry nobody is in the pen any more. */
export const FORGOTTEN_MS = 2 * 60 * 60 * 1000;

/** An event of an outing as it is kept until the server has it. */
export const entryOf = ({ id, horse }: Pick<KeptOuting, "id" | "horse">, event: RecordEvent): KeptEvent => ({
  outing: id,
  horse,
  event,
  sent: 0,
});

/** Outings that run on this device, earliest first. Those nobody ended are closed first, as they were left. */
export async function runningOutings(now = Date.now()): Promise<KeptOuting[]> {
  const kept = await keeper();
  const open = (await kept.outings()).filter(({ isOver, isJoined }) => !isOver && !isJoined);
  const still = await Promise.all(open.map(async (one) => ((await closeForgotten(kept, one, now)) ? [] : [one])));
  return still.flat().toSorted((a, b) => a.startedAt.localeCompare(b.startedAt));
}

/** Closes an outing nobody ended: it ended with its last entry, and says so. */
async function closeForgotten(kept: Keeper, outing: KeptOuting, now: number): Promise<boolean> {
  const events = await kept.events(outing.id);
  // A clock that was measured meanwhile is nothing that happened in the pen.
  const entries = events.filter(({ event }) => event.type !== "clock-skew");
  const last = entries.reduce((latest, { event }) => (event.at > latest ? event.at : latest), outing.startedAt);
  if (now + outing.clockOffset - Date.parse(last) < FORGOTTEN_MS) return false;
  await kept.keepEvents([
    entryOf(outing, stamp({ type: "outing-end", unended: true }, { id: `${outing.id}:end`, at: last })),
  ]);
  await kept.changeOuting(outing.id, { isOver: true });
  return true;
}
