import { createWriteStream } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import express, { Router, type Request, type Response } from "express";
import type { PoolClient } from "pg";
import { previewSchema, type ImportResult, type Preview } from "@still-pine/contract/http";
import { RECORD_MOST_BYTES } from "@still-pine/contract/record";
import { forgetProgram, type ProgramFile } from "@still-pine/core/programs";
import { bringInArchive, bringInRecord, readRecord } from "../../archive/bring-in";
import { ARCHIVE_MOST_BYTES, openArchive } from "../../archive/read";
import { horseArchive, yardArchive } from "../../archive/write";
import { bringInCsv, CSV_MOST_BYTES } from "../../csv/bring-in";
import { inSnapshot, inTransaction } from "../../db/pool";
import { recordPieces } from "../../store/export";
import { findHorse } from "../../store/horses";
import type { Context } from "../app";
import { atMost } from "../guard";
import { HttpProblem, notFound, parseBody } from "../problems";
import { sendPieces } from "../stream";

/** Records, archives and CSV: the yard's record out and in. */
export function recordRoutes({ db, now, yard }: Context): Router {
  const router = Router();

  router.get("/horses/:horse/record", async (request, response) => {
    const home = await yard();
    await inSnapshot(db, async (client) => {
      const horse = await findHorse(client, home.id, request.params.horse);
      if (!horse) throw notFound("horse");
      offer(response, "application/json; charset=utf-8", `${fileNameFor(horse.name)}-record.json`);
      await sendPieces(recordPieces(client, home, horse), response);
    });
  });

  router.get("/horses/:horse/archive", async (request, response) => {
    const home = await yard();
    await inSnapshot(db, async (client) => {
      const horse = await findHorse(client, home.id, request.params.horse);
      if (!horse) throw notFound("horse");
      offer(response, "application/zip", `${fileNameFor(horse.name)}.zip`);
      await sendPieces(await horseArchive(client, home, horse), response);
    });
  });

  router.get("/archive", async (_request, response) => {
    const home = await yard();
    await inSnapshot(db, async (client) => {
      offer(response, "application/zip", `${fileNameFor(home.name)}.zip`);
      await sendPieces(await yardArchive(client, home), response);
    });
  });

  router.post(
    "/records",
    atMost(RECORD_MOST_BYTES),
    express.text({ type: ["application/json", "text/plain"], limit: RECORD_MOST_BYTES }),
    async (request, response) => {
      const how = parseBody(previewSchema, request.query);
      const home = await yard();
      const read = readRecord(textOf(request, "a horse record as application/json"), now());
      answer(response, await bringIn(how, (client, kept) => bringInRecord(client, home, read, now(), kept)));
    },
  );

  router.post("/archives", atMost(ARCHIVE_MOST_BYTES), async (request, response) => {
    const how = parseBody(previewSchema, request.query);
    if (!request.is(["application/zip", "application/octet-stream"]))
      throw new HttpProblem(415, "Not taken", "Expected an archive as application/zip.");
    const home = await yard();
    const folder = await mkdtemp(path.join(tmpdir(), "still-pine-archive-"));
    try {
      const file = path.join(folder, "archive.zip");
      await pipeline(request, atMostBytes(ARCHIVE_MOST_BYTES), createWriteStream(file));
      const archive = await openArchive(file);
      try {
        answer(response, await bringIn(how, (client, kept) => bringInArchive(client, home, archive, now(), kept)));
      } finally {
        archive.close();
      }
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });

  router.post(
    "/csv",
    atMost(CSV_MOST_BYTES),
    express.text({ type: ["text/csv", "text/plain"], limit: CSV_MOST_BYTES }),
    async (request, response) => {
      const { preview } = parseBody(previewSchema.pick({ preview: true }), request.query);
      const home = await yard();
      const text = textOf(request, "a CSV as text/csv");
      const result = await tryOrDo(preview === "1", (client) => bringInCsv(client, home, text, now()));
      response.json({ preview: preview === "1", ...result });
    },
  );

  /** Does it, or does it and takes it back: a preview can then say nothing that does not happen. */
  async function tryOrDo<Result>(
    preview: boolean,
    work: (client: PoolClient, kept: ProgramFile[]) => Promise<Result>,
  ): Promise<Result> {
    const done: { result?: Result } = {};
    const kept: ProgramFile[] = [];
    try {
      await inTransaction(db, async (client) => {
        done.result = await work(client, kept);
        if (preview) throw new TakenBack();
      });
    } catch (cause) {
      kept.forEach(forgetProgram);
      if (!(cause instanceof TakenBack) || !("result" in done)) throw cause;
    }
    return done.result as Result;
  }

  async function bringIn(
    { preview, conflicts }: Preview,
    work: (client: PoolClient, kept: ProgramFile[]) => Promise<Omit<ImportResult, "preview">>,
  ): Promise<ImportResult> {
    const result = await tryOrDo(preview === "1", async (client, kept) => {
      const brought = await work(client, kept);
      const found = brought.horses.flatMap((horse) => horse.conflicts);
      if (found.length > 0 && conflicts !== "leave" && preview !== "1")
        throw new HttpProblem(
          409,
          "In conflict",
          "Some of it is already there with other content; nothing was changed.",
          { errors: found },
        );
      return brought;
    });
    return { preview: preview === "1", ...result };
  }

  return router;
}

class TakenBack extends Error {}

function answer(response: Response, result: ImportResult): void {
  const isNew = !result.preview && result.horses.some((horse) => horse.isNew);
  response.status(isNew ? 201 : 200).json(result);
}

function textOf(request: Request, expected: string): string {
  if (typeof request.body === "string") return request.body;
  throw new HttpProblem(415, "Not taken", `Expected ${expected}.`);
}

function offer(response: Response, type: string, name: string): void {
  response
    .type(type)
    // Written as it is read: to compress a record takes longer than to make it.
    .set("Cache-Control", "no-store, no-transform")
    .set(
      "Content-Disposition",
      `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, "_")}"; filename*=UTF-8''${encodeURIComponent(name)}`,
    );
}

/** Counts what really comes, whatever was announced. */
function atMostBytes(most: number) {
  return async function* (source: AsyncIterable<Buffer>) {
    let bytes = 0;
    for await (const piece of source) {
      bytes += piece.length;
      if (bytes > most)
        throw new HttpProblem(413, "Too large", `This is larger than the ${most / 1024 ** 3} GB that are taken here.`);
      yield piece;
    }
  };
}

function fileNameFor(name: string): string {
  return (
    name
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .replace(/^-|-$/g, "")
      .toLowerCase() || "horse"
  );
}
