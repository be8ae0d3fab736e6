import type { HorseId, OutingId, YardId } from "@still-pine/core/record";
import { createHash } from "node:crypto";
import type { MediaView } from "@still-pine/contract/http";
import type { Client } from "pg";
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
  /** As it is stored. */
  content: Buffer;
  /** As the former build would have stored the same file. */
  contentBefore: Buffer | null;
  /** How much was taken out of it, as a number that grows with what builds take out. */
  stripped: number;
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

/** Stores a photo or clip once. "other" when another one has this id; one that was stored by the former build is the same. */
export async function insertMedia(db: Db, yardId: YardId, media: NewMedia): Promise<"new" | "there" | "other"> {
  const sha256 = hashOf(media.content);
  const { rowCount } = await db.query(
    `insert into media (yard_id, id, horse_id, outing_id, content_type, byte_count, sha256, content, stripped)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict (yard_id, id) do nothing`,
    [
      yardId,
      media.id,
      media.horse,
      media.outing,
      media.contentType,
      media.content.length,
      sha256,
      media.content,
      media.stripped,
    ],
  );
  if (rowCount === 1) return "new";
  const there = await findMedia(db, yardId, media.id);
  const isSame = there?.sha256 === sha256 || (media.contentBefore && there?.sha256 === hashOf(media.contentBefore));
  return isSame && there?.horse === media.horse ? "there" : "other";
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
