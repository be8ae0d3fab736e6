import { ENDPOINTS, patternOf, type Endpoint, type OfflineName } from "@still-pine/contract/http";
import { ANSWERS, type YardPort } from "@still-pine/contract/views";
import { keeper } from "../outbox/kept";
import { deviceYard } from "./device-yard";
import type { HorseAlone } from "./horse-alone";
import { horsePack, yardPack } from "./packs";

/** What this device answers by itself when the server cannot be reached, in the server's own words. */
export interface OwnAnswer {
  data: unknown;
  /** When what it rests on was fetched. */
  at: string;
  /** Verdicts are as they were then, for an older outing was changed here since. */
  isBehind: boolean;
}

type Params = Readonly<Record<string, string>>;

interface Way {
  pattern: RegExp;
  query: Endpoint["query"];
  answer: (port: YardPort, asked: { params: Params; query: unknown }) => Promise<unknown>;
}

/** The endpoints that are declared to be answered offline. Parameters and query are read as declared before they are handed on. */
const WAYS: readonly Way[] = (Object.keys(ANSWERS) as OfflineName[]).map((name) => {
  const declared: Endpoint = ENDPOINTS[name];
  return { pattern: patternOf(declared), query: declared.query, answer: ANSWERS[name] as Way["answer"] };
});

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
  const store = {
    yard: yard.pack,
    horse: horsePack,
    recorded: async (id: string) => (await (await keeper()).eventsOfHorse(id)).filter(({ sent }) => sent !== 2),
  };
  const data = await answer(path, deviceYard(store, now, seen));
  return data === null ? null : { data, at: yard.at, isBehind: seen.some(({ isBehind }) => isBehind) };
}

/** Answers from a yard as somebody knows it. @returns null where it is not known, or nothing of the kind is declared */
export async function answer(path: string, port: YardPort): Promise<unknown> {
  const [place = "", search = ""] = path.split("?");
  for (const way of WAYS) {
    const match = way.pattern.exec(`/${place}`);
    if (!match) continue;
    const params = Object.fromEntries(
      Object.entries(match.groups ?? {}).map(([name, value]) => [name, decodeURIComponent(value)]),
    );
    const query = way.query?.safeParse(Object.fromEntries(new URLSearchParams(search)));
    return query?.success === false ? null : way.answer(port, { params, query: query?.data });
  }
  return null;
}
