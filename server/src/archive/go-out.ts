import type { HorseId } from "@still-pine/core/record";
import { createWriteStream } from "node:fs";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Pool, PoolClient } from "pg";
import type { LedgerFilter } from "@still-pine/contract/http";
import { ledgerPieces } from "../csv/ledger-csv";
import { inSnapshot, type Db } from "../db/pool";
import { Refusal } from "../refusals/refusal";
import { recordPieces } from "../store/export";
import { hasMoreEvents } from "../store/events";
import { findHorse } from "../store/horses";
import { loadYard, type Yard } from "../store/yard";
import { horseArchive, yardArchive } from "./write";

/** What goes out: a horse's record or archive, the yard's archive, or its ledger. */
export type Outgoing =
  { what: "record" | "archive"; horse: HorseId } | { what: "yard" } | { what: "ledger"; filter: LedgerFilter };

/** What goes out and the file it is to lie in first. Plain data: it may be made in another thread. */
export interface LayDown {
  kind: "out";
  outgoing: Outgoing;
  file: string;
}

/** More entries than this are read elsewhere than in the thread that answers: each thousand takes it some hundredths of a second. */
const HERE_MOST_EVENTS = 4000;

/** Whether it is so much that others would wait for it. */
export async function isMuch(db: Db, yard: Yard, outgoing: Outgoing): Promise<boolean> {
  const horse = "horse" in outgoing ? outgoing.horse : null;
  return hasMoreEvents(db, yard.id, horse, HERE_MOST_EVENTS);
}

/** Its bytes, piece by piece. Run it in one transaction that sees one moment, until the last piece. */
export async function piecesOf(
  client: PoolClient,
  yard: Yard,
  outgoing: Outgoing,
): Promise<AsyncIterable<string | Buffer>> {
  if (outgoing.what === "yard") return yardArchive(client, yard);
  if (outgoing.what === "ledger") return ledgerPieces(client, yard.id, outgoing.filter);
  const horse = await findHorse(client, yard.id, outgoing.horse);
  if (!horse) throw new Refusal("not-there", "Not found", "There is no such horse in this yard.");
  return outgoing.what === "record" ? recordPieces(client, yard, horse) : horseArchive(client, yard, horse);
}

/** Writes all of it into its file. */
export async function layDown(db: Pool, { outgoing, file }: LayDown): Promise<void> {
  await inSnapshot(db, async (client) => {
    const yard = await loadYard(client);
    if (!yard) throw new Refusal("busy", "No yard", "The database holds no yard yet. Start Still Pine with bin/start.");
    const pieces = await piecesOf(client, yard, outgoing);
    await pipeline(Readable.from(pieces), createWriteStream(file, { mode: 0o600 }));
  });
}
