import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import * as xlsx from "xlsx";
import { call, yardsForTests, type TestYard } from "../testing/throw-away";
import { asWritten, harmless } from "./cells";

const NOW = "2026-06-10T12:00:00Z";
const { yard } = yardsForTests(NOW);
let home: TestYard;
beforeAll(async () => {
  home = yard();
  for (const [id, name] of [
    ["h1", "Moss"],
    ["h2", '=HYPERLINK("http://evil.example")'],
    ["h3", "Twin"],
    ["h4", "twin"],
  ])
    await call(`${home.url}/api/horses`, "POST", {
      id,
      name,
      foaled: "2023-05-01",
      foaledPrecision: "month",
      sex: "mare",
    });
});

const send = async (text: string, query = "") => {
  const response = await fetch(`${home.url}/api/csv${query}`, {
    method: "POST",
    headers: { "Content-Type": "text/csv" },
    body: text,
  });
  return { status: response.status, body: (await response.json()) as any };
};
const ledger = async (query = ""): Promise<string> => (await fetch(`${home.url}/api/ledger.csv${query}`)).text();

describe("a cell", () => {
  // OWASP, "CSV Injection": fields beginning with = + - @ tab or carriage return are run as formulas.
  it.each(["=1+1", "+1", "-1+cmd", "@SUM(A1)", "\t=1", "\r=1", "'=1"])("%j is no formula, and comes back", (text) => {
    expect(harmless(text)).toBe(`'${text}`);
    expect(asWritten(harmless(text))).toBe(text);
  });

  it("of any text comes back as it was, and never begins like a formula", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^['=+@\n＝＠-]{0,4}x?$/)), (text) => {
        expect(asWritten(harmless(text))).toBe(text);
        expect(harmless(text)).not.toMatch(/^[=+\-@\t\r\n＝＋－＠]/);
      }),
    );
  });
});

describe("weights and care from a spreadsheet", () => {
  const rows = [
    "Horse,Day,weight_kg,girth_cm,means,care,text,due_on",
    "moss,2026-05-01,412,175,tape,,,",
    'Moss,2026-05-02,,,,feet,"trimmed, ""good""",2026-07-01',
  ].join("\r\n");

  it("are shown first, then stored once however often they are sent", async () => {
    const preview = await send(rows, "?preview=1");
    expect(preview.body).toMatchObject({ preview: true, stored: 2, alreadyThere: 0, refused: [] });
    expect((await send(rows, "?preview=1")).body.stored).toBe(2);
    expect((await send(rows)).body).toMatchObject({ preview: false, stored: 2 });
    expect((await send(rows)).body).toMatchObject({ stored: 0, alreadyThere: 2 });
    const { entries } = (await call(`${home.url}/api/horses/h1`, "GET")).body;
    expect(entries.map((one: any) => one.event)).toEqual([
      expect.objectContaining({ type: "care", kind: "feet", text: 'trimmed, "good"', dueOn: "2026-07-01" }),
      expect.objectContaining({
        type: "weight",
        weightKg: 412,
        girthCm: 175,
        means: "tape",
        at: "2026-05-01T12:00:00.000Z",
      }),
    ]);
  });

  it.each([
    ["\n", "\n"],
    ["\r\n", "\n"],
    ["\r\n", "\r\n"],
    ["\r", "\r"],
  ])(
    "count the lines of the file itself, where cells and empty lines hold breaks too (%j, %j)",
    async (ends, within) => {
      const text = [
        `horse,day,weight_kg,text,"a${within}column"`,
        `Moss,2026-05-02,402,"thin${within}but well",`,
        "",
        `Nobody,2026-05-02,402,"a${within}b${within}",`,
        "Nobody,2026-05-03,402,,",
      ].join(ends);
      const { body } = await send(`\ufeff${text}`, "?preview=1");
      expect(body.refused.map(({ path }: { path: string }) => path)).toEqual(["line 6, horse", "line 9, horse"]);
      expect(body.rows.map(({ line }: { line: number }) => line)).toEqual([3]);
    },
  );

  it("with mistakes name the line and what to change, and store the others", async () => {
    const { body } = await send(
      [
        "horse,day,weight_kg,care",
        "Nobody,2026-05-01,400,",
        "Twin,2026-05-01,400,",
        "Moss,2026-02-30,400,",
        "Moss,2026-05-03,four hundred,",
        "Moss,2026-05-03,9000,",
        "Moss,2026-05-03,,wings",
        "Moss,2026-05-03,401,",
      ].join("\n"),
    );
    expect(body.stored).toBe(1);
    expect(body.refused.map((one: any) => [one.path, one.expected])).toEqual([
      ["line 2, horse", "a horse of this yard"],
      ["line 3, horse", "one horse; several have this name, so give horse_id"],
      ["line 4, day", "a day such as 2026-05-01"],
      ["line 5, weightKg", "a number"],
      ["line 6, weightKg", "at most 2000"],
      ["line 7, kind", expect.stringContaining('"feet"')],
    ]);
    expect((await send("a,b\n1,2")).body.detail).toContain("Expected a first line with the columns horse, day");
    expect((await send('horse,day\n"open')).status).toBe(422);
  });

  it("go out in the ledger's CSV, through a general spreadsheet library, and come in as already there", async () => {
    await call(`${home.url}/api/events`, "POST", {
      events: [
        {
          horse: "h2",
          outing: null,
          event: { id: "=care", at: "2026-05-05T09:30:00Z", type: "care", kind: "vet", text: "-looked, =fine" },
        },
        {
          horse: "h2",
          outing: null,
          event: { id: "w9", at: "2026-05-06T09:30:00Z", type: "weight", weightKg: 390, typed: { weightKg: "860 lb" } },
        },
        {
          horse: "h2",
          outing: null,
          event: {
            id: "w9c",
            at: "2026-05-07T09:30:00Z",
            type: "correction",
            replaces: "w9",
            with: { weightKg: 391.5 },
          },
        },
      ],
    });
    const out = await ledger();
    expect(out.split("\r\n")[0]).toContain("horse_id");
    expect(out.split("\r\n").slice(1).join("\n")).not.toMatch(/(^|,)"?[=+@]/m);
    const book = xlsx.read(out, { type: "string", raw: true });
    const sheet = book.Sheets[book.SheetNames[0] ?? ""];
    if (!sheet) throw new Error("no sheet");
    const cells = xlsx.utils.sheet_to_json<Record<string, string>>(sheet, { raw: true, defval: "" });
    expect(cells.find((row) => row["kind"] === "care" && row["horse_id"] === "h2")).toMatchObject({
      id: "'=care",
      care: "vet",
      text: "'-looked, =fine",
    });
    const back = xlsx.utils.sheet_to_csv(sheet, { FS: ",", RS: "\r\n" });
    const { body } = await send(back);
    expect(body).toMatchObject({ stored: 0, refused: [], alreadyThere: 5 });
    const changed = await send(back.replace("391.5", "395"));
    expect(changed.body.refused[0]).toMatchObject({
      path: expect.stringContaining(", id"),
      found: expect.stringContaining("395"),
    });
  });
});
