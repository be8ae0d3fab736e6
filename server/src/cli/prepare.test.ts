import { spawnSync } from "node:child_process";
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";

const PREPARE = new URL("../../../bin/lib/prepare.sh", import.meta.url).pathname;
/** Stands for the build: writes what it makes, and a line each time. */
const BUILD = `
  import { appendFileSync, mkdirSync, writeFileSync } from "node:fs";
  const root = new URL("../..", import.meta.url).pathname;
  const only = process.argv[2];
  for (const folder of ["server/dist", "web/dist"]) mkdirSync(root + folder, { recursive: true });
  const made = only ? [only + ".cjs"] : ["start.mjs", "data.mjs", "worker.mjs"];
  for (const name of made) writeFileSync(root + "server/dist/" + name, "");
  if (!only) writeFileSync(root + "web/dist/index.html", "");
  appendFileSync(root + "builds", (only ?? "all") + " ");
`;

let root: string;
beforeEach(() => {
  root = mkdtempSync(path.join(tmpdir(), "still-pine-build-"));
  for (const folder of ["core/src", "contract/src", "server/src", "web/src", "bin/lib"])
    mkdirSync(path.join(root, folder), { recursive: true });
  cpSync(PREPARE, path.join(root, "bin/lib/prepare.sh"));
  writeFileSync(path.join(root, "bin/lib/build.mjs"), BUILD);
  for (const file of ["package-lock.json", "web/index.html", "web/vite.config.ts", "core/src/one.ts"])
    writeFileSync(path.join(root, file), "");
  const old = new Date("2026-01-01");
  for (const file of ["bin/lib/build.mjs", "core/src/one.ts"]) utimesSync(path.join(root, file), old, old);
});
afterEach(() => rmSync(root, { recursive: true, force: true }));

const need = (what: string): void => {
  const { status, stderr } = spawnSync("bash", ["-c", `. bin/lib/prepare.sh; need_build ${what}`], {
    cwd: root,
    encoding: "utf8",
  });
  expect(`${status} ${stderr}`).toMatch(/^0 (Building …)?\s*$/);
};
const builds = (): string => readFileSync(path.join(root, "builds"), "utf8").trim();

describe("what was built", () => {
  it("is built once, and again where a source is newer", () => {
    need("all");
    need("all");
    expect(builds()).toBe("all");
    const later = new Date(Date.now() + 60_000);
    utimesSync(path.join(root, "core/src/one.ts"), later, later);
    need("all");
    expect(builds()).toBe("all all");
  });

  it.each(["server/dist/start.mjs", "server/dist/worker.mjs", "server/dist", "web/dist"])(
    "is built again where %s is gone",
    (gone) => {
      need("all");
      rmSync(path.join(root, gone), { recursive: true });
      need("all");
      expect(builds()).toBe("all all");
    },
  );

  it("of bin/assess alone is built again where it is gone", () => {
    need("assess");
    need("assess");
    rmSync(path.join(root, "server/dist/assess.cjs"));
    need("assess");
    expect(builds()).toBe("assess assess");
  });
});
