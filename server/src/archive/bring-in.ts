import type { PoolClient } from "pg";
import { z } from "zod";
import {
  mediaIdSchema,
  yardFieldsSchema,
  type ImportedHorse,
  type ImportResult,
  type YardFields,
} from "@still-pine/contract/http";
import { parseOwnPrograms, parseRecord, PROBLEMS_SHOWN, shown, type InputWarning } from "@still-pine/contract/record";
import { findProgram, keepProgram, type ProgramFile } from "@still-pine/core/programs";
import type { HorseRecord, RecordEvent } from "@still-pine/core/record";
import { jsonMistake } from "../cli/json-mistake";
import { HttpProblem } from "../http/problems";
import { kindOf, whyNotTaken } from "../media/kind";
import { strip } from "../media/strip";
import { rebuildThoseBy } from "../read-models/rebuild";
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

/**
 * Takes in own programs that came along, and makes anew what is derived of the horses here that go by them.
 *
 * @param kept filled with what the judge knows from now on, for whoever takes the transaction back
 */
async function takePrograms(
  client: PoolClient,
  yard: Yard,
  files: readonly ProgramFile[],
  now: string,
  kept: ProgramFile[],
): Promise<InputWarning[]> {
  const warnings: InputWarning[] = [];
  const taken = new Map<string, ProgramFile[]>();
  for (const file of files.toSorted((a, b) => a.version - b.version)) {
    const done = await bringInProgram(client, yard.id, file, now);
    if (done === "other")
      warnings.push({
        code: "other-program",
        text: `the program ${shown(file.name)}, version ${file.version}, is here with other content; the one here stays`,
      });
    if (done !== "new") continue;
    if (!findProgram(file.id, file.version)) kept.push(file);
    keepProgram(file);
    taken.set(file.id, [...(taken.get(file.id) ?? []), file]);
  }
  for (const [id, versions] of taken) {
    const isLatest = versions.some(({ version }) => version === findProgram(id)?.version);
    const horses = isLatest ? await rebuildThoseBy(client, yard, id, now) : 0;
    const numbers = versions.map(({ version }) => version).join(", ");
    const judged = horses === 0 ? "" : `; horses here that are judged by it from now on: ${horses}`;
    warnings.push({
      code: "program-along",
      text: `the program ${shown(versions.at(-1)?.name)} comes along, version ${numbers}${judged}`,
    });
  }
  return warnings;
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
  const brought: Brought = { horses: [], warnings: [] };
  const file = archive.names.includes("yard.json") ? await readSettings(archive) : null;
  brought.warnings.push(...(await takePrograms(client, yard, file?.own ?? [], now, kept)));
  const home = file ? await takeSettings(client, yard, file.settings) : yard;
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

async function readSettings(archive: OpenArchive): Promise<{ settings: YardFields; own: ProgramFile[] }> {
  let json: unknown;
  try {
    json = JSON.parse((await archive.read("yard.json")).toString("utf8"));
  } catch (cause) {
    if (cause instanceof HttpProblem) throw cause;
    throw new HttpProblem(422, "Not an archive", "yard.json is not JSON.", {}, { cause });
  }
  const parsed = yardFileSchema.safeParse(json);
  if (!parsed.success) throw new HttpProblem(422, "Not an archive", "yard.json cannot be read as a yard's settings.");
  const { own, problems } = parseOwnPrograms(parsed.data.programs ?? [], ["programs"]);
  if (problems.length > 0)
    throw new HttpProblem(422, "Not an archive", "A program in yard.json is not one.", {
      errors: problems.slice(0, PROBLEMS_SHOWN),
    });
  return { settings: parsed.data, own: own.map((one) => one.file) };
}

/** An empty yard takes over the settings. */
async function takeSettings(client: PoolClient, yard: Yard, settings: YardFields): Promise<Yard> {
  const { rowCount } = await client.query("select from horse where yard_id = $1 limit 1", [yard.id]);
  if (rowCount !== 0) return yard;
  return (await updateYard(client, yard.id, yard.version, settings)) ?? yard;
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
