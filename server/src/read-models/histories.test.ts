import { describe, expect, it } from "vitest";
import { parseRecord } from "@still-pine/contract/record";
import { loosePenStart, SHIPPED } from "@still-pine/core/programs";
import { foldHorse, isInWork, type Judgement } from "@still-pine/core/readiness";
import { dayIn, foldRecord } from "@still-pine/core/record";
import { assessRecord } from "../cli/assess-record";
import { inSnapshot, inTransaction } from "../db/pool";
import { eventsOfHorse } from "../store/events";
import { recordPieces } from "../store/export";
import { findHorse } from "../store/horses";
import { loadLabels } from "../store/labels";
import { toRecord } from "../store/record";
import { cameWith } from "../store/horses";
import { takeEvents, type Offered } from "../recording/take-events";
import { historyOf } from "../testing/histories";
import { readModelsAsText } from "../testing/read-models";
import { inFlight } from "../testing/in-flight";
import { yardsForTests, type TestYard } from "../testing/throw-away";
import { standingOf } from "../views/stored-yard";
import { gatherHorse } from "./gather-horse";
import { addHorse, rebuildHorses } from "./rebuild";

/** A few here; `bin/bench histories` runs ten thousand. */
const RUNS = Number(process.env["HISTORIES"] ?? 10);
const SEED = Number(process.env["HISTORIES_SEED"] ?? 1);
const NOW = "2026-06-10T12:00:00.000Z";
/** So many lie in one yard. */
const IN_A_YARD = 250;
const { another } = yardsForTests(NOW, 0);

const withoutEvidence = (steps: readonly Judgement[]): unknown =>
  JSON.parse(
    JSON.stringify(steps.map((one) => ({ ...one, findings: one.findings.map((each) => ({ ...each, evidence: [] })) }))),
  );

/** A horse's record as it goes out. */
async function exported(home: TestYard, id: string): Promise<string> {
  return inSnapshot(home.db, async (client) => {
    const horse = await findHorse(client, home.yard.id, id);
    if (!horse) throw new Error("no horse");
    let text = "";
    for await (const piece of recordPieces(client, home.yard, horse)) text += piece;
    return text;
  });
}

/** Whether a horse gathered an outing or two at a time is the horse gathered at once, as its stored state is not asked for. */
async function isGatheredAlikeInPieces(home: TestYard, id: string): Promise<boolean> {
  const horse = await findHorse(home.db, home.yard.id, id);
  if (!horse) throw new Error("no horse");
  const record = toRecord(home.yard, horse, await eventsOfHorse(home.db, home.yard.id, id));
  const folded = foldRecord(record);
  const whole = foldHorse(folded, cameWith(horse), isInWork(folded.ofHorse), SHIPPED);
  const { fold, open } = await gatherHorse(home.db, home.yard, horse, undefined, 12);
  const text = (value: unknown): string => JSON.stringify(value);
  return text(fold) === text(whole) && text(open) === text(folded.outings.at(-1) ?? null);
}

const isOf =
  (ids: ReadonlySet<string>) =>
  ({ event }: Offered): boolean =>
    ids.has(String((event as { id?: unknown }).id));

/** Sends a history and tells what of it does not hold; nothing where all does. */
async function wrongIn(home: TestYard, seed: number): Promise<string[]> {
  const wrong: string[] = [];
  const { horses, batches } = historyOf(seed, `s${seed}`);
  for (const id of horses)
    await inTransaction(home.db, (client) =>
      addHorse(
        client,
        home.yard,
        { id, name: id, foaled: "2022-01-01", foaledPrecision: "year", sex: "mare" },
        // Half of them were here before the second edition of the catalogue.
        { id: loosePenStart.id, version: loosePenStart.version - (seed % 2) },
        NOW,
      ),
    );
  const taken = new Set<string>();
  for (const batch of batches)
    for (const { id, result } of (await takeEvents(home.db, home.yard, batch, NOW)).results)
      if (result !== "refused") taken.add(id);
  // A phone whose answer was lost sends again what was taken.
  for (const batch of batches)
    for (const { id, result } of (await takeEvents(home.db, home.yard, batch.filter(isOf(taken)), NOW)).results)
      if (result !== "already there") wrong.push(`seed ${seed}, ${id}: ${result} when it is sent again`);
  const labels = await loadLabels(home.db, home.yard.id);
  // Stored verdicts name people and places by id, a record by label.
  const named = (value: unknown): string =>
    [...labels.place, ...labels.person].reduce(
      (text, [id, label]) => text.replaceAll(id, label),
      JSON.stringify(value),
    );
  for (const id of horses) {
    const stored = await readModelsAsText(home.db, id);
    const horse = await findHorse(home.db, home.yard.id, id);
    const standing = horse && (await standingOf(home.db, home.yard, horse, dayIn(home.yard.timeZone, NOW)));
    await rebuildHorses(home.db, home.yard, [id], NOW);
    if (JSON.stringify(await readModelsAsText(home.db, id)) !== JSON.stringify(stored))
      wrong.push(`seed ${seed}, ${id}: a rebuild gives something else`);
    if (!(await isGatheredAlikeInPieces(home, id))) wrong.push(`seed ${seed}, ${id}: gathered in pieces it is another`);
    const parsed = parseRecord(JSON.parse(await exported(home, id)), NOW);
    if (!parsed.ok) {
      wrong.push(`seed ${seed}, ${id}: what goes out does not come in: ${JSON.stringify(parsed.problems)}`);
      continue;
    }
    const { steps, gates } = assessRecord(parsed.record, NOW).assessment;
    if (JSON.stringify(withoutEvidence(steps)) !== named(standing?.judgements))
      wrong.push(`seed ${seed}, ${id}: bin/assess says something else of the steps`);
    if (JSON.stringify(gates) !== named(standing?.gates))
      wrong.push(`seed ${seed}, ${id}: bin/assess says something else of the gates`);
  }
  return wrong;
}

describe("after any history", () => {
  it(
    "what is stored is what a rebuild gives, and what bin/assess says of the export",
    { timeout: 90_000 + RUNS * 5000 },
    async () => {
      const wrong: string[] = [];
      for (let from = SEED; from < SEED + RUNS; from += IN_A_YARD) {
        const home = await another();
        const count = Math.min(IN_A_YARD, SEED + RUNS - from);
        wrong.push(...(await inFlight(4, count, (index) => wrongIn(home, from + index))).flat());
        await home.close();
      }
      console.log(`${RUNS} histories from seed ${SEED}, ${wrong.length} wrong`);
      expect(wrong).toEqual([]);
    },
  );
});
