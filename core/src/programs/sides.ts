import type { Side } from "../record/vocabulary";
import type { Step } from "./types";

/** The sides of a step that are judged each by itself. */
export type SideKey = Side | "near-fore" | "near-hind" | "off-fore" | "off-hind";

const TWO: readonly SideKey[] = ["near", "off"];
const LEGS: readonly SideKey[] = ["near-fore", "near-hind", "off-fore", "off-hind"];
const WHOLE: readonly SideKey[] = ["none"];

/** The sides a step is judged on: near and off, fore and hind of each, or none. */
export function sidesOf({ side }: Pick<Step, "side">): readonly SideKey[] {
  return side === "none" ? WHOLE : side === "leg" ? LEGS : TWO;
}

/** A side as an entry says it: for a leg its side and which of the two. */
export function sideFields(side: SideKey): { side: Side; part?: "fore" | "hind" } {
  const [half, part] = side.split("-") as [Side, "fore" | "hind" | undefined];
  return { side: half, ...(part ? { part } : {}) };
}
