import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { loosePenStart } from "../programs";
import { addDays, foldRecord, type AskEvent, type HorseRecord, type Mood, type RecordEvent } from "../record";
import { aboutOf } from "./about";
import { gather, gatherOn } from "./gather";
import { restoreGathered, saveGathered } from "./saved";
import { judgeGathered, judgeRecord, judgeState } from "./judge";
import { createGathered } from "./states";
import { STATUSES, type Judgement, type OpenAction } from "./types";
import { broughtUp, eveningOf, shortRecord, type ShortOuting } from "./cases/notation";
import { perform, tasksFor } from "./cases/perfect-horse";

const token = fc
  .tuple(
    fc.constantFrom("0", "1", "1", "1", "2", "3"),
    fc.constantFrom("g", "g", "g", "g", "g", "t", "u", "n", "a"),
    fc.constantFrom("0", "1", "1", "1", "2", "3"),
    fc.constantFrom("", "", "", "!s", "!m", "@hock", ">b"),
  )
  .map((parts) => parts.join(""));
const SIDED = [
  "flex",
  "give-halter",
  "body-rub",
  "first-touch",
  "rope-over",
  "flag",
  "pad",
  "tie",
  "yield-hind",
  "hip-in",
];
const LEGS = ["pick-up", "leg-rub", "farrier-ready"];
const WHOLE = ["share-space", "stand", "bit-carry", "walk-out", "draw"];
const stepAndSide = fc.oneof(
  fc.tuple(fc.constantFrom(...SIDED), fc.constantFrom("near", "off")).map((parts) => parts.join(" ")),
  fc
    .tuple(fc.constantFrom(...LEGS), fc.constantFrom("near-fore", "near-hind", "off-fore", "off-hind"))
    .map((parts) => parts.join(" ")),
  fc.constantFrom(...WHOLE),
);
const line = fc
  .tuple(stepAndSide, fc.array(token, { minLength: 1, maxLength: 6 }))
  .map(([step, tokens]) => `${step} ${tokens.join(" ")}`);
const extras = fc.constantFrom(
  "",
  "",
  "; sign shut-down",
  "; sign yawn",
  "; flex near s6/5gt11",
  "; offer flex x2",
  "; gait canter",
  "; at Top yard",
  "; by B",
  "; by B; at Top yard; sign yawn",
);
const outing = fc
  .tuple(fc.nat({ max: 12 }), fc.array(line, { minLength: 1, maxLength: 5 }), extras)
  .map(([day, lines, more]): ShortOuting => [day, lines.join("; ") + more]);
/** A horse brought up so far, and then whatever came. */
const history = fc
  .tuple(fc.constantFrom(0, 8, 16, 20, 24, 36), fc.array(outing, { maxLength: 7 }))
  .map(([known, outings]) =>
    shortRecord([
      ...broughtUp(
        loosePenStart,
        loosePenStart.steps.slice(0, known).map((step) => step.id),
      ),
      ...outings.toSorted((a, b) => a[0] - b[0]),
    ]),
  );
const NOW = eveningOf(14);
const verdicts = (record: HorseRecord): string => JSON.stringify(judgeRecord(record, loosePenStart, NOW));
const runs = { numRuns: 40 };
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
        const about = aboutOf(folded);
        let saved = saveGathered(createGathered(loosePenStart, about));
        folded.outings.forEach((one, index) => {
          const before = JSON.stringify(saved);
          const gathered = gatherOn(restoreGathered(loosePenStart, about, saved), [one]);
          // Found by the kill harness, seed 3: a late proof in the next outing changed what was saved before it.
          expect(JSON.stringify(saved)).toBe(before);
          saved = saveGathered(gathered);
          const atOnce = gather({ ...folded, outings: folded.outings.slice(0, index + 1) }, loosePenStart);
          expect(withoutEvidence(judgeGathered(restoreGathered(loosePenStart, about, saved), today))).toEqual(
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
        const own = judgeRecord(record, loosePenStart, NOW);
        judgeRecord(swapped, loosePenStart, NOW).forEach((judgement, index) => {
          const before = own[index];
          expect(judgement.status).toBe(before?.status);
          expect(judgement.sides.near).toEqual(before?.sides.off);
          expect(judgement.sides["near-hind"]).toEqual(before?.sides["off-hind"]);
        });
      }),
      runs,
    );
  });
});

describe("more of the same", () => {
  const later = (record: HorseRecord, asks: string): HorseRecord => ({
    ...record,
    outings: [...record.outings, ...shortRecord([[14, asks]]).outings.map((one) => ({ ...one, id: "later" }))],
  });
  const rank = (one: Judgement | undefined): number => STATUSES.indexOf(one?.status ?? "untried");
  const unique = (record: HorseRecord): HorseRecord => ({
    ...record,
    outings: record.outings.map((one) =>
      one.id === "later" ? { ...one, events: one.events.map((event) => ({ ...event, id: `later-${event.id}` })) } : one,
    ),
  });

  it("clean asks never turn a step into something lower", () => {
    fc.assert(
      fc.property(history, fc.integer({ min: 1, max: 9 }), (record, times) => {
        const more = unique(later(record, `flex near 1g1x${times}; flex off 1g1x${times}; bit-carry -g1; sign yawn`));
        const before = judgeRecord(record, loosePenStart, NOW);
        judgeRecord(more, loosePenStart, NOW).forEach((after, index) => {
          expect([after.step, rank(after) >= rank(before[index])]).toEqual([after.step, true]);
        });
      }),
      runs,
    );
  });

  it("a worse mood never helps", () => {
    fc.assert(
      fc.property(history, fc.nat(), (record, pick) => {
        const asks = record.outings.flatMap((one) => one.events.filter((event) => event.type === "ask"));
        const chosen = asks[pick % Math.max(1, asks.length)] as AskEvent | undefined;
        if (!chosen || chosen.mood === undefined || chosen.mood > 3) return;
        const worse = { ...chosen, mood: ((chosen.mood ?? 0) + 1) as Mood };
        const other = {
          ...record,
          outings: record.outings.map((one) => ({
            ...one,
            events: one.events.map((event) => (event === chosen ? worse : event)),
          })),
        };
        const before = judgeRecord(record, loosePenStart, NOW);
        judgeRecord(other, loosePenStart, NOW).forEach((after, index) => {
          expect([after.step, rank(after) <= rank(before[index])]).toEqual([after.step, true]);
        });
      }),
      { numRuns: 120 },
    );
  });
});

describe("what would open it", () => {
  const TODAY = NOW.slice(0, 10);
  const check = (record: HorseRecord, stepId: string): void => {
    const gathered = gather(foldRecord(record), loosePenStart);
    const state = gathered.byId.get(stepId);
    if (!state) throw new Error(`no step ${stepId}`);
    const { toOpen, status } = judgeState(gathered, state, TODAY);
    expect([stepId, toOpen.length === 0]).toEqual([stepId, status === "steady"]);
    if (status === "steady") return;
    const wordAfter = (actions: readonly OpenAction[]): string => {
      const done = perform(record, gathered, tasksFor(gathered, state, actions, TODAY), TODAY);
      const last = done.outings.reduce((latest, one) => (one.startedAt > latest ? one.startedAt : latest), NOW);
      return judgeRecord(done, loosePenStart, last).find((one) => one.step === stepId)?.status ?? "none";
    };
    const texts = toOpen.map(({ text }) => text);
    expect([stepId, texts, wordAfter(toOpen)]).toEqual([stepId, texts, "steady"]);
    toOpen.forEach((left, index) => {
      const without = toOpen.filter((_, at) => at !== index);
      expect([stepId, texts, `without: ${left.text}`, wordAfter(without) === "steady"]).toEqual([
        stepId,
        texts,
        `without: ${left.text}`,
        false,
      ]);
      if ((left.count ?? 1) < 2) return;
      const fewer = toOpen.map((one, at) => (at === index ? { ...one, count: (one.count ?? 1) - 1 } : one));
      expect([stepId, texts, `one fewer: ${left.text}`, wordAfter(fewer) === "steady"]).toEqual([
        stepId,
        texts,
        `one fewer: ${left.text}`,
        false,
      ]);
    });
  };

  it("is enough, and with any one thing left out, or one fewer of it, it is not", () => {
    expect.hasAssertions();
    fc.assert(
      fc.property(history, fc.constantFrom(...SIDED, ...LEGS, ...WHOLE), (record, stepId) => check(record, stepId)),
      { numRuns: 40 },
    );
  });

  it("names the check of the other side too that falls due while one side is worked on", () => {
    expect.hasAssertions();
    const ids = loosePenStart.steps.map(({ id }) => id);
    const known = ids.slice(0, ids.indexOf("yield-hind") + 1);
    const missed: ShortOuting = [0, "yield-hind off 0n0; flex near 0g0"];
    // What rests on it keeps the near side fresh until the day on which the off side is mended.
    check(shortRecord([...broughtUp(loosePenStart, known), missed, [1, "rope-over near 0g0"]]), "yield-hind");
  });

  it("names how he has to go too where what was shown of it is not proven yet", () => {
    expect.hasAssertions();
    check(shortRecord([[0, "rope-over near 0a0 0g0!m"]]), "rope-over");
  });

  it("names no further day where to show a hold to another person takes one anyway", () => {
    expect.hasAssertions();
    // One leg was held on two days, for one person: a third day is wanted, and another person.
    check(shortRecord([0, 1].map((day): ShortOuting => [day, "farrier-ready off-hind 0g0"])), "farrier-ready");
  });

  it("leads a horse nobody has worked yet all the way to any step of the road", () => {
    expect.hasAssertions();
    for (const step of ["halter-on", "farrier-ready", "roller", "hip-rope", "canter-ride", "group"])
      check(shortRecord([]), step);
  });
});
