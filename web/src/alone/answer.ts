import { checkUpQuerySchema, type LabelView, type PackView, type YardView } from "@still-pine/contract/http";
import {
  composeBrief,
  composeCheckUp,
  composeFeel,
  composeHorse,
  composeOuting,
  composeStep,
  horseLine,
  summarize,
} from "@still-pine/contract/views";
import { gatherOn } from "@still-pine/core/readiness";
import { dayIn } from "@still-pine/core/record";
import { keeper, type KeptEvent } from "../outbox/kept";
import { standAlone, type HorseAlone } from "./horse-alone";
import { horsePack, yardPack } from "./packs";

/** What this device answers by itself when the server cannot be reached, in the server's own words. */
export interface OwnAnswer {
  data: unknown;
  /** When what it rests on was fetched. */
  at: string;
  /** Verdicts are as they were then, for an older outing was changed here since. */
  isBehind: boolean;
}

/**
 * Answers a question of the pages from what lies on this device.
 *
 * @param path below /api, with its query
 * @returns null where this device does not know
 */
export async function answerAlone(path: string, now: string): Promise<OwnAnswer | null> {
  const yard = await yardPack();
  if (!yard) return null;
  const seen: HorseAlone[] = [];
  const data = await answer(path, yard.pack, now, seen);
  return data === null ? null : { data, at: yard.at, isBehind: seen.some(({ isBehind }) => isBehind) };
}

/** @param seen gathers the horses that were put together for it */
async function answer(path: string, yard: PackView, now: string, seen: HorseAlone[]): Promise<unknown> {
  const [place = "", query = ""] = path.split("?");
  const [what, id, part, inner] = place.split("/").map(decodeURIComponent);
  if (what === "yard") return yardOf(yard, now);
  if (what === "places") return labelList(yard.place);
  if (what === "people") return labelList(yard.person);
  if (what === "running") return [];
  if (what === "troubles") return yard.troubles ?? [];
  // What is being written of a program stays on the laptop.
  if (what === "programs" && id === undefined) return { published: yard.yard.programs ?? [], drafts: [] };
  if (what === "string") {
    const horses = await Promise.all(yard.horses.map((one) => alone(yard, one.id, now)));
    seen.push(...horses.filter((one) => one !== null));
    return {
      yard: yardOf(yard, now),
      horses: horses.flatMap((one) => (one ? [horseLine(one.row, one.standing, one.today)] : [])),
    };
  }
  if (what !== "horses" || id === undefined) return null;
  const one = await alone(yard, id, now);
  if (!one) return null;
  seen.push(one);
  switch (part) {
    case undefined:
      return composeHorse({
        ...one,
        yard: yardOf(yard, now),
        page: await diaryOf(one, id),
        ofHorse: { events: one.ofHorse.filter(({ type }) => type !== "correction"), folded: one.folded },
      });
    case "outings":
      if (inner !== undefined) return outingOf(one, inner);
      return query === "" || query === "skip=0" ? diaryOf(one, id) : null;
    case "brief":
      return composeBrief({ ...one, yard: yardOf(yard, now), outings: one.folded.outings });
    case "check-up":
      return checkUpOf(one, yard, query, now);
    case "feel":
      return composeFeel(one.folded.outings.filter(({ events }) => events.some(({ type }) => type === "ask")));
    case "steps":
      return stepOf(one, inner ?? "");
    default:
      return null;
  }
}

async function alone(yard: PackView, id: string, now: string): Promise<HorseAlone | null> {
  const pack = await horsePack(id);
  if (!pack) return null;
  const own = (await (await keeper()).eventsOfHorse(id)).filter(({ sent }) => sent !== 2);
  return standAlone(yard, pack, own.map(asOwn), now);
}

const asOwn = ({ outing, event }: KeptEvent): { outing: string | null; event: KeptEvent["event"] } => ({
  outing,
  event,
});

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
async function diaryOf(
  one: HorseAlone,
  id: string,
): Promise<{ outings: ReturnType<typeof summarize>[]; total: number }> {
  const pack = await horsePack(id);
  const known = new Set(pack?.diary.outings.map((outing) => outing.id));
  const here = new Map(one.judged.map((outing) => [outing.id, summarize(outing, one.labels)]));
  const added = [...here.values()].filter(
    (outing) => !known.has(outing.id) && !pack?.outings.some((old) => old.id === outing.id),
  );
  const outings = [...added, ...(pack?.diary.outings ?? []).map((outing) => here.get(outing.id) ?? outing)];
  return {
    outings: outings.toSorted((a, b) => Date.parse(b.startedAt) - Date.parse(a.startedAt) || (a.id < b.id ? 1 : -1)),
    total: (pack?.diary.total ?? 0) + added.length,
  };
}

function outingOf(one: HorseAlone, id: string): unknown {
  const at = one.judged.findIndex((outing) => outing.id === id);
  const outing = one.folded.outings.find((shown) => shown.id === id);
  const judged = one.judged[at];
  if (!outing || !judged) return null;
  // What was gathered lies here as it was before the latest outing; before an older one nobody here can say.
  const isLatest = at === one.judged.length - 1;
  const before = isLatest ? one.before() : null;
  return composeOuting({
    ...one,
    summary: summarize(judged, one.labels),
    outing,
    judged,
    before,
    recorders: {},
  });
}

function checkUpOf(one: HorseAlone, yard: PackView, query: string, now: string): unknown {
  const before = one.before();
  const latest = one.judged.at(-1);
  const asked = checkUpQuerySchema.safeParse(Object.fromEntries(new URLSearchParams(query)));
  if (!before || !asked.success) return null;
  return composeCheckUp({
    ...one,
    yard: yardOf(yard, now),
    gathered: gatherOn(before, latest ? [latest] : []),
    outings: one.judged,
    asked: asked.data,
  });
}

function stepOf(one: HorseAlone, step: string): unknown {
  const before = one.before();
  const latest = one.judged.at(-1);
  if (!before) return null;
  const gathered = gatherOn(before, latest ? [latest] : []);
  const state = gathered.byId.get(step);
  return state ? composeStep({ ...one, gathered, state }) : null;
}
