import type { PoolClient } from "pg";
import { mediaIdSchema, type ImportedHorse, type ImportResult } from "@still-pine/contract/http";
import { OWN_PROGRAM, unstorable, type InputWarning, type SetAside } from "@still-pine/contract/record";
import type { RecordEvent } from "@still-pine/core/record";
import { Refusal } from "../refusals/refusal";
import { kindOf, whyNotTaken } from "../media/kind";
import { cleanedBytes } from "../media/cleaned";
import { strip } from "../media/strip";
import { lockHorses } from "../store/horses";
import { storeRecord } from "../recording/import";
import { horsesGoingByAny } from "../store/horse-states";
import { insertMedia, insertThumbnail } from "../store/media";
import type { Hold, Yard } from "../store/yard";
import { takePrograms } from "./along";
import type { OpenArchive } from "./read";
import { readRecord, type ReadRecord } from "./record-file";
import { takeYardFile, YARD_FILE } from "./yard-file";

type Brought = Omit<ImportResult, "preview">;

/** When something is brought in, whether it is only shown, and how the yard is held meanwhile. */
interface When {
  now: string;
  isPreview: boolean;
  how: Hold;
}

/** Stores one record; a warning where its days are counted in another zone. */
export async function bringInRecord(
  client: PoolClient,
  yard: Yard,
  read: ReadRecord,
  { now, isPreview, how }: When,
): Promise<Brought & { home: Yard }> {
  const { head, own, warnings, aside } = read;
  const zone = head.yard.timeZone;
  const other: InputWarning[] =
    zone === yard.timeZone
      ? []
      : [
          {
            code: "other-time-zone",
            text: `the record counts its days in ${zone}; this yard counts in ${yard.timeZone}`,
          },
        ];
  // Of an archive they are locked already.
  await lockForFile(client, yard, [head.horse.id]);
  const along = await takePrograms(client, yard, own, { now, how });
  const horse = await storeRecord(client, along.yard, read, now, isPreview);
  return { home: along.yard, horses: [horse], warnings: [...warnings, ...other, ...along.warnings], aside };
}

/** Stores what an archive holds: one horse, or a yard. An empty yard also takes over the settings. */
export async function bringInArchive(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  when: When,
): Promise<Brought> {
  const { now } = when;
  await lockForFile(client, yard, await horsesIn(archive));
  const isOfYard = archive.names.includes(YARD_FILE);
  const { warnings, aside, ...of } = isOfYard
    ? await takeYardFile(client, yard, archive, when)
    : { home: yard, warnings: [], aside: [] };
  let { home } = of;
  const brought: Brought = { horses: [], warnings, aside };
  const folders = archive.names
    .filter((name) => RECORD_FILE.test(name))
    .map((name) => name.slice(0, -"record.json".length))
    .toSorted();
  if (folders.length === 0 && !isOfYard)
    throw new Refusal(
      "refused",
      "Not an archive",
      "The zip holds no record.json; export one from Still Pine to compare.",
    );
  for (const folder of folders) {
    const read = await readOrAside(
      archive,
      `${folder}record.json`,
      home,
      now,
      brought.aside,
      folders.length > 1 || isOfYard,
    );
    if (!read) continue;
    try {
      const one = await bringInRecord(client, home, read, when);
      ({ home } = one);
      brought.aside.push(...one.aside);
      brought.warnings.push(...one.warnings);
      const [horse] = one.horses;
      if (horse) brought.horses.push(await takeMedia(client, home, archive, folder, read, horse, brought.aside));
    } finally {
      await read.close();
    }
  }
  return { ...brought, aside: brought.aside.slice(0, ASIDE_SHOWN) };
}

/**
 * Locks what a file may touch before anything else, in the one order: its horses, and those that go by a program of the yard's own,
 * of which a new version may come along.
 */
async function lockForFile(client: PoolClient, yard: Yard, ids: readonly string[]): Promise<void> {
  await lockHorses(client, yard.id, [...ids, ...(await horsesGoingByAny(client, yard.id, OWN_PROGRAM))]);
}

const RECORD_FILE = /^(?:horses\/[^/]+\/)?record\.json$/;
const HEAD_BYTES = 64 * 1024;

/** Horses an archive's records say they are of, from where a record that Still Pine wrote says it; of others they are found later. */
async function horsesIn(archive: OpenArchive): Promise<string[]> {
  const ids: string[] = [];
  for (const name of archive.names.filter((one) => RECORD_FILE.test(one))) {
    const head = (await archive.begin(name, HEAD_BYTES)).toString("utf8");
    const [, id] = /"horse"\s*:\s*\{\s*"id"\s*:\s*("(?:[^"\\]|\\.)*")/.exec(head) ?? [];
    if (id === undefined) continue;
    try {
      ids.push(String(JSON.parse(id)));
    } catch {
      // What cannot be read is said where the whole is read.
    }
  }
  return ids.filter((id) => unstorable(id) === undefined);
}

/** What was set aside is given back to whoever sent it, up to so many. */
const ASIDE_SHOWN = 10_000;

/** One record of an archive; one of many that cannot be read at all is set aside whole. */
async function readOrAside(
  archive: OpenArchive,
  name: string,
  { book }: Yard,
  now: string,
  aside: SetAside[],
  isOneOfMany: boolean,
): Promise<ReadRecord | null> {
  try {
    return await readRecord(archive.file(name), book, now, name);
  } catch (cause) {
    if (!isOneOfMany || !(cause instanceof Refusal)) throw cause;
    const found = cause.message.slice(cause.message.indexOf(": ") + 2);
    const [first = { path: "", expected: "a horse record in JSON", found }] = cause.extra.errors ?? [];
    aside.push({ ...first, file: name });
    return null;
  }
}

/** Photos and clips of a horse's folder. */
async function takeMedia(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  folder: string,
  record: ReadRecord,
  horse: ImportedHorse,
  aside: SetAside[],
): Promise<ImportedHorse> {
  const files = archive.names.filter((name) => name.startsWith(`${folder}media/`));
  if (files.length === 0) return horse;
  const outingOf = new Map<string, string>();
  for (const { id, events } of record.outings)
    for (const event of events) if (event.type === "media") outingOf.set(mediaOf(event), id);
  const conflicts = [...horse.conflicts];
  let media = 0;
  for (const name of files) {
    const named = mediaIdSchema.safeParse(/^(.*)\.[a-z0-9]+$/.exec(name.slice(`${folder}media/`.length))?.[1]);
    if (!named.success) {
      aside.push({ file: name, path: "", expected: "a file called media/ID.ext", found: "another name" });
      continue;
    }
    const id = named.data;
    const bytes = await archive.read(name);
    const kind = kindOf(bytes);
    const cleaned = kind && whyNotTaken(bytes, kind) === null ? cleanedBytes(bytes, kind) : null;
    if (!kind || !cleaned) {
      aside.push({ file: name, path: "", expected: "a photo or clip that can be taken", found: "something else" });
      continue;
    }
    const done = await insertMedia(client, yard.id, {
      id,
      horse: horse.horse,
      outing: outingOf.get(id) ?? null,
      contentType: kind.contentType,
      ...cleaned,
    });
    if (done === "new") media += 1;
    if (done === "other")
      conflicts.push({ path: name, expected: "the photo or clip that is there", found: "another one" });
    const small = archive.names.includes(`${folder}thumbnails/${id}`)
      ? await archive.read(`${folder}thumbnails/${id}`)
      : null;
    const smallKind = small && kindOf(small);
    const thumbnail = small && smallKind?.isPhoto ? strip(small, smallKind) : null;
    if (thumbnail && done === "new") await insertThumbnail(client, yard.id, id, thumbnail);
  }
  return { ...horse, media, conflicts };
}

const mediaOf = (event: RecordEvent): string => String((event as { media?: unknown }).media);
