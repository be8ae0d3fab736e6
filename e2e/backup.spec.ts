import { spawnSync } from "node:child_process";
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { expect, test } from "@playwright/test";
import { startApplication, throwAwayFolder } from "./application";

const DATA = new URL("../server/dist/data.mjs", import.meta.url).pathname;
let folder: string;
let other: string;
test.beforeEach(() => {
  folder = throwAwayFolder();
  other = throwAwayFolder();
});
test.afterEach(() => {
  for (const one of [folder, other]) rmSync(one, { recursive: true, force: true });
});

const run = (data: string, ...words: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [DATA, ...words], {
    encoding: "utf8",
    env: { ...process.env, STILLPINE_DATA: data, DATABASE_URL: "", STILLPINE_NOW: "2026-06-10T12:00:00Z" },
  });
  return { status, line: `${stdout}${stderr}`.trim() };
};

async function archiveOf(data: string, args: string[] = []): Promise<Buffer> {
  const application = await startApplication({ folder: data, args });
  try {
    return Buffer.from(await (await fetch(`${application.url}/api/archive`)).arrayBuffer());
  } finally {
    await application.stop();
  }
}

test("a backup restored elsewhere gives the same record, byte for byte; a yard that is not empty is kept aside", async () => {
  test.setTimeout(120_000);
  const before = await archiveOf(folder);
  const file = path.join(folder, "yard.backup");
  expect(run(folder, "backup", file)).toEqual({ status: 0, line: `Backed up to ${file}.` });

  await archiveOf(other, ["--empty"]);
  expect(run(other, "restore", file)).toEqual({ status: 0, line: `Restored from ${file}.` });
  expect((await archiveOf(other)).equals(before)).toBe(true);

  const refused = run(other, "restore", file);
  expect(refused.status).toBe(2);
  expect(refused.line).toContain("The yard holds 8 horses: add --replace");
  const replaced = run(other, "restore", "--replace", file);
  expect(replaced.line).toContain("What was there is kept as the database still_pine_before_20260610120000.");
  expect((await archiveOf(other)).equals(before)).toBe(true);
  expect(run(other, "rebuild")).toEqual({ status: 0, line: "Made anew what is derived of 8 horses." });
  expect((await archiveOf(other)).equals(before)).toBe(true);
});

test("the demo yard is made anew for another day; a yard of one's own only when told so; what was there is kept", async () => {
  await archiveOf(folder);
  const made = run(folder, "demo");
  expect(made).toEqual({
    status: 0,
    line: expect.stringMatching(
      /^Made the demo yard anew, dated to 2026-06-10\. What was there is kept as the database still_pine_before_\d+\.$/,
    ),
  });
  const application = await startApplication({ folder });
  try {
    const { horses } = (await (await fetch(`${application.url}/api/string`)).json()) as {
      horses: { lastOuting: string | null }[];
    };
    const days = horses.map((horse) => horse.lastOuting ?? "").toSorted();
    expect(days).toHaveLength(8);
    expect(days.at(-1)).toMatch(/^2026-06-(09|10)$/);
  } finally {
    await application.stop();
  }

  const { url, stop } = await startApplication({ folder: other, args: ["--empty"] });
  const horse = { id: "own", name: "Own", foaled: "2023-05-01", foaledPrecision: "day", sex: "mare" };
  const added = await fetch(`${url}/api/horses`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(horse),
  });
  expect(added.status).toBe(201);
  await stop();
  expect(run(other, "demo")).toEqual({
    status: 2,
    line: "The yard holds 1 horse of your own: add --replace to put the demo yard in its place; what is there is kept aside.",
  });
  expect(run(other, "demo", "--replace").status).toBe(0);
});

test("what cannot be done is one line with what to do", async () => {
  const application = await startApplication({ folder, args: ["--empty"] });
  const file = path.join(folder, "yard.backup");
  expect(run(folder, "backup", file).status).toBe(0);
  expect(run(folder, "restore", file).line).toContain(`Still Pine already runs on ${folder}`);
  expect(run(folder, "rebuild").line).toBe("Made anew what is derived of 0 horses.");
  await application.stop();
  const junk = path.join(other, "junk");
  writeFileSync(junk, "no backup");
  for (const [words, line] of [
    [["restore", path.join(other, "none")], "no such file"],
    [["restore", junk], "is no backup of Still Pine"],
    [["backup", path.join(other, "no/such/folder/b")], "could not be written"],
    [["restore"], "usage: bin/restore"],
    [["backup", "--replace", file], "usage: bin/backup"],
  ] as const) {
    const result = run(folder, ...words);
    expect([words, result.status, result.line]).toEqual([words, 2, expect.stringContaining(line)]);
    expect(result.line.split("\n")).toHaveLength(1);
  }
  expect(run(other, "backup", file).line).toContain(`There is no yard in ${other}`);
  expect(readFileSync(file).length).toBeGreaterThan(1000);
});
