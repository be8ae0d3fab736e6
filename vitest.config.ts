import { readFileSync } from "node:fs";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    {
      // SQL files are text, as in the built server.
      name: "sql-as-text",
      enforce: "pre",
      load: (id) => (id.endsWith(".sql") ? `export default ${JSON.stringify(readFileSync(id, "utf8"))}` : null),
    },
  ],
  test: {
    include: ["{core,contract,server,web,bench}/**/*.test.{ts,tsx}"],
    reporters: process.env["UNIT_REPORT"]
      ? ["default", ["json", { outputFile: process.env["UNIT_REPORT"] }]]
      : ["default"],
    testTimeout: 90_000,
    hookTimeout: 90_000,
    maxWorkers: 2,
    globalSetup: "server/src/testing/one-cluster.ts",
  },
});
