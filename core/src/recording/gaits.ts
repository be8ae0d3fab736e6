import { GAITS } from "../record/vocabulary";

type Gait = (typeof GAITS)[number];

/**
 * The gait next to the one he goes in, one faster or one slower; null where there is none. Where nobody said how he goes, up is the
 * trot and down the walk.
 */
export function gaitBeside(now: Gait | null, by: 1 | -1): Gait | null {
  if (now === null) return by === 1 ? "trot" : "walk";
  return GAITS[GAITS.indexOf(now) + by] ?? null;
}
