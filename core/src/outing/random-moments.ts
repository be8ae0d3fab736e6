import fc from "fast-check";

const isAnswer = (one: string): boolean => /^(near: |off: )?(gave|tried|none|against|neutral)/.test(one);

const feel = fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })).map(([p, m]) => `${p}/${m}`);
const moment = fc.oneof(
  {
    weight: 12,
    arbitrary: fc
      .tuple(fc.constantFrom("gave", "gave", "tried", "none", "against", "neutral"), feel)
      .map((one) => one.join(" ")),
  },
  { weight: 4, arbitrary: fc.constantFrom("gave 1/1", "gave 0/1", "off: gave 1/1", "near: gave 1/1", "none") },
  {
    weight: 2,
    arbitrary: fc.constantFrom("step yield-hind", "step stand", "step flex", "off: gave 1/3", "near: gave 2/3"),
  },
  {
    weight: 2,
    arbitrary: fc.constantFrom(
      "startle 2",
      "startle 3",
      "offer",
      "tired sweat",
      "after 120",
      "gave 1/1 bolted",
      "mishap bite 1",
    ),
  },
);
/** Outings in the notation of cases/README.md, with undo and changed answers where there is something to undo. Used by tests alone. */
export const randomMoments = fc
  .array(fc.tuple(moment, fc.constantFrom("", "", "", "", "undo", "was against")), { minLength: 1, maxLength: 40 })
  .map((list) =>
    list.flatMap(([one, then]) => (then === "" || (then.startsWith("was") && !isAnswer(one)) ? [one] : [one, then])),
  );
