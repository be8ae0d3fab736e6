import { describe, expect, it } from "vitest";
import { loosePenStart, type Gate } from "../programs";
import { shapeOf, tryGate, type GateTrialPlan } from ".";

const gateOf = (id: string): Gate => {
  const gate = loosePenStart.gates.find((one) => one.id === id);
  if (!gate) throw new Error(`no gate ${id}`);
  return gate;
};

/** A tenth and less of the horses of the table in docs/judge.md. */
const tried = (id: string, plan: Omit<GateTrialPlan, "asksASide" | "seed">) =>
  tryGate(loosePenStart, gateOf(id), { asksASide: 4, seed: 7, ...plan });

/** The part of the outings 25 to 65 in which the steps were open, and in which the day's check passed as well. */
function partOf(id: string, shares: GateTrialPlan["shares"], horses = 60): { open: number; passed: number } {
  const { open, passed } = tried(id, { horses, outings: 65, shares });
  const mean = (counts: readonly number[]): number =>
    counts.slice(25).reduce((sum, one) => sum + one, 0) / (40 * horses);
  return { open: mean(open), passed: mean(passed) };
}

/** The part of horses with a hole that pass at least once in forty outings. */
const holePart = (id: string, hole: GateTrialPlan["shares"], horses = 200): number =>
  tried(id, { horses, outings: 40, shares: { warm: 0.96 }, hole }).everPassed(40) / horses;

describe("gates on horses whose shares never change", () => {
  it("open for a good horse: of force, of a rider, of handling", () => {
    expect(partOf("saddle", { warm: 0.98 }).open).toBeGreaterThan(0.95);
    expect(partOf("saddle", { warm: 0.95 }).open).toBeGreaterThan(0.85);
    const ride = partOf("first-ride", { warm: 0.95 });
    expect(ride.open).toBeGreaterThan(0.8);
    expect(ride.passed).toBeGreaterThan(0.62);
    expect(ride.passed).toBeLessThan(ride.open);
    expect(partOf("halter", { warm: 0.95, rho: 0.1 }).open).toBeGreaterThan(0.9);
  });

  it("stay shut for one side that is not there, and for a horse that is nowhere", () => {
    expect(holePart("first-ride", { warm: 0.7 })).toBeLessThan(0.05);
    expect(holePart("saddle", { warm: 0.7 })).toBeLessThan(0.06);
    expect(holePart("first-ride", { warm: 0.9, cold: 0.5 })).toBeLessThan(0.05);
    expect(tried("first-ride", { horses: 60, outings: 40, shares: { warm: 0.8 } }).everPassed(40)).toBe(0);
  });

  it("open less often on bad days, and the day's check less often still", () => {
    const good = partOf("first-ride", { warm: 0.97, cold: 0.93 });
    const { open, passed } = tried("first-ride", {
      horses: 60,
      outings: 65,
      shares: { warm: 0.97, cold: 0.93 },
      badDays: { chance: 0.1, share: 0.85 },
    });
    const part = (counts: readonly number[]): number => counts.slice(25).reduce((sum, one) => sum + one, 0) / (40 * 60);
    expect(part(open)).toBeLessThan(good.open);
    expect(part(passed)).toBeLessThan(part(open));
  });

  it("are alike where they ask for as many sides of a kind, by the same bar", () => {
    expect(shapeOf(loosePenStart, gateOf("first-ride"))).not.toBe(shapeOf(loosePenStart, gateOf("saddle")));
    expect(shapeOf(loosePenStart, { ...gateOf("saddle"), id: "other", before: [] })).toBe(
      shapeOf(loosePenStart, gateOf("saddle")),
    );
  });
});
