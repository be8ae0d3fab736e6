/** How much may a body of this age do in one outing? Minutes; ages in whole months, the younger end where a birthday is not known. */
import type { Caps } from "../outing";

/** From so many months on: minutes with the feet working, and in hand altogether. Still Pine's own judgement, no published source. */
const CAPS: readonly (Caps & { fromMonths: number; name: string; look?: string })[] = [
  // From about eighteen years on a two-year-old's minutes; joints, teeth and eyes are looked at.
  { fromMonths: 216, name: "an old horse", workingMinutes: 25, inHandMinutes: 45, look: "joints, teeth and eyes" },
  { fromMonths: 48, name: "four and up", workingMinutes: 45, inHandMinutes: 60 },
  { fromMonths: 36, name: "a three-year-old", workingMinutes: 40, inHandMinutes: 60 },
  { fromMonths: 24, name: "a two-year-old", workingMinutes: 25, inHandMinutes: 45 },
  { fromMonths: 12, name: "a yearling", workingMinutes: 20, inHandMinutes: 40 },
  { fromMonths: 0, name: "a weanling", workingMinutes: 15, inHandMinutes: 30 },
];

/** The minutes an outing of a horse of this age is to stay within. `capsFor(18)` is 20 working, 40 in hand. */
export function capsFor(monthsAtLeast: number): Caps & { name: string; look?: string } {
  const { workingMinutes, inHandMinutes, name, look } = CAPS.find((one) => monthsAtLeast >= one.fromMonths) ?? WEANLING;
  return { workingMinutes, inHandMinutes, name, ...(look === undefined ? {} : { look }) };
}

/** So little is left at the least where the minutes of a day are used up: to end on something easy. */
const LEAST_MINUTES = 5;

/** What of the minutes of a day is left after its earlier outings: a horse met twice in a day has one day. */
export const leftOf = (caps: Caps, earlier: { working: number; inHand: number }): Caps => ({
  workingMinutes: Math.max(LEAST_MINUTES, caps.workingMinutes - Math.ceil(earlier.working)),
  inHandMinutes: Math.max(LEAST_MINUTES, caps.inHandMinutes - Math.ceil(earlier.inHand)),
});

const WEANLING: Omit<(typeof CAPS)[number], "fromMonths"> = {
  name: "a weanling",
  workingMinutes: 15,
  inHandMinutes: 30,
};
