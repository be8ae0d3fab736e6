import { createHash } from "node:crypto";
import type { MediaView } from "@still-pine/contract/http";
import type { HorseId, OutingId, YardId } from "@still-pine/core/record";
import type { Client, PoolClient } from "pg";
import type { Db } from "../db/pool";

export interface StoredMedia extends MediaView {
  horse: HorseId;
  sha256: string;
}

interface NewMedia {
  id: string;
  horse: HorseId;
  outing: OutingId | null;
  contentType: string;
  byteCount: number;
  sha256: string;
  /** The sum of the same file as the former build would have stored it. */
  sha256Before(): Promise<string | null>;
  /** How much was taken out of it, as a number that grows with what builds take out. */
  stripped: number;
  /** As it is stored: at once, or piece by piece. */
  content: Buffer | (() => AsyncIterable<Buffer>);
}

const hashOf = (content: Buffer): string => createHash("sha256").update(content).digest("hex");

const COLUMNS = `m.id, m.horse_id as horse, m.outing_id as outing, m.content_type as "contentType", m.byte_count as "byteCount",
  m.sha256, m.stored_at as "storedAt", exists
  (select from media_thumbnail t where t.yard_id = m.yard_id and t.media_id = m.id) as "hasThumbnail"`;

type Row = Omit<StoredMedia, "storedAt"> & { storedAt: Date };
const toStored = (row: Row): StoredMedia => ({ ...row, storedAt: row.storedAt.toISOString() });

export const viewOf = ({ horse: _horse, sha256: _sha, ...view }: StoredMedia): MediaView => view;

export async function findMedia(db: Db, yardId: YardId, id: string): Promise<StoredMedia | null> {
  const { rows } = await db.query<Row>(`select ${COLUMNS} from media m where m.yard_id = $1 and m.id = $2`, [
    yardId,
    id,
  ]);
  return rows[0] ? toStored(rows[0]) : null;
}

export async function mediaOfHorse(db: Db, yardId: YardId, horse: HorseId): Promise<StoredMedia[]> {
  const { rows } = await db.query<Row>(
    `select ${COLUMNS} from media m where m.yard_id = $1 and m.horse_id = $2 order by m.stored_at, m.id`,
    [yardId, horse],
  );
  return rows.map(toStored);
}

type Done = "new" | "there" | "other";

/**
 * Stores a photo or clip once, within the transaction of whoever calls. "other" when another one has this id; one that was stored by the
 * former build is the same. What comes in pieces is never whole in this program: the database puts it together.
 */
export async function insertMedia(client: PoolClient, yardId: YardId, media: NewMedia): Promise<Done> {
  const there = await howItIsThere(client, yardId, media);
  if (there) return there;
  const { content } = media;
  const isWhole = Buffer.isBuffer(content);
  if (!isWhole) await layDown(client, content());
  const { rowCount } = await client.query(
    `insert into media (yard_id, id, horse_id, outing_id, content_type, byte_count, sha256, stripped, content)
     select $1, $2, $3, $4, $5, $6, $7, $8, ${isWhole ? "$9" : "(select string_agg(piece, ''::bytea order by place) from media_piece)"}
     on conflict (yard_id, id) do nothing`,
    [
      yardId,
      media.id,
      media.horse,
      media.outing,
      media.contentType,
      media.byteCount,
      media.sha256,
      media.stripped,
      ...(isWhole ? [content] : []),
    ],
  );
  if (!isWhole) await client.query("drop table media_piece");
  if (rowCount === 1) return "new";
  return (await howItIsThere(client, yardId, media)) ?? "other";
}

async function howItIsThere(db: Db, yardId: YardId, media: NewMedia): Promise<"there" | "other" | null> {
  const there = await findMedia(db, yardId, media.id);
  if (!there) return null;
  const isSame = there.sha256 === media.sha256 || there.sha256 === (await media.sha256Before());
  return isSame && there.horse === media.horse ? "there" : "other";
}

/** Pieces of a clip, where only this transaction sees them and nothing of them outlives it. */
async function layDown(client: PoolClient, pieces: AsyncIterable<Buffer>): Promise<void> {
  await client.query("create temporary table media_piece (place integer, piece bytea) on commit drop");
  let place = 0;
  for await (const piece of pieces) {
    await client.query("insert into media_piece values ($1, $2)", [place, piece]);
    place += 1;
  }
}

/** Stores the small picture of a photo or clip once; returns whether it was new. */
export async function insertThumbnail(db: Db, yardId: YardId, id: string, content: Buffer): Promise<boolean> {
  const { rowCount } = await db.query(
    "insert into media_thumbnail (yard_id, media_id, content) values ($1, $2, $3) on conflict do nothing",
    [yardId, id, content],
  );
  return rowCount === 1;
}

export async function readThumbnail(db: Db, yardId: YardId, id: string): Promise<Buffer | null> {
  const { rows } = await db.query<{ content: Buffer }>(
    "select content from media_thumbnail where yard_id = $1 and media_id = $2",
    [yardId, id],
  );
  return rows[0]?.content ?? null;
}

const PIECE = 1024 * 1024;

/** The bytes from `first` to `last`, a megabyte at a time. */
export async function* readPieces(
  db: Db,
  yardId: YardId,
  id: string,
  first: number,
  last: number,
): AsyncGenerator<Buffer> {
  for (let at = first; at <= last; at += PIECE) {
    const { rows } = await db.query<{ piece: Buffer }>(
      "select substring(content from $3::int for $4::int) as piece from media where yard_id = $1 and id = $2",
      [yardId, id, at + 1, Math.min(PIECE, last - at + 1)],
    );
    if (!rows[0]) return;
    yield rows[0].piece;
  }
}

/** Photos and clips of which less was taken out than a later build takes out. @param than how much it takes, as a number that grows */
export async function lessStripped(owner: Client, than: number): Promise<{ yardId: YardId; id: string }[]> {
  const { rows } = await owner.query<{ yardId: YardId; id: string }>(
    `select yard_id as "yardId", id from media where stripped < $1`,
    [than],
  );
  return rows;
}

export async function readContent(db: Db | Client, yardId: YardId, id: string): Promise<Buffer | null> {
  const { rows } = await db.query<{ content: Buffer }>("select content from media where yard_id = $1 and id = $2", [
    yardId,
    id,
  ]);
  return rows[0]?.content ?? null;
}

/** Needs the role that migrates: the server itself changes nothing that was recorded. */
export async function replaceContent(
  owner: Client,
  yardId: YardId,
  id: string,
  content: Buffer,
  stripped: number,
): Promise<void> {
  await owner.query(
    "update media set content = $3, byte_count = $4, sha256 = $5, stripped = $6 where yard_id = $1 and id = $2",
    [yardId, id, content, content.length, hashOf(content), stripped],
  );
}
