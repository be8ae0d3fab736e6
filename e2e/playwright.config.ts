import { defineConfig } from "@playwright/test";
import { executablePath, flags } from "./browser";

/** The application of a worker. */
function applicationOf(worker: number): string | undefined {
  return process.env["STILLPINE_URL"] ?? process.env["STILLPINE_URLS"]?.split(" ")[worker];
}

export default defineConfig({
  testDir: ".",
  testMatch: "*.spec.ts",
  // The most a busy machine may take for what is meant; a sound test ends long before.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  // Most of the time a browser waits; each worker has an application of its own.
  workers: 3,
  outputDir: "../.cache/e2e",
  reporter: process.env["E2E_REPORT"] ? [["list"], ["json", { outputFile: process.env["E2E_REPORT"] }]] : "list",
  globalSetup: "./global-setup.ts",
  use: {
    baseURL: applicationOf(Number(process.env["TEST_PARALLEL_INDEX"] ?? 0)),
    viewport: { width: 1280, height: 800 },
    timezoneId: "Europe/Dublin",
    locale: "en-IE",
    // Requests a test holds back would pass by it; alone.spec.ts lets the part in that opens pages without a network.
    serviceWorkers: "block",
    launchOptions: { executablePath, args: flags },
  },
});
