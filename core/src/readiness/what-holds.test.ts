import { describe, expect, it } from "vitest";
import { everythingUnder, findStep, loosePenStart, refsOf, sidesOf, type Program } from "../programs";
import { addDays, foldRecord, type Day } from "../record";
import { broughtUp, shortRecord, type ShortOuting } from "./cases/notation";
import { gather } from "./gather";
import { judgeGathered } from "./judge";
import { whatNext } from "./next";
import { mayWork, type Opening } from "./openings";
import type { WhatNext } from "./types";

/** What may not be proposed, and why. Horsemen named these faults; each holds for every program unless it says otherwise. */

const program = loosePenStart;
const day = (n: number): Day => addDays("2026-01-10", n);

const upTo = (by: Program, ...ids: string[]): string[] => {
  const all = new Set(ids.flatMap((id) => [...everythingUnder(by, id), id]));
  return by.steps.map(({ id }) => id).filter((id) => all.has(id));
};

const gathered = (steady: readonly string[], outings: ShortOuting[], by = program) =>
  gather(foldRecord(shortRecord([...broughtUp(by, steady), ...outings])), by);

function next(steady: readonly string[], outings: ShortOuting[], now: number, by = program): WhatNext {
  const all = gathered(steady, outings, by);
  return whatNext(all, judgeGathered(all, day(now)), day(now));
}
const may = (steady: readonly string[], outings: ShortOuting[], step: string, now: number, by = program): Opening =>
  mayWork(gathered(steady, outings, by), step, day(now));

const proposed = ({ work, follow }: WhatNext): string[] => [...work, ...follow].map(({ step }) => step);

/** Steps asked once on every side, clean and quiet. */
const once = (ids: readonly string[], by = program): string =>
  ids
    .flatMap((id) => {
      const step = findStep(by, id);
      if (!step) throw new Error(`no step ${id}`);
      const asks = `${step.standard.phase ?? "-"}g${Math.min(1, step.standard.mood)}`;
      return sidesOf(step).map((side) => `${id} ${side === "none" ? "" : `${side} `}${asks}`);
    })
    .join("; ");

describe("a rusty base", () => {
  const steady = upTo(program, "flex");
  const [above] = program.steps.filter(({ needs }) => refsOf(needs).some(({ step }) => step === "flex"));

  it("holds back what rests on it until the cold check, and says so", () => {
    const id = above?.id ?? "";
    const all = upTo(program, id).filter((one) => one !== id);
    expect(may(all, [], id, -6).may).not.toBe("no");
    // A year later every check is due.
    const later = may(all, [], id, 365);
    expect(later).toMatchObject({ may: "no", why: { code: "rests-on", have: { status: "rusty" } } });
    const { work, follow } = next(all, [], 365);
    expect(work.map(({ step }) => step)).toEqual([]);
    // What may follow says which checks it waits for.
    const waits = follow.find(({ step }) => step === id)?.after ?? [];
    expect(waits).toContainEqual({ step: "flex", stands: false, waits: ["near", "off"] });
  });

  it("is checked in the order of the road, the lowest first, not the longest overdue first", () => {
    const { checkCold } = next(steady, [], 365);
    const rusty = checkCold.filter(({ reason }) => reason === "rusty").map(({ step }) => step);
    expect(rusty).toEqual(program.steps.map(({ id }) => id).filter((id) => rusty.includes(id)));
    expect(rusty.length).toBeGreaterThan(3);
  });

  it("that came clean in the cold check holds nothing back any more", () => {
    const id = above?.id ?? "";
    const all = upTo(program, id).filter((one) => one !== id);
    const checked: ShortOuting = [365, once(all)];
    expect(may(all, [checked], id, 365).may).not.toBe("no");
  });
});

describe("after a break", () => {
  const ridden = program.steps.map(({ id }) => id);
  const beyond = ["lean", "lie-over", "foot-in", "astride", "led-ride"];
  const rideLater = ["lean", "astride", "led-ride", "arena", "go-leg"];

  /** What the gate of the first ride asks for, and what those rest on. */
  const asked = refsOf(program.gates.find(({ id }) => id === "first-ride")?.needs ?? []).map(({ step }) => step);

  it("without one a horse that was ridden is ridden on", () => {
    for (const step of rideLater) expect([step, may(ridden, [], step, -6).may]).toEqual([step, "yes"]);
  });

  it("no riding is offered on the third day back, 155 days on", () => {
    const back: ShortOuting[] = [
      [148, once(["share-space", "catch-rope", "halter-on", "lead"])],
      [149, once(["stand", "flex"])],
    ];
    const on = 150;
    expect(proposed(next(ridden, back, on)).filter((step) => beyond.includes(step))).toEqual([]);
    for (const step of rideLater) expect([step, may(ridden, back, step, on).may]).toEqual([step, "no"]);
    const { checkCold, shut } = next(ridden, back, on);
    expect(checkCold.map(({ step }) => step).filter((step) => beyond.includes(step))).toEqual([]);
    expect(shut.find(({ gate }) => gate === "first-ride")?.steps).toEqual(expect.arrayContaining(beyond));
    // What the way back asks for is named in the order of the road, from the bottom up.
    const wanted = checkCold.filter(({ reason }) => reason !== "soon").map(({ step }) => step);
    expect(wanted).toEqual(program.steps.map(({ id }) => id).filter((id) => wanted.includes(id)));
    expect(wanted).toEqual(expect.arrayContaining(["above", "block", "saddle-work"]));
    expect(may(ridden, back, "led-ride", on)).toMatchObject({ why: { code: "gate-shut", need: "first-ride" } });
  });

  it("of fourteen days the first-ride gate lies ahead again, of thirteen it does not", () => {
    expect(may(ridden, [], "led-ride", -7 + 13).may).toBe("yes");
    expect(may(ridden, [], "led-ride", -7 + 14)).toMatchObject({ why: { code: "gate-shut", need: "first-ride" } });
  });

  it("the gate opens once every step it asks for came clean cold, and one outing on the ground was made for each two weeks", () => {
    expect(asked.length).toBeGreaterThan(4);
    // Six weeks away: three outings on the ground.
    const first = -7 + 42;
    const outings = [0, 1, 2].map((n): ShortOuting => [first + n, once(upTo(program, ...asked))]);
    const isOpen = (made: ShortOuting[], now: number): string => may(ridden, made, "led-ride", now).may;
    expect(isOpen(outings.slice(0, 1), first + 1)).toBe("no");
    expect(may(ridden, outings.slice(0, 2), "led-ride", first + 2)).toMatchObject({
      why: { code: "gate-shut", have: { lacks: [], ground: 1 } },
    });
    expect(isOpen(outings, first + 3)).toBe("yes");
    // One of them never asked: all the outings in the world do not open it.
    const lacking = outings.map(([on]): ShortOuting => [
      on,
      once(upTo(program, ...asked).filter((id) => id !== "block")),
    ]);
    expect(may(ridden, lacking, "led-ride", first + 3)).toMatchObject({
      why: { code: "gate-shut", have: { lacks: ["block"] } },
    });
  });

  it("takes six outings on the ground at most", () => {
    const first = 400;
    const outings = Array.from({ length: 6 }, (_, n): ShortOuting => [first + n, once(upTo(program, ...asked))]);
    expect(may(ridden, outings.slice(0, 5), "lean", first + 5)).toMatchObject({ why: { have: { ground: 1 } } });
    expect(may(ridden, outings, "lean", first + 6).may).toBe("yes");
    // What lies further on is rusty by now, and waits for its own check.
    expect(may(ridden, outings, "led-ride", first + 6)).toMatchObject({ why: { have: { status: "rusty" } } });
  });

  it("one that was never ridden is asked for no more than before", () => {
    const all = ridden.filter((id) => ![...beyond, ...rideLater].includes(id));
    const young = upTo(program, "lead");
    expect(all.length).toBeGreaterThan(young.length);
    expect(next(young, [], -7 + 20).work.length).toBeGreaterThan(0);
  });
});
