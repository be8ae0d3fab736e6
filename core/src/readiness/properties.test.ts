import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { addDays, foldRecord, type HorseRecord, type RecordEvent } from "../record";
import { gather, gatherOn, restoreGathered, saveGathered, stands } from "./gather";
import { judgeGathered, judgeRecord } from "./judge";
import type { Judgement } from "./types";
import { leastWork, tryOuting } from "./to-open";
import { whyNotOnItsOwn } from "./rules";
import { eveningOf, shortRecord, steadyOutings, type ShortOuting } from "./cases/notation";

const token = fc
  .tuple(
    fc.constantFrom("0", "1", "1", "1", "2", "3"),
    fc.constantFrom("g", "g", "g", "g", "t", "u", "n", "a"),
    fc.constantFrom("0", "1", "1", "1", "2", "3"),
  )
  .map((parts) => parts.join(""));
const line = fc
  .tuple(
    fc.constantFrom("flex near", "flex off", "give-halter near", "give-halter off", "body-rub near", "share-space"),
    fc.array(token, { minLength: 1, maxLength: 6 }),
  )
  .map(([step, tokens]) => `${step} ${tokens.join(" ")}`);
const extras = fc.constantFrom("", "", "", "; sign shut-down", "; sign yawn", "; flex near s6/5gt11");
const outing = fc
  .tuple(fc.nat({ max: 12 }), fc.array(line, { minLength: 1, maxLength: 5 }), extras)
  .map(([day, lines, more]): ShortOuting => [day, lines.join("; ") + more]);
const history = fc
  .array(outing, { maxLength: 7 })
  .map((outings) =>
    shortRecord([...steadyOutings(loosePenStart, "under", "give-halter"), ...outings.toSorted((a, b) => a[0] - b[0])]),
  );
const NOW = eveningOf(14);
const verdicts = (record: HorseRecord): string => JSON.stringify(judgeRecord(record, loosePenStart, NOW));
const runs = { numRuns: 80 };
/** What was saved keeps the numbers, not the lists of asks behind them. */
const withoutEvidence = (judgements: readonly Judgement[]): unknown =>
  judgements.map((one) => ({ ...one, findings: one.findings.map(({ evidence: _ids, ...rest }) => rest) }));

describe("a verdict does not depend on", () => {
  it("the order of outings and events", () => {
    fc.assert(
      fc.property(history, fc.infiniteStream(fc.nat()), (record, keys) => {
        const shuffled = <T>(list: T[]): T[] =>
          list
            .map((item) => ({ item, key: keys.next().value ?? 0 }))
            .toSorted((a, b) => a.key - b.key)
            .map(({ item }) => item);
        const other = {
          ...record,
          outings: shuffled(record.outings.map((one) => ({ ...one, events: shuffled(one.events) }))),
        };
        expect(verdicts(other)).toBe(verdicts(record));
      }),
      runs,
    );
  });

  it("whether events come once or twice", () => {
    fc.assert(
      fc.property(history, (record) => {
        const twice = {
          ...record,
          outings: [
            ...record.outings,
            ...record.outings.map((one) => ({ ...one, events: one.events.flatMap((event) => [event, event]) })),
          ],
        };
        expect(verdicts(twice)).toBe(verdicts(record));
      }),
      runs,
    );
  });

  it("whether the outings are gone through at once, or saved and taken up again after any of them", () => {
    fc.assert(
      fc.property(history, (record) => {
        const folded = foldRecord(record);
        const today = NOW.slice(0, 10);
        let saved = saveGathered(gather({ ...folded, outings: [] }, loosePenStart));
        folded.outings.forEach((one, index) => {
          const before = JSON.stringify(saved);
          const gathered = gatherOn(restoreGathered(loosePenStart, saved), [one]);
          // Found by the kill harness, seed 3: a late proof in the next outing changed what was saved before it.
          expect(JSON.stringify(saved)).toBe(before);
          saved = saveGathered(gathered);
          const atOnce = gather({ ...folded, outings: folded.outings.slice(0, index + 1) }, loosePenStart);
          expect(withoutEvidence(judgeGathered(restoreGathered(loosePenStart, saved), today))).toEqual(
            withoutEvidence(judgeGathered(atOnce, today)),
          );
        });
      }),
      runs,
    );
  });

  it("how the events are split over devices and parts of an outing", () => {
    fc.assert(
      fc.property(history, fc.infiniteStream(fc.nat({ max: 2 })), (record, devices) => {
        const counts = new Map<string, number>();
        const label = (event: RecordEvent): RecordEvent => {
          const device = `phone-${devices.next().value ?? 0}`;
          counts.set(device, (counts.get(device) ?? 0) + 1);
          return { ...event, device, seq: counts.get(device) };
        };
        const parts = record.outings.flatMap((one) => {
          const events = one.events.map(label);
          return [0, 1, 2].map((n) => ({ ...one, events: events.filter((event) => event.device === `phone-${n}`) }));
        });
        expect(verdicts({ ...record, outings: parts.toReversed() })).toBe(verdicts(record));
      }),
      runs,
    );
  });

  it("a correction that has itself been voided, nor on a note", () => {
    fc.assert(
      fc.property(history, fc.nat(), (record, pick) => {
        const target = record.outings[pick % record.outings.length];
        const event = target?.events[pick % Math.max(1, target.events.length)];
        if (!target || !event) return;
        const undone: RecordEvent[] = [
          { id: "c1", at: event.at, type: "correction", replaces: event.id, void: true },
          { id: "c2", at: event.at, type: "correction", replaces: "c1", void: true },
          { id: "n1", at: event.at, type: "note", text: "words" },
        ];
        const other = {
          ...record,
          outings: record.outings.map((one) => (one === target ? { ...one, events: [...one.events, ...undone] } : one)),
        };
        expect(verdicts(other)).toBe(verdicts(record));
      }),
      runs,
    );
  });

  it("the week: the same history and the same now, moved by four weeks", () => {
    fc.assert(
      fc.property(history, (record) => {
        const move = (at: string): string => `${addDays(at.slice(0, 10), 28)}${at.slice(10)}`;
        const moved = {
          ...record,
          outings: record.outings.map((one) => ({
            ...one,
            startedAt: move(one.startedAt),
            endedAt: move(one.endedAt),
            events: one.events.map((event) => ({ ...event, at: move(event.at) })),
          })),
        };
        const words = (one: HorseRecord, now: string): unknown =>
          judgeRecord(one, loosePenStart, now).map((j) => [
            j.status,
            Object.values(j.sides).map((side) => [side.status, side.sure]),
          ]);
        expect(words(moved, move(NOW))).toEqual(words(record, NOW));
      }),
      runs,
    );
  });
});

describe("near and off", () => {
  it("swapped in the record are swapped in the verdict", () => {
    fc.assert(
      fc.property(history, (record) => {
        const other = { near: "off", off: "near" } as Record<string, string>;
        const swapped = {
          ...record,
          outings: record.outings.map((one) => ({
            ...one,
            events: one.events.map((event) =>
              "side" in event ? ({ ...event, side: other[String(event.side)] ?? event.side } as RecordEvent) : event,
            ),
          })),
        };
        judgeRecord(swapped, loosePenStart, NOW).forEach((judgement, index) => {
          const before = judgeRecord(record, loosePenStart, NOW)[index];
          expect(judgement.status).toBe(before?.status);
          expect(judgement.sides.near).toEqual(before?.sides.off);
        });
      }),
      runs,
    );
  });
});

describe("what would open it", () => {
  it("is enough, and one ask or one outing less is not", () => {
    const numbers = loosePenStart.judge;
    fc.assert(
      fc.property(history, (record) => {
        const gathered = gather(foldRecord(record), loosePenStart);
        for (const state of gathered.steps)
          for (const side of state.sides) {
            const worked = state.workedIn !== null;
            const work = leastWork(side.evidence, numbers, "2026-01-24", worked);
            expect(work).not.toBeNull();
            if (!work) continue;
            expect(work.asks === 0).toBe(stands(side, numbers));
            if (work.asks === 0) continue;
            const after = (outings: number, asks: number) => {
              let evidence = side.evidence;
              for (let n = 1; n <= outings; n += 1)
                evidence = tryOuting(evidence, n, n < outings ? 1 : asks - outings + 1, "2026-01-24", worked);
              return whyNotOnItsOwn(evidence, numbers);
            };
            expect(after(work.outings, work.asks)).toEqual([]);
            if (work.asks > work.outings) expect(after(work.outings, work.asks - 1)).not.toEqual([]);
            if (work.outings > 1) expect(after(work.outings - 1, 60)).not.toEqual([]);
          }
      }),
      { numRuns: 30 },
    );
  });
});
