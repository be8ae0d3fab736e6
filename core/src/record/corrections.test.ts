import { describe, expect, it } from "vitest";
import { resolveCorrections } from "./corrections";
import { foldRecord } from "./fold";
import type { CorrectionEvent, HorseRecord, RecordEvent } from "./types";
import { shortRecord } from "../readiness/cases/notation";

const at = "2026-01-10T12:00:00.000Z";
const correction = (id: string, replaces: string, change: Partial<CorrectionEvent>): CorrectionEvent => ({
  id,
  at,
  type: "correction",
  replaces,
  ...change,
});

function counted(...corrections: CorrectionEvent[]): readonly RecordEvent[] {
  const record: HorseRecord = shortRecord([[0, "flex near 1g1 2g2"]]);
  record.outings[0]?.events.push(...corrections);
  return foldRecord(record).outings[0]?.events ?? [];
}

describe("a correction", () => {
  it("voids an event, which stays in the history", () => {
    const record = shortRecord([[0, "flex near 1g1 2g2"]]);
    record.outings[0]?.events.push(correction("c1", "o0-002", { void: true }));
    const [outing] = foldRecord(record).outings;
    expect(outing?.events.map((event) => event.id)).toEqual(["o0-001"]);
    expect(outing?.history.map((event) => event.id)).toEqual(["o0-001", "o0-002", "c1"]);
  });

  it("takes a field away with null", () => {
    const [first] = counted(correction("c1", "o0-001", { with: { phase: null, mood: 0 } }));
    expect(first).not.toHaveProperty("phase");
    expect(first).toMatchObject({ mood: 0, answer: "gave" });
  });

  it("changes the fields it gives and no others, and never the id or the type", () => {
    const events = counted(correction("c1", "o0-002", { with: { phase: 1, id: "x", type: "note" } }));
    expect(events[1]).toMatchObject({ id: "o0-002", type: "ask", phase: 1, mood: 2 });
  });

  it("of a correction brings the event back when it voids it", () => {
    const events = counted(correction("c1", "o0-002", { void: true }), correction("c2", "c1", { void: true }));
    expect(events.map((event) => event.id)).toEqual(["o0-001", "o0-002"]);
  });

  it("of a correction joins its fields to those already changed", () => {
    const events = counted(
      correction("c1", "o0-002", { with: { phase: 1 } }),
      correction("c2", "c1", { with: { mood: 1 } }),
    );
    expect(events[1]).toMatchObject({ phase: 1, mood: 1 });
  });

  it("of a void with fields brings the event back changed", () => {
    const events = counted(correction("c1", "o0-002", { void: true }), correction("c2", "c1", { with: { phase: 0 } }));
    expect(events[1]).toMatchObject({ id: "o0-002", phase: 0 });
  });

  it("can be undone three deep", () => {
    const events = counted(
      correction("c1", "o0-002", { void: true }),
      correction("c2", "c1", { void: true }),
      correction("c3", "c2", { void: true }),
    );
    expect(events.map((event) => event.id)).toEqual(["o0-001"]);
  });

  it("a later one wins field by field; a void stands until it is voided", () => {
    expect(
      counted(
        correction("c1", "o0-002", { with: { phase: 1 } }),
        correction("c2", "o0-002", { with: { phase: 3 } }),
      )[1],
    ).toMatchObject({ phase: 3 });
    expect(
      counted(correction("c1", "o0-002", { void: true }), correction("c2", "o0-002", { with: { phase: 3 } })),
    ).toHaveLength(1);
  });

  it("in a circle, of itself or of nothing changes nothing and is named", () => {
    const record = shortRecord([[0, "flex near 1g1"]]);
    record.outings[0]?.events.push(
      correction("c1", "c2", { void: true }),
      correction("c2", "c1", { void: true }),
      correction("c3", "c3", { void: true }),
      correction("c4", "gone", { void: true }),
      correction("c5", "c1", { void: true }),
    );
    const folded = foldRecord(record);
    expect(folded.outings[0]?.events.map((event) => event.id)).toEqual(["o0-001"]);
    expect(folded.corrections.stray.map((one) => one.id)).toEqual(["c1", "c2", "c3", "c4", "c5"]);
  });

  it("counts in effective order, whatever the order it comes in", () => {
    const later = correction("c2", "o0-002", { at: "2026-01-10T13:00:00.000Z", with: { phase: 3 } });
    const earlier = correction("c1", "o0-002", { with: { phase: 1 } });
    const [, ask] = shortRecord([[0, "flex near 1g1 2g2"]]).outings[0]?.events ?? [];
    if (!ask) throw new Error("no ask");
    for (const order of [
      [ask, earlier, later],
      [later, ask, earlier],
    ])
      expect(resolveCorrections(order).standingOf(ask)).toMatchObject({ event: { phase: 3 }, by: [earlier, later] });
  });

  it("never takes the time of an entry away", () => {
    expect(counted(correction("c1", "o0-001", { with: { at: null, phase: 2 } }))[0]).toMatchObject({
      at: expect.any(String),
      phase: 2,
    });
  });

  it("leaves fields called like parts of JavaScript alone", () => {
    const [first] = counted(correction("c1", "o0-001", { with: JSON.parse('{"__proto__": {"voided": true}}') }));
    expect(Object.getPrototypeOf(first)).toBe(Object.prototype);
  });
});

/** As many as somebody could post who means harm; each test would take minutes, or run out of stack, were work to grow faster. */
const MANY = 20_000;
const SOON_MS = 20_000;

describe("twenty thousand corrections", () => {
  const ask = shortRecord([[0, "flex near 1g1"]]).outings[0]?.events[0];
  if (!ask) throw new Error("no ask");
  const chainOf = (change: (n: number) => Partial<CorrectionEvent>): CorrectionEvent[] =>
    Array.from({ length: MANY }, (_, n) => correction(`c${n}`, n === 0 ? ask.id : `c${n - 1}`, change(n)));

  it("each of the one before, are resolved: undone an even number of times it stands", { timeout: SOON_MS }, () => {
    const chain = chainOf(() => ({ void: true }));
    const resolved = resolveCorrections([ask, ...chain.toReversed()]);
    expect(resolved.standingOf(ask).voided).toBe(false);
    expect(resolved.about(ask.id)).toEqual(chain);
    expect(chain.filter((one) => resolved.isUndone(one))).toHaveLength(MANY / 2);
    expect(resolveCorrections([ask, ...chain.slice(0, -1)]).standingOf(ask).voided).toBe(true);
  });

  it("each with a field of its own are all joined", { timeout: SOON_MS }, () => {
    const resolved = resolveCorrections([ask, ...chainOf((n) => ({ with: { [`field${n}`]: n } }))]);
    expect(Object.keys(resolved.standingOf(ask).event)).toHaveLength(Object.keys(ask).length + MANY);
  });

  it("all of one entry, or in one circle, are resolved too", { timeout: SOON_MS }, () => {
    const direct = Array.from({ length: MANY }, (_, n) => correction(`c${n}`, ask.id, { with: { [`field${n}`]: n } }));
    expect(resolveCorrections([ask, ...direct]).standingOf(ask).by).toHaveLength(MANY);
    const circle = Array.from({ length: MANY }, (_, n) => correction(`c${n}`, `c${(n + 1) % MANY}`, { void: true }));
    expect(resolveCorrections([ask, ...circle]).stray).toHaveLength(MANY);
  });
});
