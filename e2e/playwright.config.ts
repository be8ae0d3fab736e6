import { defineConfig } from "@playwright/test";

export const flags = [
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--lang=en-US",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  // A microphone that hums, and nobody who has to allow it.
  "--use-fake-device-for-media-stream",
  "--use-fake-ui-for-media-stream",
];

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
  workers: 2,
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
    launchOptions: {
      executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium",
      // Chromium's own sandbox does not work for root.
      args: process.getuid?.() === 0 ? [...flags, "--no-sandbox"] : flags,
    },
  },
});
