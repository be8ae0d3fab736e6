import type { PoolClient } from "pg";
import { z } from "zod";
import { draftSchema, troubleFieldsSchema, yardFieldsSchema, type YardFields } from "@still-pine/contract/http";
import {
  idSchema,
  OWN_PROGRAM,
  isTooDeep,
  OWN_PROGRAMS_MOST,
  parseOwnPrograms,
  problemsFrom,
  shown,
  unstorable,
  type InputProblem,
  type InputWarning,
  type SetAside,
} from "@still-pine/contract/record";
import type { ProgramFile } from "@still-pine/core/programs";
import { jsonMistake } from "../refusals/json-mistake";
import { hasHorses } from "../store/horses";
import { listLabels } from "../store/labels";
import { listDrafts } from "../store/programs";
import { listTroubles } from "../store/troubles";
import { updateYard, type Hold, type Yard } from "../store/yard";
import { takeDrafts, takePrograms, takeTroubles } from "./along";
import type { OpenArchive } from "./read";

/** `yard.json` of a yard's archive: its settings, and what is the yard's and no horse's. */
export const YARD_FILE = "yard.json";

const yardFileSchema = z.looseObject({
  format: z.literal("still-pine/yard"),
  version: z.literal(1),
  ...yardFieldsSchema.shape,
});
const LISTED_MOST = 1000;
const listedDraft = draftSchema.extend({ id: idSchema.startsWith(OWN_PROGRAM) });
const listedTrouble = troubleFieldsSchema.extend({ id: idSchema });

/** The file's text. */
export async function yardFileText(client: PoolClient, yard: Yard): Promise<string> {
  const { id: _id, version: _version, book, ...settings } = yard;
  const labels = async (kind: "place" | "person"): Promise<string[]> =>
    (await listLabels(client, yard.id, kind)).map(({ label }) => label);
  const drafts = (await listDrafts(client, yard.id)).map(({ id, file }) => ({ id, file }));
  const troubles = (await listTroubles(client, yard.id)).map(({ version: _seen, ...trouble }) => trouble);
  const about = {
    format: "still-pine/yard",
    version: 1,
    ...settings,
    ...(book.files.length > 0 ? { programs: book.files } : {}),
    places: await labels("place"),
    people: await labels("person"),
    ...(drafts.length > 0 ? { drafts: drafts.toSorted((a, b) => (a.id < b.id ? -1 : 1)) } : {}),
    ...(troubles.length > 0 ? { troubles } : {}),
  };
  return `${JSON.stringify(about, null, 1)}\n`;
}

/**
 * Takes in what an archive says of its yard: programs, drafts and troubles that are not here yet, and into an empty yard the
 * settings too. What of it cannot be read is set aside.
 *
 * @returns the yard as it is then
 */
export async function takeYardFile(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  when: { now: string; how: Hold },
): Promise<{ home: Yard; warnings: InputWarning[]; aside: SetAside[] }> {
  const { settings, own, drafts, troubles, aside } = await readYardFile(archive);
  const along = await takePrograms(client, yard, own, when);
  const warnings = [
    ...along.warnings,
    ...(await takeDrafts(client, yard, drafts, when.now)),
    ...(await takeTroubles(client, yard, troubles)),
  ];
  const home =
    settings && !(await hasHorses(client, yard.id))
      ? await updateYard(client, along.yard, yard.version, settings)
      : null;
  return { home: home ?? along.yard, warnings, aside };
}

interface YardFile {
  settings: YardFields | null;
  own: ProgramFile[];
  drafts: z.infer<typeof listedDraft>[];
  troubles: z.infer<typeof listedTrouble>[];
  aside: SetAside[];
}

async function readYardFile(archive: OpenArchive): Promise<YardFile> {
  const read: YardFile = { settings: null, own: [], drafts: [], troubles: [], aside: [] };
  const setAside = ([problem]: readonly InputProblem[], entry?: unknown): void => {
    if (problem) read.aside.push({ ...problem, file: YARD_FILE, ...(entry === undefined ? {} : { entry }) });
  };
  const text = (await archive.read(YARD_FILE)).toString("utf8");
  let json: Record<string, unknown>;
  try {
    json = JSON.parse(text) as Record<string, unknown>;
  } catch {
    setAside([{ path: "", expected: "JSON", found: jsonMistake(text) }]);
    return read;
  }
  const isOdd = isTooDeep(json) ? "too many levels" : unstorable(json);
  if (typeof json !== "object" || json === null || isOdd) {
    setAside([{ path: "", expected: "what a yard says of itself", found: isOdd ?? shown(json) }]);
    return read;
  }
  const parsed = yardFileSchema.safeParse(json);
  if (parsed.success) read.settings = parsed.data;
  else setAside(problemsFrom(parsed.error, json));
  const listed = (field: string): unknown[] => {
    const list = json[field];
    return Array.isArray(list) ? list.slice(0, LISTED_MOST) : [];
  };
  const readEach = <Item>(field: string, schema: z.ZodType<Item>): Item[] =>
    listed(field).flatMap((one, index) => {
      const item = schema.safeParse(one);
      if (!item.success) setAside(problemsFrom(item.error, one, [field, index]), one);
      return item.success ? [item.data] : [];
    });
  read.drafts = readEach("drafts", listedDraft);
  read.troubles = readEach("troubles", listedTrouble);
  listed("programs")
    .slice(0, OWN_PROGRAMS_MOST)
    .forEach((one, index) => {
      const { own, problems } = parseOwnPrograms([one], ["programs"], index);
      read.own.push(...own.map(({ file }) => file));
      setAside(problems, one);
    });
  return read;
}
