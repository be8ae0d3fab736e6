// Builds what the commands run: the server programs as one file each, and the web application. `build.mjs assess` builds that one alone.
import { spawnSync } from "node:child_process";
import { renameSync, rmSync } from "node:fs";
import path from "node:path";
import { rolldown } from "rolldown";
import { optionsOf, pages, PROGRAMS, root } from "./bundles.mjs";

const only = process.argv[2];

/**
 * The assess program as it is when it has been loaded, so that the command begins with its work. The snapshot is of this Node and
 * no other; bin/assess takes the program itself where there is none that fits.
 */
function snapshot() {
  const { dir, entryFileNames } = optionsOf("assess").output;
  const blob = path.join(dir, "assess.blob");
  const made = `${blob}.new`;
  rmSync(blob, { force: true });
  const { status } = spawnSync(
    process.execPath,
    ["--snapshot-blob", made, "--build-snapshot", path.join(dir, entryFileNames)],
    { stdio: "ignore", env: { ...process.env, NODE_OPTIONS: "", SAMPLE: path.join(root, "docs/example-record.json") } },
  );
  if (status === 0) renameSync(made, blob);
  else rmSync(made, { force: true });
}

for (const name of Object.keys(PROGRAMS)) {
  if (only && only !== name) continue;
  const { output, ...input } = optionsOf(name);
  const build = await rolldown(input);
  await build.write(output);
  await build.close();
  if (name === "assess") snapshot();
}
if (!only) {
  const { build } = await import("vite");
  await build(pages);
}
