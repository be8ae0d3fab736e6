import { beforeAll, describe, expect, it } from "vitest";
import { SCHOOLS } from "@still-pine/core/programs";
import { recordToText } from "@still-pine/contract/record";
import { jpegWithPosition, zipOf, type ZipPart } from "../testing/samples";
import { bringInDemo } from "../testing/demo";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const SLIPS = {
  name: "Slips on the ramp",
  seen: ["slides"],
  body: [{ look: "Feet and shoes.", who: "farrier" }],
  steps: [{ step: "stand", why: "He hurries." }],
};
const { yard, another } = yardsForTests(NOW, 3);
let first: TestYard;
let second: TestYard;
let third: TestYard;
beforeAll(async () => {
  first = yard(0);
  second = yard(1);
  third = yard(2);
  const [horse] = await bringInDemo(first);
  if (!horse) throw new Error("no horses");
  const put = (path: string) =>
    fetch(`${first.url}/api${path}`, { method: "PUT", body: new Uint8Array(jpegWithPosition()) });
  await put(`/horses/${horse.id}/media/photo-1`);
  await put("/media/photo-1/thumbnail");
  await call(`${first.url}/api/events`, "POST", {
    events: [
      {
        horse: horse.id,
        outing: null,
        event: { id: "ph", at: "2026-06-09T10:00:00Z", type: "media", media: "photo-1", kind: "photo" },
      },
    ],
  });
  await call(
    `${first.url}/api/yard`,
    "PUT",
    { name: "Other yard", timeZone: "Europe/Dublin", units: "imperial", words: "british" },
    { "If-Match": '"1"' },
  );
  const draft = (id: string, name: string) =>
    call(`${first.url}/api/programs/${id}/draft`, "PUT", { file: { ...SCHOOLS[0], name } }, { "If-Match": '"0"' });
  await draft("own-published", "Published");
  await call(`${first.url}/api/programs/own-published/publish`, "POST", {}, { "If-Match": '"1"' });
  await draft("own-begun", "Begun");
  await call(`${first.url}/api/troubles/slips`, "PUT", SLIPS, { "If-Match": '"0"' });
});

const download = async (yard: TestYard, path: string): Promise<Buffer> =>
  Buffer.from(await (await fetch(`${yard.url}/api${path}`)).arrayBuffer());
const upload = async (yard: TestYard, zip: Buffer, query = "") => {
  const response = await fetch(`${yard.url}/api/archives${query}`, {
    method: "POST",
    headers: { "Content-Type": "application/zip" },
    body: new Uint8Array(zip),
  });
  return { status: response.status, body: (await response.json()) as any };
};

describe("a yard's archive", () => {
  it("is shown before it comes in, and comes into an empty yard whole: its archive is then the same", async () => {
    const zip = await download(first, "/archive");
    const preview = await upload(second, zip, "?preview=1");
    expect(preview.status).toBe(200);
    expect(preview.body.horses.map((one: any) => [one.name, one.isNew, one.media])).toEqual(
      expect.arrayContaining([
        ["Bracken", true, 1],
        ["Plover", true, 0],
      ]),
    );
    expect(preview.body.warnings.map((one: any) => one.text)).toEqual([
      'the program "Published", version 1, comes along',
      'the draft "Begun" comes along',
      'the trouble "Slips on the ramp" comes along',
    ]);
    expect((await call(`${second.url}/api/string`, "GET")).body.horses).toEqual([]);
    expect((await call(`${second.url}/api/troubles`, "GET")).body).toEqual([]);
    expect((await upload(second, zip)).status).toBe(201);
    expect((await download(second, "/archive")).equals(zip)).toBe(true);
    const { body } = await call(`${second.url}/api/yard`, "GET");
    expect(body).toMatchObject({ name: "Other yard", units: "imperial", words: "british" });
    const again = await upload(second, zip);
    expect([
      again.status,
      again.body.horses.reduce((sum: number, one: any) => sum + one.stored + one.media, 0),
    ]).toEqual([200, 0]);
    expect(again.body.warnings).toEqual([]);
  });

  it("leaves a draft and a trouble that are here already as they are, and says so", async () => {
    const other = await another();
    await call(`${other.url}/api/troubles/slips`, "PUT", { ...SLIPS, name: "Slips" }, { "If-Match": '"0"' });
    await call(
      `${other.url}/api/programs/own-begun/draft`,
      "PUT",
      { file: { name: "Of here" } },
      { "If-Match": '"0"' },
    );
    const { body } = await upload(other, await download(first, "/archive"));
    expect(body.warnings.slice(-2)).toEqual([
      { code: "other-content", text: 'the draft "Begun" is here with other content; the one here stays' },
      { code: "other-content", text: 'the trouble "Slips on the ramp" is here with other content; the one here stays' },
    ]);
    expect((await call(`${other.url}/api/troubles`, "GET")).body[0].name).toBe("Slips");
    expect((await call(`${other.url}/api/programs`, "GET")).body.drafts[0].file.name).toBe("Of here");
  });

  it("of one horse brings its photos along", async () => {
    const { body } = await call(`${first.url}/api/string`, "GET");
    const [{ id }] = body.horses;
    const zip = await download(first, `/horses/${id}/archive`);
    const third = await another();
    expect((await upload(third, zip)).body.horses).toEqual([expect.objectContaining({ isNew: true, media: 1 })]);
    expect((await fetch(`${third.url}/api/media/photo-1/thumbnail`)).status).toBe(200);
    expect((await download(third, `/horses/${id}/archive`)).equals(zip)).toBe(true);
  });

  it("in conflict changes nothing, names both, and may be brought in without what is in conflict", async () => {
    const { body } = await call(`${first.url}/api/string`, "GET");
    const [{ id }] = body.horses;
    const record = JSON.parse((await download(first, `/horses/${id}/record`)).toString());
    record.horse.name = "Renamed";
    record.outings[0].events[0].mood = 4;
    record.outings[0].events.push({ id: "added", at: record.outings[0].endedAt, type: "note", text: "new" });
    const zip = zipOf([{ name: "record.json", content: Buffer.from(JSON.stringify(record)) }]);
    const preview = await upload(first, zip, "?preview=1");
    expect(preview.body.horses[0]).toMatchObject({ isNew: false, stored: 1 });
    expect(preview.body.horses[0].conflicts.map((one: any) => one.path)).toEqual([
      "horse.name",
      record.outings[0].events[0].id,
    ]);
    expect((await upload(first, zip)).status).toBe(409);
    expect(
      (await call(`${first.url}/api/ledger?kind=note`, "GET")).body.rows.some((row: any) => row.id === "added"),
    ).toBe(false);
    expect((await upload(first, zip, "?conflicts=leave")).body.horses[0].stored).toBe(1);
    expect(
      (await call(`${first.url}/api/ledger?kind=note`, "GET")).body.rows.some((row: any) => row.id === "added"),
    ).toBe(true);
  });
});

describe("an archive from a stranger", () => {
  const record = Buffer.from("{}");
  const part = (name: string, more: Partial<ZipPart> = {}): ZipPart => ({ name, content: record, ...more });
  it.each([
    ["with a way out of its folder", [part("../../etc/cron.d/x")], "invalid relative path"],
    ["with an absolute path", [part("/etc/passwd")], "absolute path"],
    ["with a backslash", [part("media\\x.jpg")], "invalid characters"],
    ["with a link", [part("record.json", { mode: 0o120777 })], "is a link"],
    ["with a file twice", [part("record.json"), part("record.json")], "twice"],
    [
      "that bursts ten-thousandfold",
      [part("record.json", { content: Buffer.alloc(100 * 1024 * 1024) })],
      "100 times its size",
    ],
    [
      "that says a smaller size than it has",
      [part("record.json", { content: Buffer.alloc(5000, "a"), saysSize: 10 })],
      "cannot be unpacked",
    ],
    ["with nothing in it that is known", [part("letter.txt")], "no record.json"],
  ] as const)("%s is refused in a line", async (_what, parts, line) => {
    const { status, body } = await upload(first, zipOf(parts));
    expect([status, body.detail]).toEqual([422, expect.stringContaining(line)]);
    expect(body.detail.split("\n")).toHaveLength(1);
  });

  it.each([
    ["a trouble that says nothing of the body", { troubles: [{ ...SLIPS, id: "t", body: [] }] }, "troubles[0].body"],
    ["a draft under an id that ships", { drafts: [{ id: "loose-pen-start", file: { name: "Mine" } }] }, "drafts[0].id"],
    ["an id longer than any", { troubles: [{ ...SLIPS, id: "t".repeat(201) }] }, "troubles[0].id"],
    ["a program that is none", { programs: [{ ...SCHOOLS[0], id: "own-x", road: 7 }] }, "programs[0].road"],
    ["settings that are none", { timeZone: "Nowhere" }, "timeZone"],
  ])("with %s comes in without it, and says where it stood", async (_what, more, place) => {
    const about = { format: "still-pine/yard", version: 1, name: "Y", timeZone: "Europe/Dublin" };
    const file = { ...about, units: "metric", words: "american", ...more };
    const id = `sound beside ${place}`;
    const { status, body } = await upload(
      third,
      zipOf([
        part("yard.json", { content: Buffer.from(JSON.stringify(file)) }),
        part("horses/1/record.json", { content: Buffer.from(recordOf(id)) }),
      ]),
    );
    expect([status, body.aside.map((one: any) => [one.file, one.path])]).toEqual([201, [["yard.json", place]]]);
    expect(body.horses.map((one: any) => one.horse)).toEqual([id]);
  });

  // Made before the first request: a connection left alone that long would be closed.
  const manyFiles = [20_001, 100_000].map(
    (count) =>
      [count, zipOf(Array.from({ length: count }, (_, n) => part(`m/${n}`, { content: Buffer.alloc(1) })))] as const,
  );
  it.each(manyFiles)("of %d files is refused before one is read", async (_count, many) => {
    const { status, body } = await upload(first, many);
    expect([status, body.detail]).toEqual([422, expect.stringMatching(/at most 20000 files|Expected a zip/)]);
  });

  it("that is no zip, or half of one, is refused in a line", async () => {
    for (const bytes of [Buffer.from("hello"), Buffer.alloc(0), zipOf([part("record.json")]).subarray(0, 40)])
      expect((await upload(first, bytes)).status).toBe(422);
  });
});

describe("one odd entry", () => {
  const part = (name: string, content: string | Buffer): ZipPart => ({ name, content: Buffer.from(content) });
  const odd = (change: (record: any) => void, id = "odd"): string => {
    const record = JSON.parse(recordOf(id));
    record.outings.push({
      id: `${id}-o`,
      startedAt: "2026-06-01T09:00:00Z",
      endedAt: "2026-06-01T09:30:00Z",
      events: [
        { id: `${id}-1`, at: "2026-06-01T09:01:00Z", type: "note", text: "before" },
        { id: `${id}-2`, at: "2026-06-01T09:02:00Z", type: "note", text: "after" },
      ],
    });
    change(record);
    return JSON.stringify(record);
  };
  let count = 0;
  const events = (record: any): any[] => record.outings[0].events;

  it.each<[string, (record: any) => void, string, number]>([
    [
      "without a time",
      (record) => events(record).splice(1, 0, { id: `${record.horse.id}-x`, type: "note" }),
      "outings[0].events[1].at",
      4,
    ],
    ["that no database holds", (record) => (events(record)[0].text = "\ud800"), "outings[0].events[0]", 3],
    [
      "twice with other content",
      (record) => events(record).push({ ...events(record)[0], text: "x" }),
      "outings[0].events[2].id",
      4,
    ],
    [
      "that a correction leaves wrong in itself",
      (record) =>
        events(record).push({
          id: `${record.horse.id}-c`,
          at: "2026-06-01T10:00:00Z",
          type: "correction",
          replaces: events(record)[0].id,
          with: { text: 7 },
        }),
      "outings[0].events[2].with.text",
      4,
    ],
    [
      "an outing that has no start",
      (record) => record.outings.push({ id: `${record.horse.id}-o2`, events: [] }),
      "outings[1].startedAt",
      4,
    ],
  ])("%s is set aside by an archive, named and given back; the rest comes in", async (_what, change, path, stored) => {
    const [one, other] = [`odd-${(count += 1)}`, `sound-${count}`];
    const zip = zipOf([
      part("horses/1/record.json", odd(change, one)),
      part("horses/2/record.json", "{ no json"),
      part(
        "horses/3/record.json",
        odd(() => undefined, other),
      ),
      part("horses/3/media/none.jpg", "not a photo"),
    ]);
    for (const query of ["?preview=1", ""]) {
      const { body } = await upload(third, zip, query);
      expect(body.horses.map((brought: any) => [brought.horse, brought.stored])).toEqual([
        [one, stored],
        [other, 4],
      ]);
      expect(body.aside.map((lost: any) => [lost.file, lost.path])).toEqual([
        ["horses/1/record.json", path],
        ["horses/2/record.json", ""],
        ["horses/3/media/none.jpg", ""],
      ]);
      expect(body.aside[0].entry).toBeDefined();
    }
  });
});

describe("two archives at one moment", () => {
  it("that hold the same horses in another order do not wait for each other in a circle", async () => {
    const deadlocks = async (): Promise<number> =>
      Number(
        (await third.db.query("select deadlocks from pg_stat_database where datname = current_database()")).rows[0]
          .deadlocks,
      );
    const ids = ["lock-a", "lock-b", "lock-c"];
    const zip = (order: readonly string[]): Buffer =>
      zipOf(order.map((id, index) => ({ name: `horses/${index}/record.json`, content: Buffer.from(recordOf(id)) })));
    await upload(third, zip(ids));
    const before = await deadlocks();
    for (let n = 0; n < 5; n += 1) {
      const both = await Promise.all([upload(third, zip(ids)), upload(third, zip(ids.toReversed()))]);
      expect(both.map(({ status }) => status)).toEqual([200, 200]);
    }
    expect(await deadlocks()).toBe(before);
  });
});

function recordOf(id: string): string {
  return recordToText({
    yard: { timeZone: "Europe/Dublin" },
    horse: { id, name: id, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings: [],
  });
}
