import { recordToText } from "@still-pine/contract/record";
import { buildDemoYard } from "@still-pine/core/simulated";
import { call, type TestYard } from "./throw-away";

/** Brings the demo yard's horses in as they stand on the tenth of June 2026, under the same ids each time. @returns them as the string has them */
export async function bringInDemo({ url }: TestYard): Promise<{ id: string; name: string }[]> {
  let n = 0;
  for (const record of buildDemoYard("2026-06-10", (msecs) => `id-${msecs}-${(n += 1)}`))
    await call(`${url}/api/records`, "POST", recordToText(record));
  return (await call(`${url}/api/string`, "GET")).body.horses;
}
