import type { FullConfig } from "@playwright/test";
import { makeTemplates, startOnCopy, type Application } from "./application";

/**
 * Starts the built application for each worker, on a throw-away cluster of its own, unless STILLPINE_URL names one that runs:
 * what one file of tests leaves in its yard is in no other worker's way.
 */
export default async function globalSetup({ workers }: FullConfig): Promise<(() => Promise<void>) | undefined> {
  const takeAway = await makeTemplates();
  if (process.env["STILLPINE_URL"]) return async () => takeAway();
  const applications: Application[] = [];
  for (let worker = 0; worker < workers; worker += 1) applications.push(await startOnCopy("demo"));
  process.env["STILLPINE_URLS"] = applications.map(({ url }) => url).join(" ");
  return async () => {
    for (const application of applications) await application.stop();
    takeAway();
  };
}
