import express, { Router } from "express";
import { ENDPOINTS, mediaIdSchema } from "@still-pine/contract/http";
import { inTransaction } from "../../db/pool";
import { cleanedBytes, cleanedClip, type Cleaned } from "../../media/cleaned";
import { CLIP_MOST_BYTES, kindOf, PHOTO_MOST_BYTES, whyNotTaken, whyTooLarge, type MediaKind } from "../../media/kind";
import { strip } from "../../media/strip";
import { findHorse } from "../../store/horses";
import { horsesOfOutings } from "../../store/owners";
import {
  findMedia,
  insertMedia,
  insertThumbnail,
  mediaOfHorse,
  readPieces,
  readThumbnail,
  viewOf,
} from "../../store/media";
import type { Context } from "../context";
import { atMost } from "../guard";
import { HttpProblem, notFound, parseBody } from "../problems";
import { receive, type InFile } from "../receive";
import { serve, serveRaw } from "../serve";
import { sendPieces } from "../stream";

const THUMBNAIL_MOST_BYTES = 200 * 1024;
const KINDS = "a JPEG, PNG or WebP picture, an MP4 or QuickTime clip, or a WebM or M4A voice note";
/** Nothing in a photo or clip may run, whatever a browser makes of it. */
const INERT = "default-src 'none'; sandbox";

/** Photos and clips of a horse, in and out. */
export function mediaRoutes({ db, yard }: Context): Router {
  const router = Router();

  serve(router, ENDPOINTS.media, async ({ params: { horse } }) => {
    const { id } = await yard();
    if (!(await findHorse(db, id, horse))) throw notFound("horse");
    return (await mediaOfHorse(db, id, horse)).map(viewOf);
  });

  serve(
    router,
    ENDPOINTS.addMedia,
    async ({ params: { horse, media }, query: { outing }, request, response }) => {
      const id = parseBody(mediaIdSchema, media);
      const home = await yard();
      if (!(await findHorse(db, home.id, horse))) throw notFound("horse");
      const owner = outing === undefined ? undefined : (await horsesOfOutings(db, home.id, [outing])).get(outing);
      if (owner !== undefined && owner !== horse)
        throw new HttpProblem(422, "Bad input", "The outing belongs to another horse.");
      const received = await receive(request, response, { held: PHOTO_MOST_BYTES, most: CLIP_MOST_BYTES });
      const done = await inspected(received, ({ contentType }, cleaned) =>
        inTransaction(db, (client) =>
          insertMedia(client, home.id, { id, horse, outing: outing ?? null, contentType, ...cleaned }),
        ),
      ).finally(() => (Buffer.isBuffer(received) ? undefined : received.file.close()));
      if (done === "other") throw new HttpProblem(409, "Already there", `Another photo or clip has the id ${id}.`);
      const stored = await findMedia(db, home.id, id);
      if (!stored) throw notFound("photo or clip");
      response.status(done === "new" ? 201 : 200);
      return viewOf(stored);
    },
    atMost(CLIP_MOST_BYTES),
  );

  serveRaw(router, ENDPOINTS.mediaContent, async ({ params, request, response }) => {
    const home = await yard();
    const media = await findMedia(db, home.id, parseBody(mediaIdSchema, params.media));
    if (!media) throw notFound("photo or clip");
    response.set({
      "Content-Type": media.contentType,
      "Accept-Ranges": "bytes",
      ETag: `"${media.sha256}"`,
      "Cache-Control": "private, max-age=31536000, immutable",
      "Content-Security-Policy": INERT,
      // Compressed already.
      "Content-Encoding": "identity",
    });
    const ranges = request.range(media.byteCount, { combine: true });
    if (ranges === -1) {
      response.set("Content-Range", `bytes */${media.byteCount}`);
      throw new HttpProblem(416, "No such range", `There are ${media.byteCount} bytes.`);
    }
    const range = Array.isArray(ranges) && ranges.type === "bytes" && ranges.length === 1 ? ranges[0] : undefined;
    const [first, last] = range ? [range.start, range.end] : [0, media.byteCount - 1];
    if (range) response.status(206).set("Content-Range", `bytes ${first}-${last}/${media.byteCount}`);
    response.set("Content-Length", String(last - first + 1));
    if (request.method === "HEAD") response.end();
    else await sendPieces(readPieces(db, home.id, media.id, first, last), response);
  });

  serveRaw(router, ENDPOINTS.thumbnail, async ({ params, response }) => {
    const content = await readThumbnail(db, (await yard()).id, parseBody(mediaIdSchema, params.media));
    if (!content) throw notFound("picture");
    response
      .set({
        "Content-Type": kindOf(content)?.contentType ?? "image/jpeg",
        "Cache-Control": "private, max-age=31536000, immutable",
        "Content-Security-Policy": INERT,
      })
      .send(content);
  });

  serve(
    router,
    ENDPOINTS.addThumbnail,
    async ({ params, request, response }) => {
      const { id } = await yard();
      const media = await findMedia(db, id, parseBody(mediaIdSchema, params.media));
      if (!media) throw notFound("photo or clip");
      const bytes: Buffer = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
      const content = toThumbnail(bytes);
      const isNew = await insertThumbnail(db, id, media.id, content);
      response.status(isNew ? 201 : 200);
      return { ...viewOf(media), hasThumbnail: true };
    },
    atMost(THUMBNAIL_MOST_BYTES),
    express.raw({ type: () => true, limit: THUMBNAIL_MOST_BYTES }),
  );

  return router;
}

/** Does something with what was received, without what it hides. @throws HttpProblem where it is nothing that is taken */
async function inspected<Result>(
  received: Buffer | InFile,
  work: (kind: MediaKind, cleaned: Cleaned) => Promise<Result>,
): Promise<Result> {
  const isHeld = Buffer.isBuffer(received);
  const kind = kindOf(isHeld ? received : received.head);
  if (!kind) throw new HttpProblem(415, "Not taken", `Expected ${KINDS}, found something else.`);
  const why = isHeld ? whyNotTaken(received, kind) : whyTooLarge(received.bytes, kind);
  if (why) throw new HttpProblem(isHeld ? 422 : 413, "Not taken", `${capital(why)}.`);
  const cleaned = isHeld ? cleanedBytes(received, kind) : await cleanedClip(received.file, received.bytes);
  if (!cleaned) throw new HttpProblem(422, "Not taken", "The file is cut off or damaged; choose another one.");
  return work(kind, cleaned);
}

/** A small picture, stripped. @throws HttpProblem where it is none */
function toThumbnail(bytes: Buffer): Buffer {
  const kind = kindOf(bytes);
  if (!kind?.isPhoto) throw new HttpProblem(415, "Not taken", "Expected a small JPEG, PNG or WebP picture.");
  const content = whyNotTaken(bytes, kind) === null ? strip(bytes, kind) : null;
  if (!content) throw new HttpProblem(422, "Not taken", "The picture is cut off or damaged.");
  return content;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
