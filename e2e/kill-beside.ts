import { setTimeout as sleep } from "node:timers/promises";
import { SCHOOLS } from "@still-pine/core/programs";

/** What else goes on while everything is killed: files that come in, programs that are published, days that are counted anew. */
export interface Beside {
  /** Files that were said to be in, and all there were; each with the ids of its entries. */
  filesIn: Set<string>;
  files: Map<string, string[]>;
  programsIn: Set<string>;
  zonesSet: number;
}

export const emptyBeside = (): Beside => ({ filesIn: new Set(), files: new Map(), programsIn: new Set(), zonesSet: 0 });

export const FILES_HORSE = "files";
const OUTINGS = 8;
const ASKS = 40;
const ZONES = ["Europe/Dublin", "Pacific/Auckland", "America/St_Johns"] as const;

interface Answer {
  status: number;
  body: unknown;
}

/** Undefined where there was no answer. */
async function send(method: string, url: string, body?: object, version?: string): Promise<Answer | undefined> {
  try {
    const response = await fetch(url, {
      method,
      headers: { "Content-Type": "application/json", ...(version === undefined ? {} : { "If-Match": version }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(20_000),
    });
    const text = await response.text();
    return { status: response.status, body: text === "" ? null : JSON.parse(text) };
  } catch {
    return undefined;
  }
}

/** Goes on until everything is over, and at least once it was done. */
type Until = (url: string, random: () => number, beside: Beside, isOver: () => boolean) => Promise<void>;

/** A file of one horse, which every file is of; no two hold the same outing. */
function fileOf(key: string): { record: object; ids: string[] } {
  const day = 1 + Number(key.slice(1));
  const ids: string[] = [];
  const outings = Array.from({ length: OUTINGS }, (_none, n) => {
    const at = (second: number): string => new Date(Date.UTC(2020, 0, day, n % 24, n, second)).toISOString();
    const events = Array.from({ length: ASKS }, (_one, ask) => {
      const id = `${key}-${n}-${ask}`;
      ids.push(id);
      return { id, at: at(ask), type: "ask", step: "share-space", answer: ask % 7 ? "gave" : "none", mood: 1 };
    });
    return { id: `${key}-${n}`, startedAt: at(0), endedAt: at(59), place: "Pen", handler: "M", events };
  });
  const horse = { id: FILES_HORSE, name: "Files", foaled: "2018-01-01", foaledPrecision: "year", sex: "mare" };
  const head = { format: "still-pine/horse-record", version: 1, yard: { timeZone: "Europe/Dublin" } };
  return { record: { ...head, horse, program: { id: "loose-pen-start" }, horseEvents: [], outings }, ids };
}

/** Brings in one file after the other, each until it is said to be in, or given up. */
export const bringInUntil: Until = async (url, random, beside, isOver) => {
  for (let n = 0; !isOver() || beside.filesIn.size === 0; n += 1) {
    const key = `f${n}`;
    const { record, ids } = fileOf(key);
    beside.files.set(key, ids);
    for (;;) {
      const answer = await send("POST", `${url}/api/records`, record);
      if (answer && answer.status < 300) {
        beside.filesIn.add(key);
        break;
      }
      if (isOver() || random() < 0.2) break;
      await sleep(50 + random() * 200);
    }
    await sleep(random() * 400);
  }
};

/** Publishes one program after the other. */
export const publishUntil: Until = async (url, random, beside, isOver) => {
  for (let n = 0; !isOver() || beside.programsIn.size === 0; n += 1) {
    const id = `own-p${n}`;
    await send("PUT", `${url}/api/programs/${id}/draft`, { file: { ...SCHOOLS[0], name: id } }, '"0"');
    const answer = await send("POST", `${url}/api/programs/${id}/publish`, {}, '"1"');
    if (answer?.status === 201) beside.programsIn.add(id);
    await sleep(200 + random() * 1500);
  }
};

/** Has the yard's days counted in one zone after the other. */
export const changeZoneUntil: Until = async (url, random, beside, isOver) => {
  while (!isOver() || beside.zonesSet === 0) {
    const yard = (await send("GET", `${url}/api/yard`))?.body as { version: number } | undefined;
    if (yard) {
      const { version, ...rest } = yard as { version: number; name: string; units: string; words: string };
      const timeZone = ZONES[Math.floor(random() * ZONES.length)];
      const fields = { name: rest.name, timeZone, units: rest.units, words: rest.words };
      const answer = await send("PUT", `${url}/api/yard`, fields, `"${version}"`);
      if (answer?.status === 200) beside.zonesSet += 1;
    }
    await sleep(100 + random() * 500);
  }
};

/** What of it is not as it was said to be: a file that is there in part, or not at all though it was said to be in. */
export async function wrongBeside(url: string, beside: Beside): Promise<string[]> {
  const record = (await send("GET", `${url}/api/horses/${FILES_HORSE}/record`))?.body as
    { outings?: { events: { id: string }[] }[] } | undefined;
  const there = new Set((record?.outings ?? []).flatMap(({ events }) => events.map(({ id }) => id)));
  const wrong: string[] = [];
  for (const [key, ids] of beside.files) {
    const count = ids.filter((id) => there.has(id)).length;
    if (count !== ids.length && (count > 0 || beside.filesIn.has(key))) wrong.push(`${key}: ${count} of ${ids.length}`);
  }
  const programs = JSON.stringify((await send("GET", `${url}/api/programs`))?.body ?? "");
  for (const id of beside.programsIn) if (!programs.includes(`"${id}"`)) wrong.push(`${id} is not published`);
  return wrong;
}
