import { uniformFloat32 } from "pure-rand/distribution/uniformFloat32";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** A seeded source of numbers in [0, 1): the same seed, the same horse. */
export type Random = () => number;

export function randomFrom(seed: number): Random {
  const generator = xoroshiro128plus(seed);
  return () => uniformFloat32(generator);
}
