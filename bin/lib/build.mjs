// Builds what the commands run: the server programs as one file each, and the web application.
import { rolldown } from "rolldown";
import { fileURLToPath } from "node:url";
import { existsSync } from "node:fs";
import path from "node:path";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const only = process.argv[2];

async function bundle(name, input) {
  const build = await rolldown({
    input: path.join(root, input),
    platform: "node",
    // Native code, and what is read only where phones are wanted, stays where npm put it.
    external: [/^node:/, "pg-native", /^@node-rs\//, /^@peculiar\//, "reflect-metadata", "multicast-dns"],
    moduleTypes: { ".sql": "text" },
    resolve: { mainFields: ["module", "main"] },
    logLevel: "warn",
  });
  await build.write({
    dir: path.join(root, "server/dist"),
    entryFileNames: `${name}.mjs`,
    chunkFileNames: `${name}-[name].mjs`,
    format: "esm",
    minify: name === "assess",
  });
  await build.close();
}

if (!only || only === "assess") await bundle("assess", "server/src/cli/assess.ts");
if (!only && existsSync(path.join(root, "server/src/start.ts"))) await bundle("start", "server/src/start.ts");
if (!only) await bundle("data", "server/src/cli/data.ts");
if (!only) await bundle("worker", "server/src/archive/worker.ts");
if (!only && existsSync(path.join(root, "web/index.html"))) {
  const { build } = await import("vite");
  await build({ configFile: path.join(root, "web/vite.config.ts"), root: path.join(root, "web"), logLevel: "warn" });
}
