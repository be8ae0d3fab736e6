/** What the line over the pad says of an ask. */
const LINE = ["rung", "gait", "ridden", "restraint", "stands", "reach", "manner", "headgear"] as const;

/**
 * Fields that came with version 2 of their event's shape, by type: as the declarations have them, for whoever stamps an event and does
 * without these.
 */
export const SINCE_TWO: Readonly<Record<string, readonly string[]>> = {
  ask: [...LINE, "purpose", "watch", "endedBy"],
  series: [...LINE, "setting", "tool"],
  startle: ["step"],
  "finish-line": ["rung"],
  watch: LINE,
  gait: ["back"],
  dwell: ["step", "rung", "mood", "endedBy"],
};

/** What can say how it was put says version 2 even where it says nothing of it: then that is unsaid. */
const ALWAYS_TWO: readonly string[] = ["ask", "series", "watch"];

/** Which version of its type's shape a body is written in. */
export const versionOf = <Body extends { type: string }>(body: Body): 1 | 2 =>
  ALWAYS_TWO.includes(body.type) || SINCE_TWO[body.type]?.some((name) => name in body) ? 2 : 1;
