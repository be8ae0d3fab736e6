import type { Advice, Reason, Verb } from "./types";

/** A verb with its one reason. */
export const say = (
  verb: Verb,
  reason: Reason,
  evidence: readonly string[] = [],
  more: Omit<Advice, "verb" | "reason" | "evidence"> = {},
): Advice => ({ verb, reason, evidence, ...more });
