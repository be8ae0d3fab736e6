import { describe, expect, it } from "vitest";
import { findStep, loosePenStart } from "@still-pine/core/programs";
import { needInWords } from "./need-words";

describe("a need in words", () => {
  const restsOn = (step: string): string[] =>
    (findStep(loosePenStart, step)?.needs ?? []).map((need) => needInWords(need, loosePenStart, "american"));

  it("says as far as which rung, how he goes, where on him and at which gait", () => {
    expect(restsOn("pad")).toContain(
      "Flag (as far as half open, moving too) or Sheet or tarpaulin (as far as half open, moving too)",
    );
    expect(restsOn("hip-rope")).toContain("Rope tossed over him (at the croup and hock)");
    expect(restsOn("canter-ride")).toContain("Works under the saddle (in canter)");
  });

  it("says a rung that is named in the words of its ladder, and nothing beside a step that is needed as a whole", () => {
    const need = { anyOf: [[{ step: "flag", rung: "half" }], [{ step: "sheet" }, { step: "lead" }]] };
    expect(needInWords(need, loosePenStart, "american")).toBe(
      "Flag (as far as half open) or Sheet or tarpaulin with Leads on a slack rope",
    );
  });

  it("names a rung that the ladder does not have, and a step that is not there, as they are written", () => {
    const need = { anyOf: [[{ step: "flag", rung: "no-such-rung" }], [{ step: "no-such-step", rung: 2 }]] };
    expect(needInWords(need, loosePenStart, "british")).toBe(
      "Flag (as far as no-such-rung) or no-such-step (as far as 2)",
    );
  });
});
