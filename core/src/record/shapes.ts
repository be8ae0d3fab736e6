/** What the line over the pad says of an ask. */
const LINE = ["rung", "gait", "ridden", "restraint", "stands", "reach", "manner", "headgear"] as const;

/**
 * Fields that came with version 2 of their event's shape, by type: as the declarations have them, for whoever stamps an event and does
 * without these.
 */
export const SINCE_TWO: Readonly<Record<string, readonly string[]>> = {
  ask: [...LINE, "purpose"],
  series: [...LINE, "setting", "tool"],
};

/** Which version of its type's shape a body needs. */
export const versionOf = <Body extends { type: string }>(body: Body): 1 | 2 =>
  SINCE_TWO[body.type]?.some((name) => name in body) ? 2 : 1;
