import { beforeAll, describe, expect, it } from "vitest";
import { buildDemoYard } from "@still-pine/core/simulated";
import { SCHOOLS } from "@still-pine/core/programs";
import { recordToText } from "@still-pine/contract/record";
import { jpegWithPosition, zipOf, type ZipPart } from "../testing/samples";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";

const NOW = "2026-06-10T12:00:00Z";
const SLIPS = {
  name: "Slips on the ramp",
  seen: ["slides"],
  body: [{ look: "Feet and shoes.", who: "farrier" }],
  steps: [{ step: "stand", why: "He hurries." }],
};
const { yard, another } = yardsForTests(NOW, 2);
let first: TestYard;
let second: TestYard;
beforeAll(async () => {
  first = yard(0);
  second = yard(1);
  let n = 0;
  for (const record of buildDemoYard("2026-06-10", (msecs) => `id-${msecs}-${(n += 1)}`))
    await call(`${first.url}/api/records`, "POST", recordToText(record));
  const { body } = await call(`${first.url}/api/string`, "GET");
  const [horse] = body.horses;
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
      "250 times its size",
    ],
    [
      "that says a smaller size than it has",
      [part("record.json", { content: Buffer.alloc(5000, "a"), saysSize: 10 })],
      "cannot be unpacked",
    ],
    ["with nothing in it that is known", [part("letter.txt")], "no record.json"],
    [
      "with a photo that is none",
      [part("record.json", { content: Buffer.from(recordOf("odd")) }), part("media/m.jpg")],
      "no photo or clip",
    ],
  ] as const)("%s is refused in a line", async (_what, parts, line) => {
    const { status, body } = await upload(first, zipOf(parts));
    expect([status, body.detail]).toEqual([422, expect.stringContaining(line)]);
    expect(body.detail.split("\n")).toHaveLength(1);
  });

  it.each([
    ["a trouble that says nothing of the body", { troubles: [{ ...SLIPS, id: "t", body: [] }] }, "troubles[0].body"],
    ["a draft under an id that ships", { drafts: [{ id: "loose-pen-start", file: { name: "Mine" } }] }, "drafts[0].id"],
    ["a program that is none", { programs: [{ ...SCHOOLS[0], id: "own-x", road: 7 }] }, "programs[0].road"],
  ])("with %s is refused with its place", async (_what, more, place) => {
    const about = { format: "still-pine/yard", version: 1, name: "Y", timeZone: "Europe/Dublin" };
    const file = { ...about, units: "metric", words: "american", ...more };
    const { status, body } = await upload(
      first,
      zipOf([part("yard.json", { content: Buffer.from(JSON.stringify(file)) })]),
    );
    expect([status, body.errors.map((one: any) => one.path)]).toEqual([422, [place]]);
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

function recordOf(id: string): string {
  return recordToText({
    yard: { timeZone: "Europe/Dublin" },
    horse: { id, name: id, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
    program: { id: "loose-pen-start" },
    horseEvents: [],
    outings: [],
  });
}
