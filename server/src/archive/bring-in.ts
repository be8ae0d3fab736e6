import type { PoolClient } from "pg";
import { mediaIdSchema, type ImportedHorse, type ImportResult } from "@still-pine/contract/http";
import { parseRecord, PROBLEMS_SHOWN, type InputWarning } from "@still-pine/contract/record";
import type { ProgramFile } from "@still-pine/core/programs";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";
import { jsonMistake } from "../cli/json-mistake";
import { HttpProblem } from "../http/problems";
import { kindOf, whyNotTaken } from "../media/kind";
import { strip } from "../media/strip";
import { storeRecord } from "../store/import";
import { insertMedia, insertThumbnail } from "../store/media";
import type { Yard } from "../store/yard";
import { takePrograms } from "./along";
import type { OpenArchive } from "./read";
import { takeYardFile, YARD_FILE } from "./yard-file";

type Brought = Omit<ImportResult, "preview">;

/** A record file that has been read, with the own programs it goes by. */
type ReadRecord = Extract<ReturnType<typeof parseRecord>, { ok: true }>;

/** Reads a record file's text, or says what is wrong with it. @param name of the file, for an archive of many */
export function readRecord(text: string, now: string, name = ""): ReadRecord {
  const where = name === "" ? "The file" : name;
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (cause) {
    throw new HttpProblem(400, "Bad input", `${where} is not JSON: ${jsonMistake(text)}`, {}, { cause });
  }
  const parsed = parseRecord(json, now);
  if (parsed.ok) return parsed;
  throw new HttpProblem(422, "Not a horse record", `${where} cannot be read as a horse record.`, {
    errors: parsed.problems.slice(0, PROBLEMS_SHOWN),
  });
}

/** Stores one record; a warning where its days are counted in another zone. */
export async function bringInRecord(
  client: PoolClient,
  yard: Yard,
  { record, own, warnings }: ReadRecord,
  now: string,
  kept: ProgramFile[],
): Promise<Brought> {
  const zone = record.yard.timeZone;
  const other: InputWarning[] =
    zone === yard.timeZone
      ? []
      : [
          {
            code: "other-time-zone",
            text: `the record counts its days in ${zone}; this yard counts in ${yard.timeZone}`,
          },
        ];
  const along = await takePrograms(client, yard, own, now, kept);
  return { horses: [await storeRecord(client, yard, record, now)], warnings: [...warnings, ...other, ...along] };
}

/** Stores what an archive holds: one horse, or a yard. An empty yard also takes over the settings. */
export async function bringInArchive(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  now: string,
  kept: ProgramFile[],
): Promise<Brought> {
  const isOfYard = archive.names.includes(YARD_FILE);
  const { home, warnings: ofYard } = isOfYard
    ? await takeYardFile(client, yard, archive, now, kept)
    : { home: yard, warnings: [] };
  const brought: Brought = { horses: [], warnings: [...ofYard] };
  const folders = archive.names
    .filter((name) => /^(?:horses\/[^/]+\/)?record\.json$/.test(name))
    .map((name) => name.slice(0, -"record.json".length))
    .toSorted();
  if (folders.length === 0 && !isOfYard)
    throw new HttpProblem(
      422,
      "Not an archive",
      "The zip holds no record.json; export one from Still Pine to compare.",
    );
  for (const folder of folders) {
    const name = `${folder}record.json`;
    const read = readRecord((await archive.read(name)).toString("utf8"), now, name);
    const { horses, warnings } = await bringInRecord(client, home, read, now, kept);
    const [horse] = horses;
    if (horse) brought.horses.push(await takeMedia(client, home, archive, folder, read.record, horse));
    brought.warnings.push(...warnings);
  }
  return brought;
}

/** Photos and clips of a horse's folder. */
async function takeMedia(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  folder: string,
  record: HorseRecord,
  horse: ImportedHorse,
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
    if (!named.success)
      throw new HttpProblem(422, "Not an archive", `${JSON.stringify(name.slice(0, 120))}: expected media/ID.ext.`);
    const id = named.data;
    const bytes = await archive.read(name);
    const kind = kindOf(bytes);
    const content = kind && whyNotTaken(bytes, kind) === null ? strip(bytes, kind) : null;
    if (!kind || !content)
      throw new HttpProblem(422, "Not an archive", `${name} is no photo or clip that can be taken.`);
    const done = await insertMedia(client, yard.id, {
      id,
      horse: horse.horse,
      outing: outingOf.get(id) ?? null,
      contentType: kind.contentType,
      content,
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
