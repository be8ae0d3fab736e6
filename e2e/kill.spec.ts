import { expect, test } from "./test";
import { killHarness } from "./kill";
import { killedStarts } from "./kill-starts";

/** bin/bench runs two thousand. */
const KILLS = Number(process.env["KILLS"] ?? 7);
const STARTS = Number(process.env["START_KILLS"] ?? 4);
const SEED = Number(process.env["KILL_SEED"] ?? 20261124);

test(`whatever is killed, ${KILLS} times: what was acknowledged is there exactly once`, async () => {
  test.setTimeout(120_000 + KILLS * 6000);
  const report = await killHarness(KILLS, SEED);
  const { kills, lost, twice, otherAfterRebuild, otherWhenAssessed, wrongBeside, ...counts } = report;
  const { acknowledged, retries, files, programs, zones } = counts;
  process.stdout.write(`seed ${SEED}: ${JSON.stringify({ kills, ...counts })}\n`);
  expect(Object.values(kills).reduce((sum, count) => sum + count, 0)).toBe(KILLS);
  expect(Math.min(files, programs, zones)).toBeGreaterThan(0);
  expect(acknowledged).toBeGreaterThan(KILLS);
  expect(retries).toBeGreaterThan(0);
  expect({ lost, twice, otherAfterRebuild, otherWhenAssessed, wrongBeside }).toEqual({
    lost: [],
    twice: [],
    otherAfterRebuild: [],
    otherWhenAssessed: [],
    wrongBeside: [],
  });
});

test(`first starts and starts that carry an older yard, killed ${STARTS} times, are taken up by the next`, async () => {
  test.setTimeout(120_000 + STARTS * 30_000);
  const { killed, wrong, ...counts } = await killedStarts(STARTS, SEED);
  process.stdout.write(`starts, seed ${SEED}: ${JSON.stringify({ killed, ...counts })}\n`);
  expect(wrong).toEqual([]);
  // How many depends on how quick a start is; of these moments one at least is too early for any.
  expect(killed).toBeGreaterThan(0);
});
