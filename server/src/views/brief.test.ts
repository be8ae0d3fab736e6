import { beforeAll, describe, expect, it } from "vitest";
import type { BriefView, OutingView } from "@still-pine/contract/http";
import { inFull } from "@still-pine/core/evidence";
import { findStep, loosePenStart } from "@still-pine/core/programs";
import { call, yardsForTests } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const HORSE = { id: "h1", name: "Moss", foaled: "2025-03-01", foaledPrecision: "month", sex: "mare" };
const { yard } = yardsForTests(NOW);

type Fields = Record<string, unknown>;

/** An outing of the day with its head, these entries a minute apart, and its end. */
async function send(outing: string, day: string, entries: Fields[]): Promise<void> {
  const at = (minute: number): string => `${day}T09:${String(minute).padStart(2, "0")}:00Z`;
  const events = [
    { id: `${outing}:start`, at: at(0), type: "outing-start", place: "Pen", handler: "M", caught: "came" },
    ...entries.map((entry, index) => ({ id: `${outing}-${index}`, at: at(index + 1), ...entry })),
    { id: `${outing}:end`, at: at(30), type: "outing-end" },
  ];
  const { status } = await call(`${yard().url}/api/events`, "POST", {
    events: events.map((event) => ({ horse: "h1", outing, event })),
  });
  expect(status).toBe(200);
}

const inFullOf = (id: string): object => {
  const step = findStep(loosePenStart, id);
  return step ? inFull(step) : {};
};
const gave = (step: string, times: number): Fields[] =>
  Array.from({ length: times }, () => ({
    v: 2,
    type: "ask",
    step,
    ...inFullOf(step),
    answer: "gave",
    phase: 1,
    mood: 1,
  }));

beforeAll(async () => {
  await call(`${yard().url}/api/horses`, "POST", HORSE);
  await send("o1", "2026-06-08", [...gave("share-space", 2), { type: "startle", size: 2 }]);
  await send("o2", "2026-06-09", [
    ...gave("share-space", 6),
    { type: "next-time", steps: ["face-up"], text: "Two eyes first." },
  ]);
});

describe("the brief over HTTP", () => {
  it("counts the days, looks back on the last outing by the labels people know, and holds to his age", async () => {
    const { status, body } = await call(`${yard().url}/api/horses/h1/brief`, "GET");
    const { brief, yard: home, horse } = body as BriefView;
    expect([status, horse.name, home.today]).toEqual([200, "Moss", "2026-06-10"]);
    expect(brief).toMatchObject({
      workDay: 3,
      calendarDay: 3,
      last: { id: "o2", daysAgo: 1, minutes: 30, place: "Pen", handler: "M", caught: "came", unended: false },
      nextTime: { steps: ["face-up"], text: "Two eyes first." },
      caps: { name: "a yearling" },
      usualMinutes: 30,
    });
    expect(brief.edge[0]).toMatchObject({ step: "face-up", why: "again" });
  });

  it("is none for a horse this yard does not have", async () => {
    expect((await call(`${yard().url}/api/horses/nobody/brief`, "GET")).status).toBe(404);
  });
});

describe("what an outing changed", () => {
  const changesOf = async (outing: string): Promise<OutingView["changes"]> =>
    ((await call(`${yard().url}/api/horses/h1/outings/${outing}`, "GET")).body as OutingView).changes;

  it("is told from the word before it to the word after it, with what is still missing, and not by later outings", async () => {
    const [first] = await changesOf("o1");
    expect(first?.change).toMatchObject({ step: "share-space", from: "untried", to: "begun", better: true });
    expect(first?.why.length).toBeGreaterThan(0);
    const [second] = await changesOf("o2");
    expect(second?.change).toMatchObject({ step: "share-space", from: "begun" });
  });
});
