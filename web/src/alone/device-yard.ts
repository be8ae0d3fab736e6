import type { Diary, HorsePack, LabelView, PackView, YardView } from "@still-pine/contract/http";
import { horseLine, summarize, type HorsePort, type OutingParts, type YardPort } from "@still-pine/contract/views";
import { gather, gatherOn, type Gathered } from "@still-pine/core/readiness";
import { dayIn } from "@still-pine/core/record";
import { standAlone, type HorseAlone, type OwnEvent } from "./horse-alone";

/** What a device keeps: the yard as it was fetched, each horse, and what was recorded here of him and was not refused. */
export interface DeviceStore {
  yard: PackView;
  horse(id: string): Promise<HorsePack | null>;
  recorded(id: string): Promise<readonly OwnEvent[]>;
}

/**
 * The yard as a device that is alone knows it.
 *
 * @param seen gathers the horses that were put together for an answer
 */
export function deviceYard(store: DeviceStore, now: string, seen: HorseAlone[]): YardPort {
  const { yard: pack } = store;
  const alone = async (id: string): Promise<{ one: HorseAlone; known: HorsePack } | null> => {
    const known = await store.horse(id);
    if (!known) return null;
    const one = standAlone(pack, known, await store.recorded(id), now);
    seen.push(one);
    return { one, known };
  };
  return {
    yard: async () => yardOf(pack, now),
    labels: async (kind) => labelList(pack[kind]),
    // Which outings run elsewhere only the server knows.
    running: async () => [],
    troubles: async () => pack.troubles ?? [],
    // What is being written of a program stays on the laptop.
    programs: async () => ({ published: [...(pack.yard.programs ?? [])], drafts: [] }),
    lines: async () => {
      const horses = await Promise.all(pack.horses.map(({ id }) => alone(id)));
      return horses.flatMap((found) => (found ? [horseLine(found.one.row, found.one.standing, found.one.today)] : []));
    },
    horse: async (id) => {
      const found = await alone(id);
      return found && deviceHorse(found.one, found.known);
    },
  };
}

function deviceHorse(one: HorseAlone, pack: HorsePack): HorsePort {
  const gathered = (): Gathered | null => {
    const before = one.before();
    const latest = one.judged.at(-1);
    return before && gatherOn(before, latest ? [latest] : []);
  };
  return {
    row: one.row,
    today: one.today,
    standing: async () => one.standing,
    labels: async () => one.labels,
    diary: async (skip) => (skip === 0 ? diaryOf(one, pack) : null),
    ofHorse: async () => ({ events: one.ofHorse.filter(({ type }) => type !== "correction"), folded: one.folded }),
    latest: async (most) => one.folded.outings.slice(-most),
    asked: async (most) =>
      one.folded.outings.filter(({ events }) => events.some(({ type }) => type === "ask")).slice(-most),
    gathered: async () => {
      const all = gathered();
      return all && { gathered: all, outings: one.judged };
    },
    gatheredOf: async (step) => {
      const { folded, standing } = one;
      const explained = gather(folded, standing.program, step);
      if (one.isWhole) return { gathered: explained, folded };
      const all = gathered();
      return all && { gathered: all, folded, explained };
    },
    outing: async (outing) => outingParts(one, outing),
  };
}

const labelList = (pairs: PackView["place"]): LabelView[] => pairs.map(([id, label]) => ({ id, label, version: 0 }));

function yardOf({ yard: { id: _id, ...yard }, place, person }: PackView, now: string): YardView {
  return {
    ...yard,
    today: dayIn(yard.timeZone, now),
    places: place.map(([, label]) => label),
    people: person.map(([, label]) => label),
  };
}

/** The first page of the diary: as it came, with what was recorded here since. */
function diaryOf(one: HorseAlone, pack: HorsePack): Diary {
  const known = new Set(pack.diary.outings.map((outing) => outing.id));
  const here = new Map(one.judged.map((outing) => [outing.id, summarize(outing, one.labels)]));
  const added = [...here.values()].filter(
    (outing) => !known.has(outing.id) && !pack.outings.some((old) => old.id === outing.id),
  );
  const outings = [...added, ...pack.diary.outings.map((outing) => here.get(outing.id) ?? outing)];
  return {
    outings: outings.toSorted((a, b) => Date.parse(b.startedAt) - Date.parse(a.startedAt) || (a.id < b.id ? 1 : -1)),
    total: pack.diary.total + added.length,
  };
}

function outingParts(one: HorseAlone, id: string): OutingParts | null {
  const at = one.judged.findIndex((outing) => outing.id === id);
  const outing = one.folded.outings.find((shown) => shown.id === id);
  const judged = one.judged[at];
  if (!outing || !judged) return null;
  // What was gathered lies here as it was before the latest outing; before an older one nobody here can say.
  const isLatest = at === one.judged.length - 1;
  const before = isLatest ? one.before() : null;
  return { summary: summarize(judged, one.labels), outing, folded: one.folded, judged, before, recorders: {} };
}
