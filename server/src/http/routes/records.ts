import { createWriteStream } from "node:fs";
import { rm } from "node:fs/promises";
import path from "node:path";
import type { Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { createBrotliDecompress, createGunzip, createInflate } from "node:zlib";
import { Router, type Request, type Response } from "express";
import { ENDPOINTS } from "@still-pine/contract/http";
import { RECORD_MOST_BYTES } from "@still-pine/contract/record";
import type { JobResult } from "../../archive/jobs";
import { ARCHIVE_MOST_BYTES, RATIO_FROM_BYTES, RATIO_MOST } from "../../archive/read";
import { CSV_MOST_BYTES } from "../../csv/bring-in";
import { temporaryFolder } from "../../process/temporary";
import { findHorse } from "../../store/horses";
import type { Context } from "../context";
import { atMost } from "../guard";
import { laidDown } from "../laid-down";
import { HttpProblem, notFound } from "../problems";
import { serve, serveRaw } from "../serve";

/** What comes in and brings horses along. */
const COMING_IN = [
  {
    declared: ENDPOINTS.bringInRecord,
    kind: "record",
    most: RECORD_MOST_BYTES,
    types: ["application/json", "text/plain"],
    expected: "a horse record as application/json",
  },
  {
    declared: ENDPOINTS.bringInArchive,
    kind: "archive",
    most: ARCHIVE_MOST_BYTES,
    types: ["application/zip", "application/octet-stream"],
    expected: "an archive as application/zip",
  },
] as const;

/** Records, archives and CSV: the yard's record out and in. */
export function recordRoutes(context: Context): Router {
  const { heavy: db, bringIn, now, yard } = context;
  const router = Router();

  for (const [declared, what] of [
    [ENDPOINTS.record, "record"],
    [ENDPOINTS.horseArchive, "archive"],
  ] as const)
    serveRaw(router, declared, async ({ params, response }) => {
      const horse = await findHorse(db, (await yard()).id, params.horse);
      if (!horse) throw notFound("horse");
      const name = fileNameFor(horse.name);
      if (what === "record") offer(response, "application/json; charset=utf-8", `${name}-record.json`);
      else offer(response, "application/zip", `${name}.zip`);
      await laidDown(context, response, { what, horse: horse.id });
    });

  serveRaw(router, ENDPOINTS.yardArchive, async ({ response }) => {
    offer(response, "application/zip", `${fileNameFor((await yard()).name)}.zip`);
    await laidDown(context, response, { what: "yard" });
  });

  for (const { declared, kind, most, types, expected } of COMING_IN)
    serve(
      router,
      declared,
      async ({ query: how, request, response }) => {
        expectType(request, types, expected);
        return answered(response, await taken(request, most, (file) => bringIn({ kind, file, now: now(), ...how })));
      },
      atMost(most),
    );

  serve(
    router,
    ENDPOINTS.bringInCsv,
    async ({ query: how, request }) => {
      expectType(request, ["text/csv", "text/plain"], "a CSV as text/csv");
      return taken(request, CSV_MOST_BYTES, (file) => bringIn({ kind: "csv", file, now: now(), ...how }));
    },
    atMost(CSV_MOST_BYTES),
  );

  return router;
}

function answered<Result extends JobResult>(response: Response, result: Result): Result {
  const isNew = !result.preview && "horses" in result && result.horses.some((horse) => horse.isNew);
  response.status(isNew ? 201 : 200);
  return result;
}

function expectType(request: Request, types: readonly string[], expected: string): void {
  if (!request.is([...types])) throw new HttpProblem(415, "Not taken", `Expected ${expected}.`);
}

/** Lays down what comes in, as it comes, and has it read from there; afterwards it is gone. */
async function taken<Result>(request: Request, most: number, read: (file: string) => Promise<Result>): Promise<Result> {
  const folder = await temporaryFolder();
  try {
    const file = path.join(folder, "came-in");
    const packed = { bytes: 0 };
    const unpack = unpackerOf(request.headers["content-encoding"]);
    const into = createWriteStream(file, { mode: 0o600 });
    if (unpack)
      await pipeline(request, counting(packed), unpack, atMostBytes(most, packed), into).catch((cause: unknown) => {
        throw DAMAGED.test((cause as { code?: string }).code ?? "")
          ? new HttpProblem(
              400,
              "Bad input",
              "What was sent cannot be unpacked: it is cut off or damaged.",
              {},
              { cause },
            )
          : cause;
      });
    else await pipeline(request, atMostBytes(most), into);
    return await read(file);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
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

/** What zlib and Brotli say of what they cannot unpack. */
const DAMAGED = /^(Z_|ERR__ERROR_|ERR_BROTLI_)/;

/** What takes apart what came packed; null where it did not. */
function unpackerOf(encoding: string | undefined): Transform | null {
  switch (encoding?.trim().toLowerCase() ?? "identity") {
    case "identity":
      return null;
    case "gzip":
      return createGunzip();
    case "deflate":
      return createInflate();
    case "br":
      return createBrotliDecompress();
    default:
      throw new HttpProblem(415, "Not taken", "Expected it unpacked, or as gzip, deflate or br.");
  }
}

function counting(packed: { bytes: number }) {
  return async function* (source: AsyncIterable<Buffer>) {
    for await (const piece of source) {
      packed.bytes += piece.length;
      yield piece;
    }
  };
}

/** Counts what really comes, whatever was announced. @param packed as it came, where it was packed: what bursts is refused */
function atMostBytes(most: number, packed?: { bytes: number }) {
  return async function* (source: AsyncIterable<Buffer>) {
    let bytes = 0;
    for await (const piece of source) {
      bytes += piece.length;
      if (packed && bytes > RATIO_FROM_BYTES && bytes > packed.bytes * RATIO_MOST)
        throw new HttpProblem(422, "Not taken", `What was sent unpacks to more than ${RATIO_MOST} times its size.`);
      if (bytes > most)
        throw new HttpProblem(413, "Too large", `This is larger than the ${most / 1024 ** 2} MB that are taken here.`);
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
