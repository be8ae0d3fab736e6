import { readFileSync } from "node:fs";
import { defineConfig, type Plugin } from "vitest/config";

/** SQL files are text, as in the built server. */
const sqlAsText: Plugin = {
  name: "sql-as-text",
  enforce: "pre",
  load: (id) => (id.endsWith(".sql") ? `export default ${JSON.stringify(readFileSync(id, "utf8"))}` : null),
};

/** Whoever tries thousands of cases needs its time, on a busy machine several times as much. */
const SLOW = [
  "core/src/checkup/order.test.ts",
  "core/src/outing/{coach,merge}.test.ts",
  "core/src/readiness/{one-classifier,properties}.test.ts",
  "core/src/simulated/*.test.ts",
  "e2e/answers.test.ts",
  "server/src/archive/*.test.ts",
  "server/src/goldens/*.test.ts",
  "server/src/http/{busy,doors,nonsense,records,routes}.test.ts",
  "server/src/read-models/*.test.ts",
  "server/src/{recording,store}/*.test.ts",
];

/** A page's own store and a server's certificates belong to one process: these files have one each. */
const APART = ["web/**/*.test.{ts,tsx}", "server/src/{live,phones}/**/*.test.ts"];

// Elsewhere nothing is kept from one file to the next, so that all of a worker share what they load.
const globalSetup = "server/src/testing/one-cluster.ts";
const setupFiles = "vitest.draws.ts";
// What is waited for may come late on a busy machine.
const patient = { poll: { timeout: 30_000 } };
const quick = { globalSetup, expect: patient, testTimeout: 90_000, hookTimeout: 90_000 };

export default defineConfig({
  test: {
    reporters: process.env["UNIT_REPORT"]
      ? ["default", ["json", { outputFile: process.env["UNIT_REPORT"] }]]
      : ["default"],
    maxWorkers: 2,
    projects: [
      {
        plugins: [sqlAsText],
        test: {
          ...quick,
          setupFiles,
          name: "quick",
          isolate: false,
          include: ["{core,contract,server,bench}/**/*.test.ts"],
          exclude: ["**/node_modules/**", ...SLOW, ...APART],
        },
      },
      { plugins: [sqlAsText], test: { ...quick, name: "apart", include: APART } },
      {
        plugins: [sqlAsText],
        test: {
          globalSetup,
          setupFiles,
          expect: patient,
          name: "slow",
          isolate: false,
          include: SLOW,
          testTimeout: 400_000,
          hookTimeout: 400_000,
        },
      },
    ],
  },
});
