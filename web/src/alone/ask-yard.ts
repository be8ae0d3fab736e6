import {
  fetchBaseQuery,
  type BaseQueryFn,
  type FetchArgs,
  type FetchBaseQueryError,
} from "@reduxjs/toolkit/query/react";
import type { YardView } from "@still-pine/contract/http";
import type { ProgramFile } from "@still-pine/core/programs";
import { programsCame } from "../book/slice";
import { yardHeader } from "../outbox/yard";
import { deviceAnswered, notLetIn, serverAnswered } from "../outbox/reach";

/** Asks the server; where it cannot be reached, what this device knows answers instead. */

/** A view that is not there by then is answered from here, where that can be. */
const VIEW_WITHIN_MS = 8000;

const network = fetchBaseQuery({
  baseUrl: "/api",
  prepareHeaders: (headers) => {
    for (const [name, value] of Object.entries(yardHeader())) headers.set(name, value);
  },
});

export const askYard: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = async (args, api, extra) => {
  const asked = typeof args === "string" ? { url: args } : args;
  const isView = asked.method === undefined || asked.method === "GET";
  const isOff = typeof navigator !== "undefined" && !navigator.onLine;
  const result =
    isView && isOff
      ? { error: { status: "FETCH_ERROR", error: "no network" } as const }
      : await network(isView ? { ...asked, timeout: VIEW_WITHIN_MS } : asked, api, extra);
  if (!result.error) {
    if (isView) api.dispatch(serverAnswered());
    const own = programsIn(result.data);
    if (own) api.dispatch(programsCame(own));
    return result;
  }
  if (result.error.status === 401) {
    const why = String((result.error.data as { why?: unknown } | null)?.why ?? "unknown");
    api.dispatch(notLetIn(why));
    // Whoever was shut out on the laptop keeps what it recorded, and nothing else.
    if (why === "withdrawn") await (await import("./packs")).forgetPacks();
  }
  if (!isView || !isAway(result.error)) return result;
  const { answerAlone } = await import("./answer");
  const own = await answerAlone(asked.url, new Date().toISOString()).catch(() => null);
  if (!own) return result;
  const programs = programsIn(own.data);
  if (programs) api.dispatch(programsCame(programs));
  api.dispatch(deviceAnswered({ fetchedAt: own.at, isBehind: own.isBehind }));
  return { data: own.data };
};

/** The yard's own programs, where an answer says what the yard is; undefined where it does not. */
function programsIn(data: unknown): readonly ProgramFile[] | undefined {
  const answer = data as (Partial<YardView> & { yard?: Partial<YardView> }) | null;
  const yard = answer?.yard ?? answer;
  return yard?.places && yard.timeZone ? ((yard.programs ?? []) as readonly ProgramFile[]) : undefined;
}

/** Nobody there, something that is not Still Pine, or Still Pine without its database. */
function isAway({ status }: FetchBaseQueryError): boolean {
  return typeof status === "string" || status === 502 || status === 503 || status === 504;
}
