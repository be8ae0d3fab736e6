import { expect, test } from "./test";
import { addHorse } from "./pages";
import { playAgainst } from "./devices";

/** A seeded tenth here; bin/bench plays all five hundred. */
const STORIES = Number(process.env["DEVICE_STORIES"] ?? 15);
const FIRST = Number(process.env["DEVICE_SEED"] ?? 1);

test(`${STORIES} stories of up to six devices against the server: one fold for all, nothing lost or doubled`, async ({
  page,
  baseURL,
}) => {
  test.setTimeout(60_000 + STORIES * 3000);
  const horse = await addHorse(page, "Zinnia");
  const wrong: string[] = [];
  for (let seed = FIRST; seed < FIRST + STORIES; seed += 1)
    wrong.push(...(await playAgainst(baseURL ?? "", horse, seed, 15 + (seed % 30))));
  expect(wrong).toEqual([]);
});
