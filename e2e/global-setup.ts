import { startApplication } from "./application";

/** Starts the built application on a throw-away cluster for all browser tests, unless STILLPINE_URL names one that runs. */
export default async function globalSetup(): Promise<(() => Promise<void>) | undefined> {
  if (process.env["STILLPINE_URL"]) return undefined;
  const application = await startApplication();
  process.env["STILLPINE_URL"] = application.url;
  return application.stop;
}
