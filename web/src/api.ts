import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type {
  Batch,
  BatchResult,
  BriefView,
  CsvResult,
  Diary,
  FeelView,
  HorseFields,
  HorseView,
  ImportResult,
  LabelView,
  LedgerFilter,
  LedgerPage,
  LedgerQuery,
  LedgerSums,
  MediaView,
  NewHorse,
  OutingView,
  Preview,
  Problem,
  StepView,
  StringView,
  YardFields,
  YardView,
} from "@still-pine/contract/http";

const part = encodeURIComponent;
const versioned = (version: number): Record<string, string> => ({ "If-Match": `"${version}"` });

/** Everything the server knows comes through here; a stored event makes every view of its horse stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api" }),
  tagTypes: ["String", "Horse", "Ledger", "Labels"],
  endpoints: (build) => ({
    yard: build.query<YardView, void>({ query: () => "yard", providesTags: ["String"] }),
    changeYard: build.mutation<{ version: number }, { version: number; fields: YardFields }>({
      query: ({ version, fields }) => ({ url: "yard", method: "PUT", body: fields, headers: versioned(version) }),
      invalidatesTags: (result) => (result ? ["String", "Horse", "Ledger"] : []),
    }),
    labels: build.query<LabelView[], "places" | "people">({
      query: (kind) => kind,
      providesTags: ["Labels", "String"],
    }),
    relabel: build.mutation<LabelView, { kind: "places" | "people"; id: string; version: number; label: string }>({
      query: ({ kind, id, version, label }) => ({
        url: `${kind}/${part(id)}`,
        method: "PUT",
        body: { label },
        headers: versioned(version),
      }),
      invalidatesTags: ["Labels", "String", "Horse", "Ledger"],
    }),
    string: build.query<StringView, void>({ query: () => "string", providesTags: ["String"] }),
    horse: build.query<HorseView, string>({ query: (id) => `horses/${part(id)}`, providesTags: ["Horse"] }),
    brief: build.query<BriefView, string>({ query: (id) => `horses/${part(id)}/brief`, providesTags: ["Horse"] }),
    diary: build.query<Diary, { horse: string; skip: number }>({
      query: ({ horse, skip }) => `horses/${part(horse)}/outings?skip=${skip}`,
      providesTags: ["Horse"],
    }),
    step: build.query<StepView, { horse: string; step: string }>({
      query: ({ horse, step }) => `horses/${part(horse)}/steps/${part(step)}`,
      providesTags: ["Horse"],
    }),
    feel: build.query<FeelView, string>({ query: (id) => `horses/${part(id)}/feel`, providesTags: ["Horse"] }),
    outing: build.query<OutingView, { horse: string; outing: string }>({
      query: ({ horse, outing }) => `horses/${part(horse)}/outings/${part(outing)}`,
      providesTags: ["Horse"],
    }),
    media: build.query<MediaView[], string>({
      query: (horse) => `horses/${part(horse)}/media`,
      providesTags: ["Horse"],
    }),
    addMedia: build.mutation<
      null,
      { horse: string; outing: string | null; id: string; content: Blob; thumbnail: Blob | null }
    >({
      queryFn: async ({ horse, outing, id, content, thumbnail }, _api, _options, ask) => {
        const where = outing === null ? "" : `?outing=${part(outing)}`;
        const stored = await ask({
          url: `horses/${part(horse)}/media/${part(id)}${where}`,
          method: "PUT",
          body: content,
        });
        if (stored.error) return { error: stored.error };
        if (thumbnail) await ask({ url: `media/${part(id)}/thumbnail`, method: "PUT", body: thumbnail });
        return { data: null };
      },
      invalidatesTags: ["Horse"],
    }),
    addHorse: build.mutation<{ id: string }, NewHorse>({
      query: (body) => ({ url: "horses", method: "POST", body }),
      invalidatesTags: ["String"],
    }),
    changeHorse: build.mutation<{ id: string; version: number }, { id: string; version: number; fields: HorseFields }>({
      query: ({ id, version, fields }) => ({
        url: `horses/${part(id)}`,
        method: "PUT",
        body: fields,
        headers: versioned(version),
      }),
      invalidatesTags: (result) => (result ? ["String", "Horse", "Ledger"] : []),
    }),
    sendEvents: build.mutation<BatchResult, Batch>({
      query: (body) => ({ url: "events", method: "POST", body }),
      invalidatesTags: ["String", "Horse", "Ledger"],
    }),
    bringIn: build.mutation<ImportResult, { file: Blob; isArchive: boolean; how: Preview }>({
      query: ({ file, isArchive, how }) => ({
        url: `${isArchive ? "archives" : "records"}?${new URLSearchParams(how as Record<string, string>).toString()}`,
        method: "POST",
        // A blob's own type is what is sent; a file without an ending has none.
        body: file.slice(0, file.size, isArchive ? "application/zip" : "application/json"),
      }),
      invalidatesTags: (result) => (result && !result.preview ? ["String", "Horse", "Ledger", "Labels"] : []),
    }),
    bringInCsv: build.mutation<CsvResult, { text: string; preview: boolean }>({
      query: ({ text, preview }) => ({
        url: preview ? "csv?preview=1" : "csv",
        method: "POST",
        body: text,
        headers: { "Content-Type": "text/csv" },
      }),
      invalidatesTags: (result) => (result && !result.preview ? ["String", "Horse", "Ledger"] : []),
    }),
    ledger: build.query<LedgerPage, LedgerQuery>({
      query: (query) => `ledger?${searchOf(query)}`,
      providesTags: ["Ledger"],
      keepUnusedDataFor: 30,
    }),
    ledgerSums: build.query<LedgerSums, LedgerFilter>({
      query: (filter) => `ledger/sums?${searchOf(filter)}`,
      providesTags: ["Ledger"],
    }),
  }),
});

/** A filter as it stands in an address. */
export function searchOf(filter: object): string {
  const said = Object.entries(filter).filter(([, value]) => value !== undefined && value !== "");
  return new URLSearchParams(said.map(([name, value]) => [name, String(value)])).toString();
}

export const {
  useYardQuery,
  useChangeYardMutation,
  useLabelsQuery,
  useRelabelMutation,
  useStringQuery,
  useHorseQuery,
  useBriefQuery,
  useDiaryQuery,
  useStepQuery,
  useFeelQuery,
  useOutingQuery,
  useMediaQuery,
  useAddMediaMutation,
  useAddHorseMutation,
  useChangeHorseMutation,
  useSendEventsMutation,
  useBringInMutation,
  useBringInCsvMutation,
  useLedgerQuery,
  useLedgerSumsQuery,
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
