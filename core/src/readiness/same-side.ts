import type { SideKey } from "../programs";

/** Whether a side of one step is, or belongs to, a side of another: a leg belongs to its side, and a step without sides to all. */
export function isSameSide(one: SideKey, other: SideKey): boolean {
  if (one === other || one === "none" || other === "none") return true;
  return one.length !== other.length && (one.startsWith(other) || other.startsWith(one));
}

/** One bit a side, for sets of sides. */
export const SIDE_BITS: Readonly<Record<SideKey, number>> = {
  none: 1,
  near: 2,
  off: 4,
  "near-fore": 8,
  "near-hind": 16,
  "off-fore": 32,
  "off-hind": 64,
};

/** Which sides of other steps are the same side as one, as bits. */
export function sameSidesAs(side: SideKey): number {
  const all = Object.entries(SIDE_BITS) as [SideKey, number][];
  return all.reduce((bits, [other, bit]) => (isSameSide(side, other) ? bits | bit : bits), 0);
}
