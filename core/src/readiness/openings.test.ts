import { describe, expect, it } from "vitest";
import {
  everythingUnder,
  findStep,
  loosePenStart,
  PROGRAMS,
  buildProgram,
  CATALOGUE,
  SCHOOLS,
  type Program,
} from "../programs";
import { addDays, foldRecord, type RecordEvent } from "../record";
import { broughtUp, shortRecord, type ShortAbout, type ShortOuting } from "./cases/notation";
import { gather } from "./gather";
import { judgeGathered } from "./judge";
import { mayWork, type Opening } from "./openings";
import { stepStatus } from "./status";

const program = PROGRAMS[0] ?? loosePenStart;
const day = (n: number): string => addDays("2026-01-10", n);
const under = (...ids: string[]): string[] => {
  const all = new Set(ids.flatMap((id) => everythingUnder(program, id)));
  return program.steps.map(({ id }) => id).filter((id) => all.has(id));
};

interface Choices {
  steady?: string[];
  outings?: ShortOuting[];
  about?: ShortAbout[];
  by?: Program;
  now?: number;
  /** The last outing is a check-up. */
  isCheckUp?: boolean;
}

function asked(step: string, choices: Choices): Opening {
  const { steady = [], outings = [], about = [], by = program, now = -6, isCheckUp = false } = choices;
  const record = shortRecord([...broughtUp(program, steady), ...outings], about);
  const last = record.outings.at(-1);
  if (isCheckUp) last?.events.push({ id: "check", at: last.startedAt, type: "check-up" } as RecordEvent);
  return mayWork(gather(foldRecord(record), by), step, day(now));
}

const clean = (step: string, day: number): ShortOuting => [
  day,
  ["near-fore", "near-hind", "off-fore", "off-hind"].map((leg) => `${step} ${leg} 1g1x4`).join("; "),
];

describe("may this be worked today", () => {
  it("names what is missing, and that good for today would do", () => {
    expect(asked("face-up", {})).toMatchObject({
      may: "no",
      why: { code: "rests-on", have: { step: "share-space", status: "untried" }, need: { status: "good today" } },
    });
  });

  it("says on what it stands where that is good today and not steady", () => {
    const today: ShortOuting = [-6, "share-space -g1x3"];
    expect(asked("face-up", { outings: [today] })).toEqual({ may: "yes", onTrust: ["share-space"] });
    expect(asked("face-up", { outings: [today], now: -5 })).toMatchObject({ may: "no" });
  });

  it("wants steady under what guards a person: neither good today, a check-up nor somebody's word is enough", () => {
    const steady = under("leg-lead").filter((id) => id !== "leg-rub");
    const today = clean("leg-rub", -6);
    const word = { day: -7, type: "override", step: "leg-rub", reason: "He has done it for years." };
    expect(
      asked("vet-ready", {
        steady: under("vet-ready").filter((id) => id !== "mouth"),
        about: [{ ...word, step: "mouth" }],
      }),
    ).toMatchObject({ may: "yes" });
    for (const choices of [{ outings: [today] }, { outings: [today], isCheckUp: true }, { about: [word] }])
      expect(asked("leg-lead", { steady, ...choices })).toMatchObject({
        may: "no",
        why: { code: "rests-on", have: { step: "leg-rub" }, need: { status: "steady" } },
      });
    expect(asked("leg-lead", { steady: [...under("leg-lead")] })).toEqual({ may: "yes", onTrust: [] });
  });

  it("lets nothing be worked beyond a shut gate, and names what it lacks", () => {
    const steady = under("halter-on").filter((id) => id !== "head-rub");
    const rubbed: ShortOuting = [-6, "head-rub near -g1x4; head-rub off -g1x4"];
    for (const step of ["halter-on", "give-halter", "astride"])
      expect(asked(step, { steady, outings: [rubbed] })).toMatchObject({
        may: "no",
        why: { code: "gate-shut", need: "halter" },
      });
    expect(asked("halter-on", { steady, outings: [rubbed] })).toMatchObject({ why: { have: { lacks: ["head-rub"] } } });
  });

  it("lets an override open no gate", () => {
    const steady = under("halter-on").filter((id) => id !== "head-rub");
    const about = [{ day: -7, type: "override", step: "head-rub", reason: "He lets me." }];
    expect(asked("halter-on", { steady, about })).toMatchObject({ may: "no", why: { code: "gate-shut" } });
  });

  it("lets the rungs before a gate within a ladder be worked", () => {
    const steady = under("yield-hind", "give-halter").concat("give-halter", "yield-hind");
    const inOrder = program.steps.map(({ id }) => id).filter((id) => steady.includes(id));
    expect(asked("tie", { steady: inOrder })).toMatchObject({ may: "small", gate: { rung: "ring-held" } });
  });

  it("takes what is steady as a whole for steady to any rung, though that rung was missed on the way", () => {
    const marker = PROGRAMS.find(({ id }) => id === "marker-and-reward") ?? program;
    const pad = new Set(everythingUnder(marker, "pad"));
    const known = marker.steps.map(({ id }) => id).filter((id) => pad.has(id) && id !== "sheet");
    const sides = (asks: string): string => `sheet near ${asks}; sheet off ${asks}`;
    const clean = sides("-g1!sx3 -g1!mx2");
    const outings: ShortOuting[] = [
      [-6, sides("-n1^halfx9")],
      [-5, clean],
      [-4, clean],
      [-3, clean],
    ];
    const gathered = gather(foldRecord(shortRecord([...broughtUp(marker, known), ...outings])), marker);
    const sheet = gathered.byId.get("sheet");
    const judging = { program: marker, about: gathered.about, today: day(-2) };
    expect(sheet && stepStatus(sheet, judging)).toBe("steady");
    expect(sheet?.variants.map((one) => stepStatus(one, judging))).toEqual(["coming"]);
    expect(mayWork(gathered, "pad", day(-2))).toEqual({ may: "yes", onTrust: [] });
  });

  it("waits for a person who holds it", () => {
    const about = [{ day: -7, type: "hold", step: "share-space", reason: "A cut on his brisket." }];
    expect(asked("share-space", { about })).toMatchObject({
      may: "no",
      why: { code: "held", have: "A cut on his brisket." },
    });
  });

  it("does not know a step that is not there", () => {
    expect(asked("no-such-step", {})).toMatchObject({ may: "no" });
  });
});

describe("what guards a person", () => {
  const GUARDED = [
    "leg-lead",
    "pick-up",
    "farrier-ready",
    "hip-rope",
    "drive-behind",
    "long-rein",
    "hands-high",
    "above",
    "lean",
    "lie-over",
    "foot-in",
    "astride",
  ];

  it("is these twelve, in every school and edition", () => {
    for (const one of [...PROGRAMS, loosePenStart])
      expect(
        one.steps
          .filter(({ guarded }) => guarded)
          .map(({ id }) => id)
          .toSorted(),
      ).toEqual(GUARDED.filter((id) => findStep(one, id)).toSorted());
  });

  it("cannot be let off in a catalogue's step, and is meant in a step of somebody's own unless it says otherwise", () => {
    const [school] = SCHOOLS;
    if (!school) throw new Error("no school");
    const own = {
      id: "own-hat",
      stage: "getting-used",
      name: "A hat",
      side: "none",
      ends: "stop",
      phase: null,
      mood: 1,
      needs: ["share-space"],
      end: true,
    } as const;
    const guardedIn = (file: object): boolean | undefined =>
      findStep(buildProgram({ ...school, ...file }, CATALOGUE), "own-hat")?.guarded;
    expect(guardedIn({ ownSteps: [own] })).toBe(true);
    expect(guardedIn({ ownSteps: [{ ...own, guarded: false }] })).toBe(false);
    const easier = { ...CATALOGUE, steps: CATALOGUE.steps.map((step) => ({ ...step, guarded: false })) };
    expect(findStep(buildProgram({ ...school, steps: [...easier.steps] }, CATALOGUE), "lean")?.guarded).toBe(true);
  });
});

describe("a verdict says", () => {
  const judged = (step: string, outings: ShortOuting[], now: number) => {
    const gathered = gather(foldRecord(shortRecord(outings)), program);
    return judgeGathered(gathered, day(now)).find((one) => one.step === step);
  };
  const both: ShortOuting = [-6, "share-space -g1x3; face-up 1g1x3"];

  it("what is good today, and no longer the day after", () => {
    expect(judged("share-space", [both], -6)?.goodToday).toBe(true);
    expect(judged("share-space", [both], -5)?.goodToday).toBeUndefined();
    expect(judged("share-space", [[-6, "share-space -g1x3 -t1"]], -6)?.goodToday).toBeUndefined();
  });

  it("on what a begun step stands that is not steady", () => {
    expect(judged("face-up", [both], -6)?.standsOn).toEqual([{ step: "share-space", status: "coming", good: true }]);
    expect(judged("face-up", [both], -5)?.standsOn).toEqual([{ step: "share-space", status: "coming", good: false }]);
    expect(judged("catch-rope", [both], -6)?.standsOn).toBeUndefined();
  });
});
