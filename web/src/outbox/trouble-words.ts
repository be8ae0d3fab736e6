import type { Reach } from "./reach";
import type { Trouble } from "./sender";
import type { SendState } from "./slice";

/** What is in the way, and what to do; read by whoever holds the phone. */
export const TROUBLE_WORDS: Record<Trouble, { why: string; todo: string }> = {
  "no-network": {
    why: "No network",
    todo: "Nothing has to be done: it is sent by itself when the network is back.",
  },
  "not-still-pine": {
    why: "Something else answers",
    todo: "This network shows a page of its own instead of Still Pine. Sign in to it, or go to the yard's own network.",
  },
  "not-paired": {
    why: "This phone is not paired",
    todo: "Make a code on the laptop, under Yard, Phones, and pair this phone.",
  },
  withdrawn: {
    why: "This phone was shut out on the laptop",
    todo: "Ask for a new code and pair it again, or take what waits out as a file.",
  },
  expired: {
    why: "This phone's key has ended",
    todo: "It was not used for too long. Make a code on the laptop, under Yard, Phones, and pair it again.",
  },
  locked: { why: "The laptop is locked", todo: "Type the yard's pass phrase." },
  "other-yard": {
    why: "Another yard's Still Pine answers here",
    todo: "What was recorded for your yard is not given to it. Go to your own yard's network, or take it out as a file.",
  },
  ill: { why: "Still Pine on the laptop is not well", todo: "See that it runs there. It is tried again by itself." },
};

/**
 * How sending stands, in a few words.
 *
 * @param time a moment as it is shown
 * @param alone when what the pages show was fetched, and whether verdicts can go on from it, where no server answers them
 */
export function sendingInWords(
  { waiting, media, refused, trouble, sentAt, isShort }: SendState,
  time: (at: string) => string,
  { aloneSince, isBehind }: Pick<Reach, "aloneSince" | "isBehind"> = { aloneSince: null, isBehind: false },
): string {
  const files = media > 0 ? `${media} ${media === 1 ? "picture or voice note" : "pictures and voice notes"}` : "";
  const here = [waiting > 0 ? String(waiting) : "", files].filter(Boolean).join(" and ");
  const why = trouble ?? (aloneSince === null ? null : "no-network");
  const parts = [
    here ? `On this device only: ${here}` : sentAt ? `Sent ${time(sentAt)}` : "Nothing waits to be sent",
    ...(why && (here || aloneSince !== null || why !== "no-network") ? [TROUBLE_WORDS[why].why] : []),
    ...(aloneSince === null ? [] : [`${isBehind ? "verdicts as they were" : "as known"} ${time(aloneSince)}`]),
    ...(refused > 0 ? [`${refused} cannot be sent`] : []),
    ...(isShort ? ["room is short"] : []),
  ];
  return parts.join(" · ");
}
