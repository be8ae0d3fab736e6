import express, { Router } from "express";
import type { Pool, PoolClient } from "pg";
import {
  parseRecord,
  recordToText,
  RECORD_MOST_BYTES,
  PROBLEMS_SHOWN,
  type InputWarning,
} from "@still-pine/contract/record";
import type { ImportResult } from "@still-pine/contract/http";
import type { HorseRecord } from "@still-pine/core/record";
import { jsonMistake } from "../../cli/json-mistake";
import { inTransaction } from "../../db/pool";
import { eventsOfHorse } from "../../store/events";
import { findHorse, insertHorse } from "../../store/horses";
import { loadLabels } from "../../store/labels";
import { extraOf, toEvents, toRecord } from "../../store/record";
import { take } from "../../store/take-events";
import type { Yard } from "../../store/yard";
import type { Context } from "../app";
import { atMost } from "../guard";
import { HttpProblem, notFound } from "../problems";

/** The open record of one horse, out and in. */
export function recordRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  router.get("/horses/:horse/record", async (request, response) => {
    const home = await yard();
    const record = await loadRecord(db, home, request.params.horse);
    if (!record) throw notFound("horse");
    response
      .type("application/json")
      .set(
        "Content-Disposition",
        `attachment; filename="horse-record.json"; filename*=UTF-8''${encodeURIComponent(fileNameFor(record.horse.name))}`,
      )
      .send(recordToText(record));
  });

  router.post(
    "/records",
    atMost(RECORD_MOST_BYTES),
    express.text({ type: ["application/json", "text/plain"], limit: RECORD_MOST_BYTES }),
    async (request, response) => {
      const text = typeof request.body === "string" ? request.body : "";
      const parsed = parseRecord(parseJson(text), now());
      if (!parsed.ok)
        throw new HttpProblem(422, "Not a horse record", "The file cannot be read as a horse record.", {
          errors: parsed.problems.slice(0, PROBLEMS_SHOWN),
        });
      const home = await yard();
      const result = await inTransaction(db, (client) => storeRecord(client, home, parsed.record));
      const zone = parsed.record.yard.timeZone;
      const warnings: InputWarning[] =
        zone === home.timeZone
          ? parsed.warnings
          : [
              ...parsed.warnings,
              {
                code: "other-time-zone",
                text: `the record counts its days in ${zone}; this yard counts in ${home.timeZone}`,
              },
            ];
      const answer: ImportResult = { ...result, warnings };
      response.status(result.isNew ? 201 : 200).json(answer);
    },
  );

  return router;
}

/** One horse's record as it is exported; null when the yard has no such horse. */
async function loadRecord(db: Pool, home: Yard, id: string): Promise<HorseRecord | null> {
  const horse = await findHorse(db, home.id, id);
  if (!horse) return null;
  const [events, labels] = await Promise.all([eventsOfHorse(db, home.id, id), loadLabels(db, home.id)]);
  return toRecord(home, horse, events, labels);
}

/** Stores a record as a new horse, or adds what is new to the horse it belongs to. All of it, or nothing. */
export async function storeRecord(
  client: PoolClient,
  home: Yard,
  record: HorseRecord,
): Promise<Omit<ImportResult, "warnings">> {
  const { horse } = record;
  const isNew = await insertHorse(client, home.id, horse, record.program.id, extraOf(record));
  const events = toEvents(record).map(({ outing, event }) => ({ horse: horse.id, outing, event }));
  const results = await take(client, home.id, events);
  const refused = results.filter((one) => one.result === "refused");
  if (refused.length > 0)
    throw new HttpProblem(
      409,
      "In conflict",
      "Some of the record is already there with other content; nothing was changed.",
      { errors: refused.flatMap((one) => one.why ?? []).slice(0, PROBLEMS_SHOWN) },
    );
  const stored = results.filter((one) => one.result === "stored").length;
  return { horse: horse.id, isNew, stored, alreadyThere: results.length - stored };
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (cause) {
    throw new HttpProblem(400, "Bad input", `The file is not JSON: ${jsonMistake(text)}`, {}, { cause });
  }
}

function fileNameFor(name: string): string {
  return `${
    name
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .replace(/^-|-$/g, "")
      .toLowerCase() || "horse"
  }-record.json`;
}
