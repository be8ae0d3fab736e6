import { describe, expect, it } from "vitest";
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
});
