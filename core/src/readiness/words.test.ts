import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { findingInWords, openInWords, openSummary, RULE_TITLES, STATUS_MEANS, STATUS_WORDS } from "./words";
import { STATUSES, type Finding } from "./types";

const say = (finding: Partial<Finding>): string =>
  findingInWords({ code: "light", met: false, have: null, need: null, evidence: [], ...finding }, loosePenStart);

describe("a finding as a sentence", () => {
  it.each<[Partial<Finding>, string]>([
    [
      { code: "clean-share", side: "off", have: 0.763, need: 0.8 },
      "76 % sure that three of four come clean on the off side; 80 % is asked.",
    ],
    [
      { code: "different-days", side: "near", have: 1, need: 2 },
      "Worked on 1 different day on the near side; 2 are asked.",
    ],
    [
      { code: "cold-asks", side: "near", met: true, have: 2, need: 2, evidence: ["a", "b"] },
      "The last two first asks of a day were clean on the near side.",
    ],
    [
      { code: "cold-asks", side: "near", met: true, have: 1, need: 1, evidence: ["a"] },
      "The last first ask of a day was clean on the near side.",
    ],
    [
      { code: "cold-asks", side: "near", have: 0, need: 1 },
      "No first ask of a later outing yet on the near side: nothing shows what stayed.",
    ],
    [
      { code: "cold-asks", side: "near", have: 1, need: 2, evidence: ["a", "b"] },
      "1 of the last 2 first asks of a day was clean on the near side; all must be.",
    ],
    [{ code: "relaxed", side: "none", met: true, have: 0, need: 0 }, "Quiet in the last two outings."],
    [
      { code: "relaxed", side: "off", have: 1, need: 0 },
      "Tight, over or shut down 1 time in the last two outings on the off side.",
    ],
    [{ code: "light", side: "near", have: 3, need: 1 }, "Usual phase 3 on the near side; at most 1 is asked."],
    [
      { code: "light", side: "near", have: null, need: 1 },
      "No answer given yet on the near side to weigh the feel by.",
    ],
    [
      { code: "fresh", side: "near", met: true, have: 0, need: 60 },
      "Shown clean, here or in what rests on it, today on the near side; good for 60 days.",
    ],
    [
      { code: "fresh", side: "near", have: 61, need: 60 },
      "Last shown clean 61 days ago on the near side; a cold check falls due after 60 days.",
    ],
    [
      { code: "rests-on", have: { step: "give-halter", status: "slipped" } },
      "Rests on Gives to the halter, which has slipped.",
    ],
    [
      { code: "needs-slipped", have: { step: "give-halter", status: "slipped" } },
      "Gives to the halter, which it rests on, has slipped since. This step keeps its word; mend the piece first.",
    ],
    [{ code: "side-gap", side: "off", have: 0.5, need: 0.9 }, "The off side is behind: 50 % clean against 90 %."],
    [
      { code: "both-sides", have: { near: "steady", off: "untried" } },
      "The sides are not both there: near side steady, off side untried.",
    ],
    [
      { code: "lucky", side: "near", evidence: ["a"] },
      "1 good answer right after a miss on the near side, not tested yet: ask again at once, as light or lighter.",
    ],
  ])("%j", (finding, words) => {
    expect(say(finding)).toBe(words);
  });

  it("for a dull horse names tired, ill, sore and shut down first, and sends one that is shut down to rest and a vet", () => {
    expect(say({ code: "dull", side: "near" })).toContain("First rule out tired, ill, sore or shut down.");
    expect(say({ code: "shut-down" })).toContain("vet");
  });

  it("never blames: no sentence has a he, she or you in it", () => {
    const codes = Object.keys(RULE_TITLES) as Finding["code"][];
    for (const code of codes) {
      const have = code === "rests-on" || code === "needs-slipped" ? { step: "flex", status: "begun" } : 1;
      expect(say({ code, side: "near", have, need: 2 })).not.toMatch(/\b(he|she|you|your)\b/i);
    }
  });
});

describe("what would open a step, in words", () => {
  it.each([
    [{ code: "clean-share", side: "off", count: 3 }, "3 more clean asks on the off side"],
    [{ code: "clean-share", side: "none", count: 1 }, "1 more clean ask"],
    [{ code: "different-days", side: "near", count: 1 }, "work it on 1 further day on the near side"],
    [{ code: "cold-asks", side: "near", count: 1 }, "a clean first ask on the near side another day"],
    [{ code: "cold-asks", side: "near", count: 2 }, "a clean first ask on the near side on 2 days running"],
    [{ code: "relaxed", side: "off", count: 2 }, "2 quiet outings in a row on the off side"],
    [{ code: "fresh", side: "off", count: 1 }, "one clean cold ask on the off side"],
    [{ code: "rests-on", step: "halter-on" }, "first make steady: Halter on and off"],
  ] as const)("%j", (action, words) => {
    expect(openInWords(action, loosePenStart)).toBe(words);
  });

  it("in one line names each side once, and both together when they want the same", () => {
    const near = { code: "clean-share", side: "near", count: 3 } as const;
    const off = { code: "clean-share", side: "off", count: 3 } as const;
    const cold = { code: "cold-asks", side: "off", count: 1 } as const;
    expect(openSummary([near, off], loosePenStart)).toBe("both sides: 3 more clean asks");
    expect(openSummary([near, off, cold], loosePenStart)).toBe(
      "near side: 3 more clean asks; off side: 3 more clean asks, a clean first ask another day",
    );
    expect(openSummary([{ code: "rests-on", step: "flex" }, near], loosePenStart)).toBe(
      "first make steady: Lateral flexion; near side: 3 more clean asks",
    );
    expect(openSummary([], loosePenStart)).toBe("");
  });
});

describe("the six words", () => {
  it("each have a meaning", () => {
    for (const status of STATUSES) {
      expect(STATUS_WORDS[status].toLowerCase()).toBe(status);
      expect(STATUS_MEANS[status].length).toBeGreaterThan(8);
    }
  });
});
