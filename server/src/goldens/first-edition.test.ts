import { createHash } from "node:crypto";
import { describe, expect, it } from "vitest";
import { SHIPPED, type Program } from "@still-pine/core/programs";

/** Digests of every program that shipped with the first edition, as the build before this one had them. */
const AS_THEY_WERE = {
  "loose-pen-start 1": "242e5d7d82009bf2",
  "loose-pen-start 2": "71d247f83f42a9a1",
  "in-hand-classical-start 1": "f82e54e7673003bf",
  "approach-and-stand 1": "7ec8725affcb27b8",
  "marker-and-reward 1": "20892e0c01716d84",
  "weanling-course 1": "e040e5a9ce03643d",
  "learning-theory-start 1": "0d03d1b1efe0cd3e",
  "lunge-and-helper-start 1": "ddc7a5e2d7c05b99",
};

/** Numbers of the judge and the card, kinds of gates and what guards a person that there were none of: they belong to how it judges, not to what it teaches. */
const NEW_NUMBERS: readonly string[] = [
  "handlingSure",
  "latelySure",
  "lostUnder",
  "longPer",
  "laterAsks",
  "holdMisses",
  "handlingDays",
  "riderDays",
  "firstBy",
  "firstSure",
  "firstLost",
  "coldsLost",
  "tightLost",
  "mendAsks",
  "mendedMost",
  "enoughAsks",
  "enoughMany",
  "enoughAfterMany",
  "enoughDays",
  "trustLinks",
  "breakDays",
  "groundPer",
  "groundMost",
];

/** A program as it was before those, its parts in the order they had. */
function former(
  { id, version, name, about, ...others }: Omit<Program, "judge" | "gates" | "catalogue">,
  judge: Program["judge"],
  gates: Program["gates"],
): object {
  const { coach, ways, stop, optional, steps, ...rest } = others;
  const numbers = Object.fromEntries(Object.entries(judge).filter(([name]) => !NEW_NUMBERS.includes(name)));
  const { pieces: _pieces, newPieces: _newPieces, ...coachThen } = coach;
  const unguarded = steps.map(({ guarded: _guarded, ...step }) => step);
  const kindless = gates.map(({ kind: _kind, ...gate }) => gate);
  return {
    id,
    version,
    name,
    about,
    judge: numbers,
    coach: coachThen,
    ways,
    stop,
    optional,
    steps: unguarded,
    gates: kindless,
    ...rest,
  };
}

describe("the first edition of the catalogue", () => {
  it("stays as it was, with every version of a program that shipped with it", () => {
    const now = Object.keys(AS_THEY_WERE).map((key) => {
      const [id = "", version] = key.split(" ");
      const { catalogue, judge, gates, ...program } = SHIPPED.find(id, Number(version));
      expect([key, catalogue]).toEqual([key, 1]);
      return [
        key,
        createHash("sha256")
          .update(JSON.stringify(former(program, judge, gates)))
          .digest("hex")
          .slice(0, 16),
      ];
    });
    expect(Object.fromEntries(now)).toEqual(AS_THEY_WERE);
  });
});
