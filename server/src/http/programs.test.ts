import { beforeAll, describe, expect, it } from "vitest";
import { RECORD_FORMAT } from "@still-pine/contract/record";
import { SCHOOLS, type ProgramFile } from "@still-pine/core/programs";
import { holdYard } from "../store/yard";
import { withClient } from "../db/with-client";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

/** A yard's own programs: written, refused, published, judged by, and carried along. */

const NOW = "2026-06-10T12:00:00Z";
const { yard, another } = yardsForTests(NOW);
let home: TestYard;
const [loose] = SCHOOLS;
if (!loose) throw new Error("no school");
const OURS: ProgramFile = { ...loose, id: "own-ours", version: 1, name: "Our way" };

const put = (file: object, seen: number) =>
  call(`${home.url}/api/programs/own-ours/draft`, "PUT", { file }, { "If-Match": `"${seen}"` });
const post = (what: string, seen: number) =>
  call(`${home.url}/api/programs/own-ours/${what}`, "POST", {}, { "If-Match": `"${seen}"` });
const asks = (day: string, outing: string): object[] => [
  {
    horse: "h1",
    outing,
    event: { id: `${outing}:start`, at: `${day}T10:00:00Z`, type: "outing-start", place: "Pen", handler: "M" },
  },
  ...Array.from({ length: 6 }, (_, n) => ({
    horse: "h1",
    outing,
    event: {
      id: `${outing}-${n}`,
      at: `${day}T10:0${n + 1}:00Z`,
      v: 2,
      type: "ask",
      step: "share-space",
      rung: "1m-30s",
      answer: "gave",
      mood: 1,
    },
  })),
];
const line = async (): Promise<any> => (await call(`${home.url}/api/string`, "GET")).body.horses[0];

beforeAll(async () => {
  home = yard();
  await call(`${home.url}/api/horses`, "POST", {
    id: "h1",
    name: "Moss",
    foaled: "2022-05-01",
    foaledPrecision: "month",
    sex: "mare",
  });
  const events = ["2026-06-05", "2026-06-07", "2026-06-09"].flatMap((day, n) => asks(day, `o${n}`));
  await call(`${home.url}/api/events`, "POST", { events });
});

describe("a draft", () => {
  it("is kept unsound or not, by its version; two who write it are told of each other", async () => {
    expect((await put({ ...OURS, road: ["flex"] }, 0)).body.version).toBe(1);
    expect((await put(OURS, 0)).status).toBe(412);
    const again = await put({ ...OURS, about: "Changed." }, 1);
    expect([again.status, again.body.version]).toEqual([200, 2]);
    const late = await put(OURS, 1);
    expect([late.status, late.body.current.file.about]).toEqual([412, "Changed."]);
  });

  it("of no name, or under an id that ships, is refused", async () => {
    expect((await put({ ...OURS, name: "" }, 2)).status).toBe(400);
    const taken = await call(
      `${home.url}/api/programs/loose-pen-start/draft`,
      "PUT",
      { file: OURS },
      { "If-Match": '"0"' },
    );
    expect([taken.status, taken.body.errors[0].expected]).toEqual([
      400,
      "an id of at most 200 characters that begins with own-",
    ]);
  });
});

describe("publishing", () => {
  const broken: [string, Partial<ProgramFile>, string][] = [
    ["a circle", { needs: { ...OURS.needs, "face-up": ["draw"] } }, "needs that do not lead back"],
    ["a need that is nowhere", { needs: { ...OURS.needs, "face-up": ["no-such-step"] } }, "a step of this program"],
    ["a gate's safety step made easier", { standards: { "yield-hind": { dose: 10 } } }, "a safety step"],
    [
      "a way past a gate",
      { needs: { ...OURS.needs, "lie-over": ["lead", "stand"] } },
      "so that the gate first-ride stands before it",
    ],
    ["a stop that does not stop", { stop: ["share-space"] }, "among its steps"],
    ["laxer numbers", { judge: { gateDays: 1 } }, "gates go by it"],
  ];
  it.each(broken)("%s is refused, and the draft stays", async (_what, part, why) => {
    const [draft] = (await call(`${home.url}/api/programs`, "GET")).body.drafts;
    const { body: stored } = await put({ ...OURS, ...part }, draft.version);
    const answer = await post("publish", stored.version);
    expect(answer.status).toBe(422);
    expect(JSON.stringify(answer.body.errors)).toContain(why);
    expect((await call(`${home.url}/api/programs`, "GET")).body.drafts).toHaveLength(1);
  });

  it("makes a version that horses can go by, and every view of them knows it", async () => {
    const [draft] = (await call(`${home.url}/api/programs`, "GET")).body.drafts;
    const { body: stored } = await put({ ...OURS, about: "By us." }, draft.version);
    expect((await post("publish", stored.version)).body).toEqual({ id: "own-ours", version: 1 });
    const event = { id: "move", at: NOW, type: "program", program: "own-ours", programVersion: 1 };
    await call(`${home.url}/api/events`, "POST", { events: [{ horse: "h1", outing: null, event }] });
    expect((await line()).program).toEqual({ id: "own-ours", version: 1 });
    expect(
      (await call(`${home.url}/api/horses/h1`, "GET")).body.yard.programs.map((one: ProgramFile) => one.name),
    ).toEqual(["Our way"]);
  });

  it("says beforehand what a new version changes for each horse, and changes just that", async () => {
    expect((await line()).trail.map((one: { status: string }) => one.status)).toEqual(["steady"]);
    const { body: stored } = await put({ ...OURS, standards: { "share-space": { dose: 30, mood: 0 } } }, 0);
    const { horses } = (await call(`${home.url}/api/programs/own-ours/changes`, "GET")).body;
    expect(horses).toEqual(
      [{ horse: "h1", name: "Moss", changes: ["Shares the pen: steady → begun"], next: null }].map((one) => ({
        ...one,
        next: horses[0].next,
      })),
    );
    expect((await post("publish", stored.version)).body.version).toBe(2);
    const after = await line();
    expect([after.program.version, after.trail.map((one: { status: string }) => one.status)]).toEqual([2, ["begun"]]);
  });

  it("is done by one of two who publish at once", async () => {
    const { body: stored } = await put({ ...OURS, about: "Once." }, 0);
    const answers = await Promise.all([post("publish", stored.version), post("publish", stored.version)]);
    expect(answers.map(({ status }) => status).toSorted()).not.toEqual([201, 201]);
    expect(answers.filter(({ status }) => status === 201)).toHaveLength(1);
  });

  it("makes anew what is derived of the horses that go by it, and of no other", async () => {
    await call(`${home.url}/api/horses`, "POST", {
      id: "h2",
      name: "Other",
      foaled: "2022-05-01",
      foaledPrecision: "month",
      sex: "mare",
    });
    const states = async (): Promise<string[]> =>
      (await home.asOwner("select horse_id || xmin::text as at from horse_state order by horse_id")).rows.map(
        (row: { at: string }) => row.at,
      );
    const before = await states();
    const { body: stored } = await put({ ...OURS, about: "Again." }, 0);
    expect((await post("publish", stored.version)).status).toBe(201);
    const after = await states();
    expect([after[0] === before[0], after[1] === before[1]]).toEqual([false, true]);
  });

  it("cannot be undone: a published version is neither changed nor dropped", async () => {
    await expect(home.db.query("delete from program")).rejects.toThrow(/permission denied/);
    await expect(home.db.query("update program set version = 9")).rejects.toThrow(/permission denied/);
  });
});

describe("two yards in one process", () => {
  it("that publish other programs under one id are each judged by their own", async () => {
    const yards = [await another(), await another()];
    for (const [n, one] of yards.entries()) {
      await call(`${one.url}/api/horses`, "POST", {
        id: "h1",
        name: "One",
        foaled: "2022-05-01",
        foaledPrecision: "month",
        sex: "mare",
      });
      const about = n === 0 ? "The first yard's." : "The second yard's.";
      const standards = n === 0 ? {} : { "share-space": { mood: 0 } };
      const file = { ...OURS, id: "own-same", about, standards };
      const draft = await call(`${one.url}/api/programs/own-same/draft`, "PUT", { file }, { "If-Match": '"0"' });
      expect(draft.body.errors).toBeUndefined();
      const done = await call(`${one.url}/api/programs/own-same/publish`, "POST", {}, { "If-Match": '"1"' });
      expect([done.status, done.body]).toEqual([201, { id: "own-same", version: 1 }]);
      const chosen = { id: "p1", at: "2026-06-01T08:00:00Z", type: "program", program: "own-same", programVersion: 1 };
      const events = [
        { horse: "h1", outing: null, event: chosen },
        ...["2026-06-05", "2026-06-06", "2026-06-07"].flatMap((day) => asks(day, `o-${day}`)),
      ];
      await call(`${one.url}/api/events`, "POST", { events });
    }
    const words = await Promise.all(
      yards.map(async ({ url }) => {
        const { horse } = (await call(`${url}/api/horses/h1`, "GET")).body;
        const { published } = (await call(`${url}/api/programs`, "GET")).body;
        const shared = horse.trail.find((print: { step: string }) => print.step === "share-space");
        return [horse.program, published[0].about, shared.status];
      }),
    );
    expect(words).toEqual([
      [{ id: "own-same", version: 1 }, "The first yard's.", "steady"],
      [{ id: "own-same", version: 1 }, "The second yard's.", "begun"],
    ]);
  });
});

describe("a preview of an import", () => {
  it("is seen by nobody else while it lasts", async () => {
    const text = await (await fetch(`${home.url}/api/horses/h1/record`)).text();
    const other = await another();
    await call(`${other.url}/api/horses`, "POST", {
      id: "h9",
      name: "Nine",
      foaled: "2022-05-01",
      foaledPrecision: "month",
      sex: "mare",
    });
    const waits = "select from pg_locks where not granted and relation = 'event'::regclass";
    const { preview, under } = await withClient(other.ownerUrl, async (holding) => {
      await holding.query("begin");
      // The preview takes in the program, and then waits for this before it takes in the entries.
      await holding.query("lock table event in share mode");
      const begun = call(`${other.url}/api/records?preview=1`, "POST", text);
      await expect.poll(async () => (await other.asOwner(waits)).rowCount).toBe(1);
      const asked = await call(`${other.url}/api/horses/h9/under?programs=own-ours`, "GET");
      await holding.query("rollback");
      return { preview: await begun, under: asked };
    });
    expect([preview.status, preview.body.preview]).toEqual([200, true]);
    expect(under.status).toBe(400);
    expect(under.body.errors).toEqual([
      { path: "programs", expected: "ids of programs this yard has", found: "own-ours" },
    ]);
  });
});

describe("a horse's record", () => {
  const recordOf = async (from: TestYard): Promise<string> => (await fetch(`${from.url}/api/horses/h1/record`)).text();
  const bring = (into: TestYard, text: string, query = "") => call(`${into.url}/api/records${query}`, "POST", text);
  const codesOf = (body: any): string[] => body.warnings.map((one: { code: string }) => one.code);

  it("takes the own programs he goes by along, every version, and is the same again when it has come in", async () => {
    const text = await recordOf(home);
    expect(JSON.parse(text).programs.map((one: ProgramFile) => [one.id, one.version])).toEqual(
      [1, 2, 3, 4].map((version) => ["own-ours", version]),
    );
    const other = await another();
    const preview = await bring(other, text, "?preview=1");
    expect([preview.status, codesOf(preview.body)]).toEqual([200, ["comes-along"]]);
    expect((await call(`${other.url}/api/programs`, "GET")).body.published).toEqual([]);
    expect((await bring(other, text)).status).toBe(201);
    expect(await recordOf(other)).toBe(text);
    const [there] = (await call(`${other.url}/api/string`, "GET")).body.horses;
    expect(there.program).toEqual((await line()).program);
    const again = await bring(other, text);
    expect([again.status, codesOf(again.body)]).toEqual([200, []]);
  });

  it("brings a newer version, which judges the horses that are here by then; one that says otherwise stays out", async () => {
    const text = await recordOf(home);
    const other = await another();
    const file = JSON.parse(text);
    const [first, ...later] = file.programs as ProgramFile[];
    await bring(other, JSON.stringify({ ...file, programs: [first] }));
    const newer = await bring(
      other,
      JSON.stringify({ ...file, programs: [{ ...first, about: "Not ours." }, ...later] }),
    );
    expect(newer.body.warnings.map((one: { text: string }) => one.text)).toEqual([
      'the program "Our way", version 1, is here with other content; the one here stays',
      'the program "Our way", version 2, 3, 4, comes along; horses here that are judged by it from now on: 1',
    ]);
    const [there] = (await call(`${other.url}/api/string`, "GET")).body.horses;
    expect(there.program).toEqual({ id: "own-ours", version: 4 });
  });

  it("in an archive waits with a program that is new here for those who write; without one it waits for nobody", async () => {
    const archive = new Uint8Array(await (await fetch(`${home.url}/api/horses/h1/archive`)).arrayBuffer());
    const other = await another();
    const bringArchive = (): Promise<Response> =>
      fetch(`${other.url}/api/archives`, {
        method: "POST",
        headers: { "Content-Type": "application/zip" },
        body: archive,
      });
    const writer = await other.db.connect();
    await writer.query("begin");
    await holdYard(writer, other.yard);
    const order: string[] = [];
    const brought = bringArchive().then(({ status }) => order.push(`brought in: ${status}`));
    await expect
      .poll(
        async () => (await other.asOwner("select from pg_locks where locktype = 'advisory' and not granted")).rowCount,
      )
      .toBe(1);
    order.push("written");
    await writer.query("commit");
    await brought;
    expect(order).toEqual(["written", "brought in: 201"]);
    await writer.query("begin");
    await holdYard(writer, other.yard);
    expect((await bringArchive()).status).toBe(200);
    await writer.query("commit");
    writer.release();
  });

  it.each<[string, object, string]>([
    ["without what guards a person", { ways: { ...OURS.ways }, stop: ["share-space"] }, "programs[0]."],
    ["under an id that ships", { id: "loose-pen-start" }, "programs[0].id"],
    ["that is none", { road: 7 }, "programs[0].road"],
  ])("with a program %s is refused with its place, and nothing is kept", async (_what, part, place) => {
    const other = await another();
    const file = { ...JSON.parse(await recordOf(home)), programs: [{ ...OURS, ...part }] };
    const answer = await bring(other, JSON.stringify(file));
    expect([answer.status, answer.body.errors[0].path]).toEqual([422, expect.stringContaining(place)]);
    expect((await call(`${other.url}/api/programs`, "GET")).body.published).toEqual([]);
    expect((await call(`${other.url}/api/string`, "GET")).body.horses).toEqual([]);
  });

  it("that goes by programs that ship has none in it", async () => {
    const text = await (await fetch(`${home.url}/api/horses/h2/record`)).text();
    expect([JSON.parse(text).format, JSON.parse(text).programs]).toEqual([RECORD_FORMAT, undefined]);
  });
});
