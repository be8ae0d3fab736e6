import type { OutingId } from "@still-pine/core/record";
import type { Right } from "@still-pine/contract/http";

/** Who asks. Every route says which right it needs; whoever has none of them learns nothing. */
export type Actor =
  /** Nobody that was let in. */
  | { kind: "stranger" }
  /** The person at the laptop. */
  | { kind: "laptop" }
  /** A phone with a key of its own; a helper writes down one outing and does nothing else. */
  | Device<{ rights: "all" }>
  | Device<{ rights: "write"; outing: OutingId }>;

type Device<May> = {
  kind: "device";
  id: string;
  recorder: string;
  name: string;
  /** When its key ends, in milliseconds since 1970. */
  expiresAt: number;
} & May;

/** Whether somebody may use a route that needs this right. */
export function may(actor: Actor, right: Right): boolean {
  switch (right) {
    case "open":
      return true;
    case "write":
      return actor.kind !== "stranger";
    case "all":
      return actor.kind === "laptop" || (actor.kind === "device" && actor.rights === "all");
    case "laptop":
      return actor.kind === "laptop";
    default:
      return right satisfies never;
  }
}

/** The one outing somebody is held to; null where they may see them all. */
export const heldTo = (actor: Actor): string | null =>
  actor.kind === "device" && actor.rights === "write" ? actor.outing : null;
