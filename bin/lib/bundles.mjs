// The programs of the server, one file each, as both the build and `npm run dev` make them.
import path from "node:path";
import { fileURLToPath } from "node:url";

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");

export const PROGRAMS = {
  assess: "server/src/cli/assess.ts",
  start: "server/src/start.ts",
  data: "server/src/cli/data.ts",
  worker: "server/src/archive/worker.ts",
};

/** What Rolldown is told of a program. */
export const optionsOf = (name) => ({
  input: path.join(root, PROGRAMS[name]),
  platform: "node",
  // Native code, and what is read only where phones are wanted, stays where npm put it.
  external: [/^node:/, "pg-native", /^@node-rs\//, /^@peculiar\//, "reflect-metadata", "multicast-dns"],
  moduleTypes: { ".sql": "text" },
  resolve: { mainFields: ["module", "main"] },
  logLevel: "warn",
  output: {
    dir: path.join(root, "server/dist"),
    // A snapshot is made of a program in one file of the older kind.
    entryFileNames: name === "assess" ? "assess.cjs" : `${name}.mjs`,
    chunkFileNames: `${name}-[name].mjs`,
    format: name === "assess" ? "cjs" : "esm",
    minify: name === "assess",
  },
});

export const pages = {
  configFile: path.join(root, "web/vite.config.ts"),
  root: path.join(root, "web"),
  logLevel: "warn",
};
