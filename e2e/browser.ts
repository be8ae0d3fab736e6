import { existsSync } from "node:fs";

const HEADLESS = "/usr/bin/chromium-headless-shell";

/**
 * The browser of the tests: what CHROMIUM names, else Debian's Chromium without a window, which takes a third less work than the one
 * with a window, where it is installed.
 */
export const executablePath = process.env["CHROMIUM"] ?? (existsSync(HEADLESS) ? HEADLESS : "/usr/bin/chromium");

const base = [
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

/** Chromium's own sandbox does not work for root. */
export const flags = process.getuid?.() === 0 ? [...base, "--no-sandbox"] : base;
