import { watchAt } from "@still-pine/core/outing";
import { bodyOfPress } from "@still-pine/core/recording";
import type { PenSession } from "./session";

/** Starts the watch for what is at hand, unless it runs. */
export function startWatch(session: PenSession): void {
  if (watchAt(session.read().state, session.here)) return;
  session.enter(bodyOfPress({ press: "watch" }, { ...session.here, more: session.read().line }, session.now()), false);
}
