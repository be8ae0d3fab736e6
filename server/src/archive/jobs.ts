import { createReadStream } from "node:fs";
import { readFile, stat } from "node:fs/promises";
import type { Pool, PoolClient } from "pg";
import type { CsvResult, ImportResult, Preview } from "@still-pine/contract/http";
import { bringInCsv } from "../csv/bring-in";
import { inTransaction } from "../db/pool";
import { Refusal } from "../refusals/refusal";
import { holdYard, loadYard, type Hold } from "../store/yard";
import { NeedsYardAlone } from "./along";
import { bringInArchive, bringInRecord } from "./bring-in";
import { openArchive } from "./read";
import { readRecord } from "./record-file";
import { YARD_FILE } from "./yard-file";

/** A file that came in and lies in the temporary folder, and what is to be done with it. Plain data: it may be done in another thread. */
export interface Job extends Preview {
  kind: "record" | "archive" | "csv";
  file: string;
  now: string;
}

export type ResultOf<One extends Job> = One["kind"] extends "csv" ? CsvResult : ImportResult;
export type JobResult = ImportResult | CsvResult;

/** Does a job: reads the file and stores what it holds, or only says what would happen. */
export async function doJob<One extends Job>(db: Pool, job: One): Promise<ResultOf<One>>;
export async function doJob(db: Pool, job: Job): Promise<JobResult> {
  const yard = await loadYard(db);
  if (!yard) throw new Refusal("busy", "No yard", "The database holds no yard yet. Start Still Pine with bin/start.");
  const { now } = job;
  const isPreview = job.preview === "1";
  switch (job.kind) {
    case "csv": {
      const text = await readFile(job.file, "utf8");
      const work = async (client: PoolClient) => bringInCsv(client, await holdYard(client, yard), text, now);
      return { preview: isPreview, ...(await tryOrDo(db, isPreview, work)) };
    }
    case "record": {
      const { size } = await stat(job.file);
      const read = await readRecord({ bytes: size, open: () => createReadStream(job.file) }, yard.book, now);
      try {
        return await together((how) =>
          bringIn(db, job, async (client) => {
            const held = await holdYard(client, yard, how);
            const { home: _home, ...brought } = await bringInRecord(client, held, read, { now, isPreview, how });
            return brought;
          }),
        );
      } finally {
        await read.close();
      }
    }
    case "archive": {
      const archive = await openArchive(job.file);
      const within = (how: Hold): Promise<ImportResult> =>
        bringIn(db, job, async (client) =>
          bringInArchive(client, await holdYard(client, yard, how), archive, { now, isPreview, how }),
        );
      try {
        // The settings of an empty yard are changed too.
        return await (archive.names.includes(YARD_FILE) ? within("alone") : together(within));
      } finally {
        archive.close();
      }
    }
    default:
      return job.kind satisfies never;
  }
}

/** Does it beside others who write; where a program that is new here comes along it is done anew, alone. */
async function together<Result>(work: (how: Hold) => Promise<Result>): Promise<Result> {
  try {
    return await work("together");
  } catch (cause) {
    if (!(cause instanceof NeedsYardAlone)) throw cause;
    return work("alone");
  }
}

async function bringIn(
  db: Pool,
  { preview, conflicts }: Preview,
  work: (client: PoolClient) => Promise<Omit<ImportResult, "preview">>,
): Promise<ImportResult> {
  const result = await tryOrDo(db, preview === "1", async (client) => {
    const brought = await work(client);
    const found = brought.horses.flatMap((horse) => horse.conflicts);
    if (found.length > 0 && conflicts !== "leave" && preview !== "1")
      throw new Refusal(
        "conflict",
        "In conflict",
        "Some of it is already there with other content; nothing was changed.",
        { errors: found },
      );
    return brought;
  });
  return { preview: preview === "1", ...result };
}

/** Does it, or does it and takes it back: a preview can then say nothing that does not happen. */
async function tryOrDo<Result>(
  db: Pool,
  preview: boolean,
  work: (client: PoolClient) => Promise<Result>,
): Promise<Result> {
  const done: { result?: Result } = {};
  try {
    await inTransaction(db, async (client) => {
      done.result = await work(client);
      if (preview) throw new TakenBack();
    });
  } catch (cause) {
    if (!(cause instanceof TakenBack) || !("result" in done)) throw cause;
  }
  return done.result as Result;
}

class TakenBack extends Error {}
