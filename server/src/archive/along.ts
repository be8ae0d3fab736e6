import type { PoolClient } from "pg";
import type { TroubleFields } from "@still-pine/contract/http";
import { canonical, shown, type InputWarning } from "@still-pine/contract/record";
import type { ProgramFile } from "@still-pine/core/programs";
import { rebuildThoseBy } from "../read-models/rebuild";
import { bringInProgram, findDraft, putDraft } from "../store/programs";
import { findTrouble, putTrouble } from "../store/troubles";
import type { Hold, Yard } from "../store/yard";

/** What comes along with records: a yard's own programs, and with its archive its drafts and troubles. What is here already stays as it is. */

const along = (what: string): InputWarning => ({ code: "comes-along", text: `${what} comes along` });
const other = (what: string): InputWarning => ({
  code: "other-content",
  text: `${what} is here with other content; the one here stays`,
});

/** A program that is new here comes along: for that the yard has to be held alone, and it is not. */
export class NeedsYardAlone extends Error {}

/**
 * Takes in own programs, and makes anew what is derived of the horses here that go by them.
 *
 * @param how the yard is held
 * @returns the yard with what is new in its book
 * @throws NeedsYardAlone where one is new and others hold the yard too
 */
export async function takePrograms(
  client: PoolClient,
  yard: Yard,
  files: readonly ProgramFile[],
  { now, how }: { now: string; how: Hold },
): Promise<{ yard: Yard; warnings: InputWarning[] }> {
  const warnings: InputWarning[] = [];
  const taken = new Map<string, ProgramFile[]>();
  for (const file of files.toSorted((a, b) => a.version - b.version)) {
    const done = await bringInProgram(client, yard.id, file, now);
    if (done === "other") warnings.push(other(`the program ${shown(file.name)}, version ${file.version},`));
    if (done !== "new") continue;
    if (how !== "alone") throw new NeedsYardAlone();
    taken.set(file.id, [...(taken.get(file.id) ?? []), file]);
  }
  const home = { ...yard, book: yard.book.with([...taken.values()].flat()) };
  for (const [id, versions] of taken) {
    const isLatest = versions.some(({ version }) => version === home.book.known(id)?.version);
    const horses = isLatest ? await rebuildThoseBy(client, home, id, now) : 0;
    const numbers = versions.map(({ version }) => version).join(", ");
    const { code, text } = along(`the program ${shown(versions.at(-1)?.name)}, version ${numbers},`);
    const judged = horses === 0 ? "" : `; horses here that are judged by it from now on: ${horses}`;
    warnings.push({ code, text: `${text}${judged}` });
  }
  return { yard: home, warnings };
}

/** Takes in drafts of programs. */
export const takeDrafts = (
  client: PoolClient,
  yard: Yard,
  drafts: readonly { id: string; file: Readonly<Record<string, unknown>> }[],
  now: string,
): Promise<InputWarning[]> =>
  takeNew(
    drafts,
    ({ file }) => `the draft ${shown(file["name"])}`,
    ({ id }) => findDraft(client, yard.id, id),
    ({ id, file }) => putDraft(client, yard.id, id, 0, file, now),
  );

/** Takes in troubles a yard has added. */
export const takeTroubles = (
  client: PoolClient,
  yard: Yard,
  troubles: readonly ({ id: string } & TroubleFields)[],
): Promise<InputWarning[]> =>
  takeNew(
    troubles,
    ({ name }) => `the trouble ${shown(name)}`,
    ({ id }) => findTrouble(client, yard.id, id),
    ({ id, ...fields }) => putTrouble(client, yard.id, id, 0, fields),
  );

/** Takes in each thing whose id is not here yet, and says of the others where they are not the same. */
async function takeNew<Item extends object>(
  items: readonly Item[],
  nameOf: (item: Item) => string,
  find: (item: Item) => Promise<(Item & { version: number }) | null>,
  put: (item: Item) => Promise<unknown>,
): Promise<InputWarning[]> {
  const warnings: InputWarning[] = [];
  for (const item of items) {
    const here = await find(item);
    if (!here) {
      await put(item);
      warnings.push(along(nameOf(item)));
      continue;
    }
    const { version: _version, ...own } = here;
    if (canonical(own) !== canonical(item)) warnings.push(other(nameOf(item)));
  }
  return warnings;
}
