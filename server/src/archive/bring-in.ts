import type { PoolClient } from "pg";
import { z } from "zod";
import { mediaIdSchema, yardFieldsSchema, type ImportedHorse, type ImportResult } from "@still-pine/contract/http";
import { parseProgram, parseRecord, PROBLEMS_SHOWN, type InputWarning } from "@still-pine/contract/record";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";
import { jsonMistake } from "../cli/json-mistake";
import { HttpProblem } from "../http/problems";
import { kindOf, whyNotTaken } from "../media/kind";
import { strip } from "../media/strip";
import { storeRecord } from "../store/import";
import { insertMedia, insertThumbnail } from "../store/media";
import { bringInProgram } from "../store/programs";
import { updateYard, type Yard } from "../store/yard";
import type { OpenArchive } from "./read";

type Brought = Omit<ImportResult, "preview">;

const yardFileSchema = z.looseObject({
  format: z.literal("still-pine/yard"),
  version: z.literal(1),
  ...yardFieldsSchema.shape,
  programs: z.array(z.unknown()).max(1000).optional(),
});

/** Reads a record file's text, or says what is wrong with it. @param name of the file, for an archive of many */
export function readRecord(text: string, now: string, name = ""): { record: HorseRecord; warnings: InputWarning[] } {
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
  { record, warnings }: ReturnType<typeof readRecord>,
  now: string,
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
  return { horses: [await storeRecord(client, yard, record, now)], warnings: [...warnings, ...other] };
}

/** Stores what an archive holds: one horse, or a yard. An empty yard also takes over the settings. */
export async function bringInArchive(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  now: string,
): Promise<Brought> {
  const home = archive.names.includes("yard.json") ? await takeSettings(client, yard, archive, now) : yard;
  const folders = archive.names
    .filter((name) => /^(?:horses\/[^/]+\/)?record\.json$/.test(name))
    .map((name) => name.slice(0, -"record.json".length))
    .toSorted();
  if (folders.length === 0 && !archive.names.includes("yard.json"))
    throw new HttpProblem(
      422,
      "Not an archive",
      "The zip holds no record.json; export one from Still Pine to compare.",
    );
  const brought: Brought = { horses: [], warnings: [] };
  for (const folder of folders) {
    const name = `${folder}record.json`;
    const read = readRecord((await archive.read(name)).toString("utf8"), now, name);
    const { horses, warnings } = await bringInRecord(client, home, read, now);
    const [horse] = horses;
    if (horse) brought.horses.push(await takeMedia(client, home, archive, folder, read.record, horse));
    brought.warnings.push(...warnings);
  }
  return brought;
}

async function takeSettings(client: PoolClient, yard: Yard, archive: OpenArchive, now: string): Promise<Yard> {
  let json: unknown;
  try {
    json = JSON.parse((await archive.read("yard.json")).toString("utf8"));
  } catch (cause) {
    if (cause instanceof HttpProblem) throw cause;
    throw new HttpProblem(422, "Not an archive", "yard.json is not JSON.", {}, { cause });
  }
  const parsed = yardFileSchema.safeParse(json);
  if (!parsed.success) throw new HttpProblem(422, "Not an archive", "yard.json cannot be read as a yard's settings.");
  for (const one of parsed.data.programs ?? []) {
    const program = parseProgram(one, true);
    if (!program.ok)
      throw new HttpProblem(422, "Not an archive", "A program in yard.json is not one.", { errors: program.problems });
    await bringInProgram(client, yard.id, program.file, now);
  }
  const { rowCount } = await client.query("select from horse where yard_id = $1 limit 1", [yard.id]);
  if (rowCount !== 0) return yard;
  return (await updateYard(client, yard.id, yard.version, parsed.data)) ?? yard;
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
