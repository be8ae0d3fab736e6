import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { foldRecord } from "../record";
import { broughtUp, shortRecord, steadyIds, type ShortOuting } from "./cases/notation";
import { dayCheckOf, type DayCheck } from "./day-check";
import { gather } from "./gather";

/** The day's check before a gate of a horse who has all it asks for, after what was asked today. */
function checkOf(id: string, ...today: string[]): DayCheck {
  const ids = steadyIds(loosePenStart, undefined, id === "tie" ? "tie" : "lean");
  const outings: ShortOuting[] = [...broughtUp(loosePenStart, ids), ...today.map((text): ShortOuting => [0, text])];
  const folded = foldRecord(shortRecord(outings));
  const gathered = gather(folded, loosePenStart);
  const gate = gathered.gates.find((one) => one.gate.id === id);
  if (!gate) throw new Error(`no gate ${id}`);
  return dayCheckOf(gate, gathered, folded.outings, "2026-01-10");
}

const CLEAN =
  "give-halter near 1g1; give-halter off 1g1; head-down 1g1; step-up 1g1; step-back 1g1; yield-hind near 1g1; yield-hind off 1g1; lead near 1g1; lead off 1g1; stand 0g1";
const but = (step: string, tokens: string): string => CLEAN.replace(`${step} 1g1`, `${step} ${tokens}`);
const wordOf = ({ asks }: DayCheck, step: string, side = "none"): string | undefined =>
  asks.find((one) => one.step === step && one.side === side)?.word;

describe("the key asks of a day", () => {
  it("are each side of what the gate asks for, and are open before anything was asked", () => {
    const check = checkOf("tie");
    expect(check.word).toBe("open");
    expect(check.asks.map(({ step, side }) => `${step} ${side}`)).toEqual([
      "give-halter near",
      "give-halter off",
      "head-down none",
      "step-up none",
      "step-back none",
      "yield-hind near",
      "yield-hind off",
      "lead near",
      "lead off",
      "stand none",
    ]);
    expect(new Set(check.asks.map(({ word }) => word))).toEqual(new Set(["not-asked"]));
  });

  it("are passed when all came clean, each at its first, whatever came after", () => {
    expect(checkOf("tie", CLEAN).asks.filter(({ word }) => word !== "clean")).toEqual([]);
    expect(checkOf("tie", CLEAN).word).toBe("passed");
    expect(checkOf("tie", but("lead near", "1g1 1t1x3")).word).toBe("passed");
  });

  it("may miss one that is mended by its next two", () => {
    const mended = checkOf("tie", but("lead near", "1t1 1g1x2"));
    expect([mended.word, wordOf(mended, "lead", "near")]).toEqual(["passed", "mended"]);
    const mending = checkOf("tie", but("lead near", "1t1 1g1"));
    expect([mending.word, wordOf(mending, "lead", "near")]).toEqual(["open", "mending"]);
  });

  it("are not for today after a second miss, of that side or of another", () => {
    const again = checkOf("tie", but("lead near", "1t1 1g1 1t1"));
    expect([again.word, wordOf(again, "lead", "near")]).toEqual(["not-today", "missed"]);
    const other = but("lead near", "1t1 1g1x2").replace("stand 0g1", "stand 0t1");
    expect(checkOf("tie", other).word).toBe("not-today");
    // Mending both would not do either.
    expect(checkOf("tie", other.replace("stand 0t1", "stand 0t1 0g1x2")).word).toBe("not-today");
  });

  it("count over all outings of the day, and no remembered series, smaller rung or neutral ask among them", () => {
    const [first = "", ...rest] = CLEAN.split("; ");
    expect(checkOf("tie", first, rest.join("; ")).word).toBe("passed");
    expect(wordOf(checkOf("tie", "lead near s6/6gg11"), "lead", "near")).toBe("not-asked");
    expect(wordOf(checkOf("tie", "lead near 1u1"), "lead", "near")).toBe("not-asked");
    expect(wordOf(checkOf("tie", "give-halter near 1g1^-"), "give-halter", "near")).toBe("not-asked");
  });

  it("are of the stop and the mounting before a first ride", () => {
    const steps = new Set(checkOf("first-ride").asks.map(({ step }) => step));
    expect(steps).toEqual(new Set(["saddle-work", "above", "block", "stand", "lead", "flex", "yield-hind"]));
  });
});
