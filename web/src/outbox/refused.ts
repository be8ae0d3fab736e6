import { keeper, type KeptEvent, type KeptMedia } from "./kept";
import { countKept, sendKept } from "./send";

/** What the server did not take, and why. */
export interface RefusedHere {
  events: KeptEvent[];
  media: KeptMedia[];
}

/** What lies here because the server refused it. */
export async function refusedHere(): Promise<RefusedHere> {
  const kept = await keeper();
  return { events: await kept.refused(), media: await kept.refusedMedia() };
}

/** Sends what was refused once more, after its cause was put right. What is refused again stays. */
export async function sendAgain({ events, media }: RefusedHere): Promise<void> {
  const kept = await keeper();
  await kept.settle(events.map(({ refused: _why, ...one }) => ({ ...one, sent: 0 as const })));
  for (const { refused: _why, ...one } of media) await kept.keepMedia({ ...one, sent: 0 });
  await countKept();
  await sendKept().catch(() => "ill");
}
