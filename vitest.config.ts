import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,contract,server,web,bench}/**/*.test.{ts,tsx}"],
    reporters: process.env["UNIT_REPORT"] ? ["default", ["json", { outputFile: process.env["UNIT_REPORT"] }]] : ["default"],
    testTimeout: 20_000,
    hookTimeout: 60_000,
  },
});
