import { asEvent } from "@still-pine/core/record";
import { z } from "zod";
import { outboxFileSchema, type OutboxFile } from "@still-pine/contract/http";
import { deviceId } from "./device";
import { keeper, type KeptEvent } from "./kept";
import { knownYard } from "./yard";

/** What waits on a device as a file, for one that never finds its network. It comes in on the laptop, as often as one likes. */

const FORMAT = "still-pine/outbox";

/** Everything that waits here, the refused ones too. */
export async function waitingAsFile(now: string): Promise<OutboxFile> {
  const kept = await keeper();
  const events = [...(await kept.unsent()), ...(await kept.refused())];
  return {
    format: FORMAT,
    version: 1,
    yard: knownYard(),
    device: deviceId(),
    writtenAt: now,
    events: events.map(({ horse, outing, event, refused }) => ({
      horse,
      outing,
      event: { ...event },
      ...(refused === undefined ? {} : { refused }),
    })),
  };
}

/**
 * A file of what waited on another device.
 *
 * @param own the yard it comes into; null where nobody could say which that is
 * @returns its events, or in words what is wrong with it
 */
export function readOutboxFile(text: string, own: string | null): KeptEvent[] | string {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return "This is no file of waiting entries: expected JSON. Take the file out again on the phone, under Waiting.";
  }
  const parsed = outboxFileSchema.safeParse(data);
  if (!parsed.success)
    return `This is no file of waiting entries: ${z.prettifyError(parsed.error).split("\n").slice(0, 2).join(" ")}`;
  const { yard, events } = parsed.data;
  if (yard !== null && own !== null && yard !== own)
    return "These entries were recorded for another yard; bring the file in there.";
  return events.map(({ horse, outing, event }) => ({
    horse,
    outing,
    event: asEvent(event),
    sent: 0,
  }));
}
