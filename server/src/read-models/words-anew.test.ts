import { beforeAll, beforeEach, describe, expect, it } from "vitest";
import { inFull } from "@still-pine/core/evidence";
import { loosePenStart } from "@still-pine/core/programs";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { rebuildMissing } from "./rebuild";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;

const [FLEX] = loosePenStart.steps.filter(({ id }) => id === "flex");
const IN_FULL = FLEX ? inFull(FLEX) : {};

const HORSES = [
  { id: "moss", name: "Moss" },
  { id: "fern", name: "Fern" },
];

beforeAll(async () => {
  home = yard();
  for (const horse of HORSES) {
    const fields = { ...horse, foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
    await call(`${home.url}/api/horses`, "POST", fields);
    for (const day of ["07", "08", "09"]) {
      const outing = `${horse.id}-${day}`;
      const at = (minute: number): string => `2026-06-${day}T10:0${minute}:00Z`;
      const answers = ["against", "gave", "gave", "gave"] as const;
      const asks = answers.map((answer, n) => ({
        id: `${outing}-${n}`,
        at: at(n + 1),
        type: "ask",
        v: 2,
        step: "flex",
        side: "near",
        ...IN_FULL,
        phase: 1,
        answer,
        mood: 1,
      }));
      const events = [{ id: `${outing}:start`, at: at(0), type: "outing-start" }, ...asks];
      await call(`${home.url}/api/events`, "POST", {
        events: events.map((event) => ({ horse: horse.id, outing, event })),
      });
    }
  }
});

/** Makes the yard as another judge left it: his words of the step, and the day he judged on. */
const asFormerJudge = (horse: string, status: string, day = "2026-06-10"): Promise<unknown> =>
  home.asOwner(
    `update horse_state set judged_on = $3, fold = jsonb_set(fold, '{judge}', '"1 loose-pen-start 1"'),
       line = (line::jsonb || jsonb_build_object('trail', jsonb_build_array(
         jsonb_build_object('step', 'flex', 'status', $2::text, 'sides', '{}'::jsonb))))::json where horse_id = $1`,
    [horse, status, day],
  );
const update = (): Promise<number> => rebuildMissing(home.db, home.yard, NOW);
const told = async (): Promise<any[]> => (await call(`${home.url}/api/yard/words-anew`, "GET")).body;
const read = (): Promise<{ status: number }> => call(`${home.url}/api/yard/words-anew/read`, "POST");

describe("words that an update judges otherwise in the same record", () => {
  beforeEach(async () => {
    await read();
  });

  it("are told once, with what speaks against the word, and never again once they were read", async () => {
    await asFormerJudge("moss", "steady");
    expect(await update()).toBe(1);
    const [moss, ...others] = await told();
    expect(others).toEqual([]);
    expect(moss).toMatchObject({ id: "moss", name: "Moss", words: [{ step: "flex", from: "steady", to: "begun" }] });
    expect(moss.words[0].why).toMatchObject({ met: false });
    expect(await update()).toBe(0);
    expect(await told()).toHaveLength(1);
    expect((await read()).status).toBe(204);
    expect(await told()).toEqual([]);
    expect((await read()).status).toBe(204);
  });

  it("say no reason where the word is a better one, and nothing where it is the same", async () => {
    await asFormerJudge("moss", "untried");
    await asFormerJudge("fern", "begun");
    expect(await update()).toBe(2);
    expect(await told()).toMatchObject([{ id: "moss", words: [{ from: "untried", to: "begun", why: null }] }]);
  });

  it("of two updates nobody read of are told as one, from the first word on", async () => {
    await asFormerJudge("fern", "steady");
    await update();
    await asFormerJudge("fern", "coming");
    await update();
    expect(await told()).toMatchObject([{ id: "fern", words: [{ step: "flex", from: "steady", to: "begun" }] }]);
  });

  it("that came back to what they were are not told", async () => {
    await asFormerJudge("fern", "steady");
    await update();
    await home.asOwner(`update words_anew set words = jsonb_set(words, '{0,from}', '"begun"') where horse_id = 'fern'`);
    await asFormerJudge("fern", "coming");
    await update();
    expect(await told()).toEqual([]);
  });

  it("go with a horse that is buried", async () => {
    const fields = { id: "reed", name: "Reed", foaled: "2023-05-01", foaledPrecision: "month", sex: "mare" };
    await call(`${home.url}/api/horses`, "POST", fields);
    await home.asOwner(`insert into words_anew (yard_id, horse_id, words) select yard_id, id,
      '[{"step":"flex","from":"steady","to":"begun","why":null}]' from horse where id = 'reed'`);
    expect(await told()).toHaveLength(1);
    await home.asOwner("update horse set buried_at = now() where id = 'reed'");
    expect(await told()).toEqual([]);
  });
});

describe("what the yard's records say of their days", () => {
  it("is added up over the horses, and too little is said to be too little", async () => {
    const { status, body } = await call(`${home.url}/api/yard/days`, "GET");
    expect(status).toBe(200);
    expect(body).toEqual({ horses: 2, together: null, firstWorse: null });
    const { rows } = await home.asOwner("select day_sums from horse_state where horse_id = 'moss'");
    // Two outings lie behind the open one: the second one's first ask was cold, and missed.
    expect(rows[0].day_sums).toEqual({ pairs: 1, shared: 0, apart: 0, colds: 1, coldClean: 0, laterClean: 1 });
  });
});
