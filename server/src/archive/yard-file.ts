import type { PoolClient } from "pg";
import { z } from "zod";
import { draftSchema, troubleFieldsSchema, yardFieldsSchema } from "@still-pine/contract/http";
import {
  idSchema,
  OWN_PROGRAM,
  OWN_PROGRAMS_MOST,
  parseOwnPrograms,
  PROBLEMS_SHOWN,
  problemsFrom,
  type InputWarning,
} from "@still-pine/contract/record";
import type { ProgramFile } from "@still-pine/core/programs";
import { HttpProblem } from "../http/problems";
import { listLabels } from "../store/labels";
import { listDrafts } from "../store/programs";
import { listTroubles } from "../store/troubles";
import { updateYard, type Yard } from "../store/yard";
import { takeDrafts, takePrograms, takeTroubles } from "./along";
import type { OpenArchive } from "./read";

/** `yard.json` of a yard's archive: its settings, and what is the yard's and no horse's. */
export const YARD_FILE = "yard.json";

const yardFileSchema = z.looseObject({
  format: z.literal("still-pine/yard"),
  version: z.literal(1),
  ...yardFieldsSchema.shape,
  programs: z.array(z.unknown()).max(OWN_PROGRAMS_MOST).optional(),
  drafts: z
    .array(draftSchema.extend({ id: idSchema.startsWith(OWN_PROGRAM) }))
    .max(1000)
    .optional(),
  troubles: z
    .array(troubleFieldsSchema.extend({ id: idSchema }))
    .max(1000)
    .optional(),
});

/** The file's text. */
export async function yardFileText(client: PoolClient, yard: Yard): Promise<string> {
  const { id: _id, version: _version, ...settings } = yard;
  const labels = async (kind: "place" | "person"): Promise<string[]> =>
    (await listLabels(client, yard.id, kind)).map(({ label }) => label);
  const drafts = (await listDrafts(client, yard.id)).map(({ id, file }) => ({ id, file }));
  const troubles = (await listTroubles(client, yard.id)).map(({ version: _seen, ...trouble }) => trouble);
  const about = {
    format: "still-pine/yard",
    version: 1,
    ...settings,
    places: await labels("place"),
    people: await labels("person"),
    ...(drafts.length > 0 ? { drafts: drafts.toSorted((a, b) => (a.id < b.id ? -1 : 1)) } : {}),
    ...(troubles.length > 0 ? { troubles } : {}),
  };
  return `${JSON.stringify(about, null, 1)}\n`;
}

/**
 * Takes in what an archive says of its yard: programs, drafts and troubles that are not here yet, and into an empty yard the
 * settings too.
 *
 * @returns the yard as it is then
 */
export async function takeYardFile(
  client: PoolClient,
  yard: Yard,
  archive: OpenArchive,
  now: string,
  kept: ProgramFile[],
): Promise<{ home: Yard; warnings: InputWarning[] }> {
  const file = await readYardFile(archive);
  const warnings = [
    ...(await takePrograms(client, yard, file.own, now, kept)),
    ...(await takeDrafts(client, yard, file.drafts ?? [], now)),
    ...(await takeTroubles(client, yard, file.troubles ?? [])),
  ];
  const { rowCount } = await client.query("select from horse where yard_id = $1 limit 1", [yard.id]);
  const home = rowCount === 0 ? await updateYard(client, yard.id, yard.version, file) : null;
  return { home: home ?? yard, warnings };
}

async function readYardFile(archive: OpenArchive): Promise<z.infer<typeof yardFileSchema> & { own: ProgramFile[] }> {
  let json: unknown;
  try {
    json = JSON.parse((await archive.read(YARD_FILE)).toString("utf8"));
  } catch (cause) {
    if (cause instanceof HttpProblem) throw cause;
    throw new HttpProblem(422, "Not an archive", "yard.json is not JSON.", {}, { cause });
  }
  const parsed = yardFileSchema.safeParse(json);
  if (!parsed.success) throw notYardFile(problemsFrom(parsed.error, json));
  const { own, problems } = parseOwnPrograms(parsed.data.programs ?? [], ["programs"]);
  if (problems.length > 0) throw notYardFile(problems);
  return { ...parsed.data, own: own.map((one) => one.file) };
}

const notYardFile = (problems: ReturnType<typeof problemsFrom>): HttpProblem =>
  new HttpProblem(422, "Not an archive", "yard.json cannot be read as what a yard says of itself.", {
    errors: problems.slice(0, PROBLEMS_SHOWN),
  });
