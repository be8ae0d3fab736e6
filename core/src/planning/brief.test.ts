import { describe, expect, it } from "vitest";
import { inFull } from "../evidence";
import { everythingUnder, findStep, loosePenStart, sideFields, sidesOf } from "../programs";
import { foldRecord, type HorseRecord, type RecordEvent } from "../record";
import { gather, judgeGathered, whatNext } from "../readiness";
import { writeBrief, type Brief } from ".";

type Fields = Record<string, unknown>;
const HEAD = { place: "Round pen", handler: "M" };

/** An outing of a list of entries a minute apart; an ask is written as step, side, answer, phase and mood. */
function outing(day: string, entries: (Fields | string)[], head: Fields = {}): HorseRecord["outings"][number] {
  const at = (minute: number): string => `${day}T09:${String(minute).padStart(2, "0")}:00Z`;
  const events = entries.map((entry, index) => {
    const base = { id: `${day}-${index}`, at: at(index + 1) };
    if (typeof entry !== "string") return { ...base, ...entry } as unknown as RecordEvent;
    const [step, side, answer, phase, mood] = entry.split(" ");
    const known = findStep(loosePenStart, step ?? "");
    const said = { v: 2, ...(known ? inFull(known) : {}), step, side, answer };
    return { ...base, type: "ask", ...said, phase: Number(phase), mood: Number(mood) } as RecordEvent;
  });
  return { id: day, startedAt: at(0), endedAt: at(Math.max(20, entries.length + 1)), ...HEAD, ...head, events };
}

function briefOn(today: string, outings: HorseRecord["outings"], monthsAtLeast = 40): Brief {
  const folded = foldRecord({
    yard: { timeZone: "Europe/Dublin" },
    horse: { id: "h", name: "Moss", foaled: "2022-05-01", foaledPrecision: "month", sex: "mare" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings,
  });
  const gathered = gather(folded, loosePenStart);
  const judgements = judgeGathered(gathered, today);
  return writeBrief({
    program: loosePenStart,
    judgements,
    next: whatNext(gathered, judgements, today),
    outings: folded.outings,
    workDays: new Set(folded.outings.map(({ day }) => day)).size,
    firstDay: folded.outings[0]?.day ?? null,
    today,
    monthsAtLeast,
  });
}

const CLEAN = ["share-space", "face-up"].flatMap((step) => Array.from({ length: 8 }, () => `${step} none gave 1 1`));

describe("the brief of a first outing", () => {
  const brief = briefOn("2026-05-01", [], 14);

  it("says it is the first, and begins at the beginning with a try", () => {
    expect([brief.workDay, brief.calendarDay, brief.last]).toEqual([1, 1, null]);
    expect(brief.edge[0]).toMatchObject({ step: "share-space", isNew: true, line: { count: 3, worth: "tried" } });
    expect(brief.checkCold).toEqual([]);
  });

  it("holds what may follow as each piece is good, though all of it is new on a first day", () => {
    const waitsFor = ({ after = [] }: Brief["edge"][number]): string[] =>
      after.filter(({ stands }) => !stands).map(({ step }) => step);
    const [first, ...others] = brief.edge;
    expect(waitsFor(first as Brief["edge"][number])).toEqual([]);
    expect(others.length).toBeGreaterThanOrEqual(5);
    const onCard = brief.edge.map(({ step }) => step);
    for (const [at, one] of others.entries()) {
      expect(waitsFor(one).length).toBeGreaterThan(0);
      for (const base of waitsFor(one)) expect(onCard.slice(0, at + 1)).toContain(base);
    }
  });

  it("counts the minutes of an earlier outing of the day", () => {
    const { caps } = briefOn("2026-05-01", [outing("2026-05-01", CLEAN)], 14);
    // Twenty minutes from its start to its end, and asks of standing still between.
    expect(caps).toEqual({
      name: "a yearling",
      workingMinutes: 20,
      inHandMinutes: 20,
      earlier: { working: 0, inHand: 20 },
    });
    expect(briefOn("2026-05-02", [outing("2026-05-01", CLEAN)], 14).caps.earlier).toBeUndefined();
  });

  it("holds a yearling to a yearling's minutes", () => {
    expect(brief.caps).toMatchObject({ name: "a yearling", workingMinutes: 20, inHandMinutes: 40 });
  });
});

describe("which outing it is", () => {
  it("counts days of work and calendar days apart; a second outing of a day is the same day of work", () => {
    const outings = [outing("2026-05-01", CLEAN), outing("2026-05-04", CLEAN)];
    expect(briefOn("2026-05-04", outings)).toMatchObject({ workDay: 2, calendarDay: 4 });
    expect(briefOn("2026-05-06", outings)).toMatchObject({ workDay: 3, calendarDay: 6 });
  });
});

describe("where the last one ended", () => {
  const brief = briefOn("2026-05-03", [
    outing("2026-05-01", CLEAN, { caught: "came", caughtSeconds: 30 }),
    outing(
      "2026-05-02",
      [
        "flex near against 2 3",
        "flex near none 2 2",
        "flex near gave 1 3",
        "yield-hind off gave 1 1",
        "flex near gave 1 1",
        { type: "sign", sign: "long-breath" },
        { type: "startle", thing: "a gate", size: 3 },
        { type: "mishap", kind: "barge", severity: 1, personHurt: false },
        { type: "note", text: "Wind from the west." },
        { type: "next-time", steps: ["lead"], text: "Off side first." },
      ],
      { caught: "ran", caughtSeconds: 300 },
    ),
  ]);

  it("says what he ended with, what was weak, what worried him and what helped", () => {
    expect(brief.last).toMatchObject({
      daysAgo: 1,
      minutes: 20,
      caught: "ran",
      caughtSeconds: 300,
      place: "Round pen",
      lastAsk: { step: "flex", side: "near", answer: "gave", phase: 1, mood: 1 },
      weak: [{ step: "flex", side: "near", good: 1, asks: 4 }],
      worries: [
        { kind: "startle", thing: "a gate", size: 3 },
        { kind: "mishap", what: "barge", severity: 1 },
        { kind: "tight", step: "flex", side: "near", times: 2, over: false },
      ],
      helped: [
        { kind: "came-back", step: "flex", side: "near" },
        { kind: "ease", step: "flex", sign: "long-breath" },
      ],
      notes: ["Wind from the west."],
    });
  });

  it("puts first what the last review said to start with", () => {
    expect(brief.nextTime).toEqual({ steps: ["lead"], text: "Off side first.", heldBack: [] });
    expect(brief.edge[0]).toMatchObject({ step: "lead", why: "again" });
  });

  it("leaves off the card what the review chose behind a shut gate, and says which gate", () => {
    const { edge, nextTime } = briefOn("2026-05-02", [
      outing("2026-05-01", [...CLEAN, { type: "next-time", steps: ["lean", "face-up"] }]),
    ]);
    expect(edge.map(({ step }) => step)).not.toContain("lean");
    expect(edge[0]).toMatchObject({ step: "face-up", why: "again" });
    expect(nextTime?.heldBack).toMatchObject([{ step: "lean", why: { code: "gate-shut", met: false } }]);
  });
});

describe("the finish lines", () => {
  it("count what is lacking on the weaker side, from two to five, at the phase it took last time", () => {
    const asks = (n: number, ask: string): string[] => Array.from({ length: n }, () => ask);
    const brief = briefOn("2026-05-03", [
      outing("2026-05-01", [...CLEAN, ...asks(6, "move-off near gave 1 1"), ...asks(3, "move-off off gave 3 1")]),
      outing("2026-05-02", [...CLEAN, ...asks(6, "move-off near gave 1 1"), ...asks(3, "move-off off gave 3 1")]),
    ]);
    const moveOff = brief.edge.find(({ step }) => step === "move-off");
    expect(moveOff).toMatchObject({
      line: { count: 5, worth: "clean", phase: 3 },
      sticky: "off",
      isNew: false,
      last: { near: { asks: 6, clean: 6, phase: 1, mood: 1 }, off: { asks: 3, clean: 0, phase: 3, mood: 1 } },
    });
  });

  it("are two rungs further than it began at most, or all that the piece after it waits for", () => {
    const tossed = (rung: string): Fields => ({
      type: "ask",
      v: 2,
      step: "rope-over",
      side: "near",
      rung,
      answer: "gave",
      mood: 1,
    });
    const stood: Fields = { ...tossed("5m-10s"), step: "share-space", side: "none" };
    const brief = briefOn("2026-05-02", [
      outing("2026-05-01", [stood, tossed("back"), { type: "next-time", steps: ["rope-over"] }]),
    ]);
    const lineOf = (id: string): unknown => brief.edge.find(({ step }) => step === id)?.line.rung;
    // The off side begins on the first rung.
    expect(lineOf("rope-over")).toBe("quarters");
    expect(lineOf("share-space")).toBeUndefined();
  });

  it("call nothing new that was worked on its smaller rungs, though that counts for nothing yet", () => {
    const near = { type: "ask", v: 2, step: "share-space", side: "none", rung: "3m-10s", answer: "gave", mood: 1 };
    const days = ["2026-05-01", "2026-05-02", "2026-05-03"];
    const known = briefOn(
      "2026-05-04",
      days.map((day) => outing(day, [near])),
    ).edge.find(({ step }) => step === "share-space");
    expect(known).toMatchObject({
      isNew: false,
      days: 0,
      outings: 3,
      from: { none: "3m-10s" },
      line: { worth: "clean" },
    });
  });

  it("say on which sides the standard was asked before, so that a miss of less is one", () => {
    const of = (entries: (Fields | string)[]): unknown =>
      briefOn("2026-05-02", [outing("2026-05-01", entries)]).edge.find(({ step }) => step === "head-rub")?.asked;
    const cheek = { type: "ask", v: 2, step: "head-rub", side: "off", rung: "cheek", answer: "gave", mood: 1 };
    const chosen = { type: "next-time", steps: ["head-rub"] };
    expect(of([...CLEAN, "head-rub near gave 1 1", cheek, chosen])).toEqual(["near"]);
  });

  it("hold no more pieces than the program gives a day, and no more that are quite new", () => {
    const { pieces, newPieces } = loosePenStart.coach;
    const brief = briefOn("2026-05-03", [outing("2026-05-01", CLEAN), outing("2026-05-02", CLEAN)]);
    expect(brief.edge.filter(({ outings }) => outings === 0)).toHaveLength(newPieces);
    expect(brief.edge.length).toBeLessThanOrEqual(pieces);
  });
});

describe("after a break", () => {
  it("names the break and the old habits that may come back", () => {
    const leans: Fields = {
      type: "ask",
      step: "flex",
      side: "near",
      answer: "tried",
      phase: 2,
      mood: 1,
      fault: "leans",
    };
    const before = [
      outing("2026-05-01", [leans, leans, { type: "startle", thing: "a tractor", size: 2 }], {
        caught: "cornered",
        caughtSeconds: 600,
      }),
    ];
    expect(briefOn("2026-05-10", before)).toMatchObject({ breakDays: null, oldHabits: [] });
    expect(briefOn("2026-06-20", before)).toMatchObject({
      breakDays: 50,
      oldHabits: [
        { kind: "caught", how: "cornered", seconds: 600 },
        { kind: "fault", step: "flex", fault: "leans", times: 2 },
        { kind: "startle", thing: "a tractor" },
      ],
    });
  });
});

describe("what to check cold", () => {
  it("is what is due first, three at the most, one clean ask a side", () => {
    const days = ["2026-01-01", "2026-01-02", "2026-01-03"].map((day) => outing(day, CLEAN));
    const due = briefOn("2026-08-20", days);
    expect(due.checkCold.map(({ step }) => step)).toContain("face-up");
    expect(due.checkCold.length).toBeLessThanOrEqual(3);
    for (const { line, isNew } of due.checkCold) expect([line, isNew]).toEqual([{ count: 1, worth: "clean" }, false]);
  });
});

describe("a step with a shut gate within its ladder", () => {
  const day = (n: number): string => `2026-05-0${n}`;
  // All that stands between the beginning and these two: then a rope's end may be held through a ring, and nothing more.
  const under = ["give-halter", "yield-hind"].flatMap((id) => [...everythingUnder(loosePenStart, id), id]);
  const known = loosePenStart.steps
    .filter(({ id }) => under.includes(id))
    .flatMap((step) =>
      sidesOf(step).flatMap((side) =>
        ["standing", "moving"].flatMap((setting) =>
          Array.from({ length: 4 }, (): Fields => ({
            type: "ask",
            v: 2,
            ...inFull(step),
            step: step.id,
            ...sideFields(side),
            answer: "gave",
            ...(step.standard.phase === null ? {} : { phase: step.standard.phase }),
            mood: Math.min(1, step.standard.mood),
            setting,
          })),
        ),
      ),
    );
  const ready = [1, 2, 3, 4].map((n) =>
    outing(day(n), [...known, { type: "sign", sign: "yawn" }], n === 2 ? { place: "Top yard", handler: "J" } : {}),
  );
  const tying = (rung: string, sides = ["near", "off"]): Fields[] =>
    sides.map((side) => ({ type: "ask", v: 2, step: "tie", side, answer: "gave", mood: 1, rung }));
  const tieOn = (...outings: HorseRecord["outings"]) => {
    const brief = briefOn(day(7), [...ready, ...outings]);
    return { upTo: brief.upTo, tie: brief.edge.find(({ step }) => step === "tie") };
  };

  it("may be worked as far as the rung before it, and the brief says so", () => {
    expect(tieOn().upTo).toEqual([{ step: "tie", rung: "ring-held", gate: "tie" }]);
    const once = outing(day(5), tying("comes-forward"), { id: "a" });
    const again = outing(day(6), tying("comes-forward"), { id: "b" });
    expect(tieOn(once, again).tie).toMatchObject({ why: "smaller", line: { count: 1, rung: "ring-held" } });
  });

  it("begins no higher, whatever was dared before", () => {
    const dared = [5, 6].map((n) => outing(day(n), [...tying("comes-forward", ["off"]), ...tying("10min", ["near"])]));
    expect(tieOn(...dared).tie?.from).toEqual({ near: "ring-held" });
  });

  it("is left out once all that may be worked was shown on both sides", () => {
    expect(tieOn(outing(day(5), tying("ring-held", ["near"]))).tie).toBeDefined();
    expect(tieOn(outing(day(5), tying("ring-held"))).tie).toBeUndefined();
  });
});
