import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type {
  Batch,
  BatchResult,
  HorseFields,
  HorseView,
  ImportResult,
  NewHorse,
  OutingView,
  Problem,
  StepView,
  StringView,
  YardView,
} from "@still-pine/contract/http";

/** Everything the server knows comes through here; a stored event makes every view of its horse stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api" }),
  tagTypes: ["String", "Horse"],
  endpoints: (build) => ({
    yard: build.query<YardView, void>({ query: () => "yard", providesTags: ["String"] }),
    string: build.query<StringView, void>({ query: () => "string", providesTags: ["String"] }),
    horse: build.query<HorseView, string>({
      query: (id) => `horses/${encodeURIComponent(id)}`,
      providesTags: ["Horse"],
    }),
    step: build.query<StepView, { horse: string; step: string }>({
      query: ({ horse, step }) => `horses/${encodeURIComponent(horse)}/steps/${encodeURIComponent(step)}`,
      providesTags: ["Horse"],
    }),
    outing: build.query<OutingView, { horse: string; outing: string }>({
      query: ({ horse, outing }) => `horses/${encodeURIComponent(horse)}/outings/${encodeURIComponent(outing)}`,
      providesTags: ["Horse"],
    }),
    addHorse: build.mutation<{ id: string }, NewHorse>({
      query: (body) => ({ url: "horses", method: "POST", body }),
      invalidatesTags: ["String"],
    }),
    changeHorse: build.mutation<{ id: string; version: number }, { id: string; version: number; fields: HorseFields }>({
      query: ({ id, version, fields }) => ({
        url: `horses/${encodeURIComponent(id)}`,
        method: "PUT",
        body: fields,
        headers: { "If-Match": `"${version}"` },
      }),
      invalidatesTags: (result) => (result ? ["String", "Horse"] : []),
    }),
    sendEvents: build.mutation<BatchResult, Batch>({
      query: (body) => ({ url: "events", method: "POST", body }),
      invalidatesTags: ["String", "Horse"],
    }),
    importRecord: build.mutation<ImportResult, string>({
      query: (body) => ({ url: "records", method: "POST", body, headers: { "Content-Type": "application/json" } }),
      invalidatesTags: (result) => (result ? ["String", "Horse"] : []),
    }),
  }),
});

export const {
  useYardQuery,
  useStringQuery,
  useHorseQuery,
  useStepQuery,
  useOutingQuery,
  useAddHorseMutation,
  useChangeHorseMutation,
  useSendEventsMutation,
  useImportRecordMutation,
} = api;

/** The server's problem details behind a failed request, or a plain line where there is none. */
export function problemOf(error: unknown): Problem {
  const data = (error as { data?: unknown } | null)?.data;
  if (typeof data === "object" && data !== null && "detail" in data) return data as Problem;
  return {
    type: "about:blank",
    title: "No answer",
    status: 0,
    detail: "The server does not answer. Nothing you typed is lost; see that Still Pine runs and try again.",
  };
}
