// Builds what the commands run: the server programs as one file each, and the web application. `build.mjs assess` builds that one alone.
import { rolldown } from "rolldown";
import { optionsOf, pages, PROGRAMS } from "./bundles.mjs";

const only = process.argv[2];

for (const name of Object.keys(PROGRAMS)) {
  if (only && only !== name) continue;
  const { output, ...input } = optionsOf(name);
  const build = await rolldown(input);
  await build.write(output);
  await build.close();
}
if (!only) {
  const { build } = await import("vite");
  await build(pages);
}
