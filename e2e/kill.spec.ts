import { expect, test } from "@playwright/test";
import { killHarness } from "./kill";

/** bin/bench runs a thousand. */
const KILLS = Number(process.env["KILLS"] ?? 30);
const SEED = Number(process.env["KILL_SEED"] ?? 20261124);

test(`whatever is killed, ${KILLS} times: what was acknowledged is there exactly once`, async () => {
  test.setTimeout(120_000 + KILLS * 6000);
  const report = await killHarness(KILLS, SEED);
  const { kills, acknowledged, sentAgain, retries, ...wrong } = report;
  process.stdout.write(`seed ${SEED}: ${JSON.stringify({ kills, acknowledged, sentAgain, retries })}\n`);
  expect(kills.program + kills.database + kills.both).toBe(KILLS);
  expect(acknowledged).toBeGreaterThan(KILLS);
  expect(retries).toBeGreaterThan(0);
  expect(wrong).toEqual({ lost: [], twice: [], otherAfterRebuild: [] });
});
