import { describe, expect, it } from "vitest";
import { findStep, loosePenStart } from "../programs";
import { dayIn, daysBetween, foldRecord, type HorseRecord } from "../record";
import { gather, judgeGates, judgeGathered, whatNext, type Judgement } from "../readiness";
import { buildDemoYard, DEMO_SHOWS, FAMILIES, PLAIN, randomFrom, SimulatedHorse } from ".";

const TODAY = "2026-05-20";
const build = (today: string): HorseRecord[] => {
  let n = 0;
  return buildDemoYard(today, () => `id${(n += 1)}`);
};
const standing = (record: HorseRecord, today: string) => {
  const gathered = gather(foldRecord(record), loosePenStart);
  const judgements = judgeGathered(gathered, today);
  return { judgements, gates: judgeGates(gathered, today), next: whatNext(gathered, judgements, today) };
};

const YARD = build(TODAY);
const horse = (name: string): HorseRecord => {
  const record = YARD.find((one) => one.horse.name === name);
  if (!record) throw new Error(`no ${name}`);
  return record;
};
const of = (name: string) => standing(horse(name), TODAY);
const step = (name: string, id: string): Judgement => {
  const found = of(name).judgements.find((one) => one.step === id);
  if (!found) throw new Error(`no ${id}`);
  return found;
};
const codes = (judgement: Judgement): string[] =>
  judgement.findings.filter((one) => !one.met).map((one) => `${one.code}@${one.side ?? "none"}`);

describe("the demo yard", () => {
  it("is the same for the same day", () => {
    expect(build(TODAY)).toEqual(YARD);
  });

  it("has eight horses, each with its line, and none of their outings today or later", () => {
    expect(YARD.map((record) => record.horse.name)).toEqual([...DEMO_SHOWS.keys()]);
    expect(YARD).toHaveLength(8);
    for (const { outings } of YARD) {
      const days = outings.map((outing) => daysBetween(dayIn("Europe/Dublin", outing.startedAt), TODAY));
      expect(days.length).toBeGreaterThanOrEqual(8);
      expect(Math.min(...days)).toBeGreaterThanOrEqual(1);
    }
    const longest = YARD.filter(({ horse: { name } }) => name !== "Curlew").map(({ outings }) => outings[0]?.startedAt);
    for (const first of longest) expect(daysBetween(dayIn("Europe/Dublin", first ?? ""), TODAY)).toBeLessThan(80);
  });

  it("gives the same words on whichever day it is built, over a clock change too", () => {
    for (const day of ["2026-03-30", "2026-11-01", "2027-01-01"])
      build(day).forEach((record, index) => {
        const words = (one: HorseRecord, today: string): string[] =>
          standing(one, today).judgements.map(({ status }) => status);
        const own = YARD[index];
        expect([record.horse.name, words(record, day)]).toEqual([record.horse.name, own && words(own, TODAY)]);
      });
  });

  it("Teasel, a weanling gathered ten days ago, shares the pen and is no further than the rope", () => {
    expect(step("Teasel", "share-space").status).toBe("steady");
    expect(of("Teasel").judgements.filter(({ status }) => status === "steady")).toHaveLength(1);
    expect(["begun", "coming"]).toContain(step("Teasel", "catch-rope").status);
    expect(of("Teasel").next.gate).toBe("halter");
    expect(daysBetween(dayIn("Europe/Dublin", horse("Teasel").outings[0]?.startedAt ?? ""), TODAY)).toBe(10);
  });

  it("Rush, a yearling, learns feet: all under it is steady, and the hinds are behind", () => {
    const feet = step("Rush", "pick-up");
    expect(["begun", "coming"]).toContain(feet.status);
    expect(feet.findings.filter((one) => one.code === "rests-on").map((one) => one.met)).not.toContain(false);
    expect(codes(feet).some((code) => /side-gap@(near|off)-hind/.test(code))).toBe(true);
    expect(of("Rush").next.work.find((one) => one.step === "pick-up")).toBeDefined();
  });

  it("Bracken stands at the halter gate with a sticky off side", () => {
    const head = step("Bracken", "head-rub");
    expect([head.sides.near?.status, head.sides.off?.status]).toEqual(["steady", "begun"]);
    expect(codes(head)).toContain("side-gap@off");
    const gate = of("Bracken").gates.find((one) => one.gate === "halter");
    expect(gate?.needs.filter((need) => !need.met).map((need) => need.anyOf)).toEqual([["head-rub"]]);
    expect(of("Bracken").next.gate).toBe("halter");
  });

  it("Plover reacts in the quarters: light and tight on both sides, and nowhere else", () => {
    expect(codes(step("Plover", "yield-hind"))).toEqual(expect.arrayContaining(["reacts@near", "reacts@off"]));
    const others = of("Plover").judgements.filter((one) => one.step !== "yield-hind");
    expect(others.filter((one) => codes(one).some((code) => code.startsWith("reacts")))).toEqual([]);
    expect(others.map((one) => one.status).filter((word) => word !== "steady" && word !== "untried")).toEqual([]);
  });

  it("Sedge has gone dull: what moves her feet is heavy and loose and has slipped", () => {
    for (const id of ["move-off", "yield-hind"]) {
      expect([id, step("Sedge", id).status]).toEqual([id, "slipped"]);
      expect(codes(step("Sedge", id))).toEqual(expect.arrayContaining(["dull@near", "dull@off"]));
    }
    expect(step("Sedge", "flag").status).toBe("steady");
    expect(of("Sedge").next.work[0]?.reason).toBe("slipped");
  });

  it("Heron is in saddle work: it is coming, and all before it is steady", () => {
    expect(step("Heron", "saddle-work").status).toBe("coming");
    expect(step("Heron", "saddle-alone").status).toBe("steady");
    expect(of("Heron").gates.find((one) => one.gate === "saddle")?.behind).toBe(true);
  });

  it("Lapwing stands at the first-ride gate with one thing missing: the block on her off side", () => {
    const gate = of("Lapwing").gates.find((one) => one.gate === "first-ride");
    expect(gate?.needs.filter((need) => !need.met).map((need) => need.anyOf)).toEqual([["block"]]);
    const block = step("Lapwing", "block");
    expect([block.sides.near?.status, block.sides.off?.status]).toEqual(["steady", "untried"]);
    expect(of("Lapwing").next).toMatchObject({ gate: "first-ride" });
    expect(of("Lapwing").next.work[0]).toMatchObject({ step: "block", reason: "gate", gate: "first-ride" });
  });

  it("Curlew is back from being turned away, three rides old: much is rusty, nothing has slipped", () => {
    const words = of("Curlew").judgements.map(({ status }) => status);
    expect(words.filter((word) => word === "rusty").length).toBeGreaterThan(10);
    expect(words).not.toContain("slipped");
    const rides = horse("Curlew").outings.filter(({ events }) =>
      events.some((event) => event["step" as never] === "led-ride"),
    );
    expect(rides).toHaveLength(3);
    expect(of("Curlew").next.checkCold.length).toBeGreaterThan(10);
  });
});

describe("a simulated horse", () => {
  const flex = findStep(loosePenStart, "flex");
  if (!flex) throw new Error("no flex");

  it("learns, each side apart, and its true share says so", () => {
    const pony = new SimulatedHorse({ ...PLAIN, offBehind: 0.5 }, randomFrom(3));
    pony.goOut("2026-01-05");
    const before = pony.trueShare(flex, "near");
    for (let n = 0; n < 60; n += 1) pony.ask(flex, "near");
    expect(pony.trueShare(flex, "near")).toBeGreaterThan(before + 0.2);
    expect(pony.trueShare(flex, "off")).toBeLessThan(before);
  });

  it("answers clean about as often as its true share says", () => {
    const known = { ...PLAIN, known: { flex: 0.9 }, learns: 0, coldLoss: 0, swing: 0 };
    const pony = new SimulatedHorse(known, randomFrom(7));
    pony.goOut("2026-01-05");
    const answers = Array.from({ length: 4000 }, () => pony.ask(flex, "near"));
    const clean = answers.filter(({ answer, phase = 9, mood }) => answer === "gave" && phase <= 1 && mood <= 1).length;
    // Three standard errors of a share of 4000 are 0.02.
    expect(Math.abs(clean / 4000 - pony.trueShare(flex, "near"))).toBeLessThan(0.025);
  });

  it("forgets over a break, if it is of that kind, and not over a day", () => {
    const pony = new SimulatedHorse({ ...PLAIN, known: { flex: 0.9 }, breakLoss: 0.3 }, randomFrom(1));
    pony.goOut("2026-01-05");
    const fresh = pony.trueShare(flex, "near");
    pony.goOut("2026-01-06");
    expect(fresh - pony.trueShare(flex, "near")).toBeLessThan(0.03);
    pony.goOut("2026-03-07");
    expect(pony.trueShare(flex, "near")).toBeLessThan(fresh * 0.6);
  });

  it("comes in families, each with what it is like", () => {
    for (const { says, nature } of Object.values(FAMILIES)) {
      expect(says.length).toBeGreaterThan(10);
      expect(nature.start).toBeGreaterThan(0);
    }
    expect(Object.keys(FAMILIES)).toContain("plateau");
  });

  it("draws the same numbers from the same seed", () => {
    const draw = (seed: number): number[] => Array.from({ length: 5 }, randomFrom(seed));
    expect(draw(1)).toEqual(draw(1));
    expect(draw(1)).not.toEqual(draw(2));
    for (const value of draw(9)) expect(value >= 0 && value < 1).toBe(true);
  });
});
