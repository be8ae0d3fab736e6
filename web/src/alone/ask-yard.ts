import {
  fetchBaseQuery,
  type BaseQueryFn,
  type FetchArgs,
  type FetchBaseQueryError,
} from "@reduxjs/toolkit/query/react";
import { knownYard } from "../outbox/yard";
import { answeredAlone, shutOut, wasReached } from "./reach";

/** Asks the server; where it cannot be reached, what this device knows answers instead. */

/** A view that is not there by then is answered from here, where that can be. */
const VIEW_WITHIN_MS = 8000;

const network = fetchBaseQuery({
  baseUrl: "/api",
  prepareHeaders: (headers) => {
    const yard = knownYard();
    if (yard !== null) headers.set("Still-Pine-Yard", yard);
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
    if (isView) wasReached();
    return result;
  }
  if (result.error.status === 401) await shutOut(result.error.data);
  if (!isView || !isAway(result.error)) return result;
  const { answerAlone } = await import("./answer");
  const own = await answerAlone(asked.url, new Date().toISOString()).catch(() => null);
  if (!own) return result;
  answeredAlone(own.at);
  return { data: own.data };
};

/** Nobody there, something that is not Still Pine, or Still Pine without its database. */
function isAway({ status }: FetchBaseQueryError): boolean {
  return typeof status === "string" || status === 502 || status === 503 || status === 504;
}
