import { createApi, type FetchBaseQueryError } from "@reduxjs/toolkit/query/react";
import { askYard } from "./alone/ask-yard";
import type { KeptMedia } from "./outbox/kept";
import type {
  Batch,
  BatchResult,
  BriefView,
  CheckUpView,
  CodeView,
  CsvResult,
  DeviceFields,
  Diary,
  DraftView,
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
  PairedView,
  PhonesView,
  Preview,
  Problem,
  ProgramChanges,
  ProgramsView,
  RailView,
  RunningView,
  StepView,
  StringView,
  TroubleFields,
  TroubleView,
  UnderView,
  YardFields,
  YardView,
} from "@still-pine/contract/http";
import type { ProgramFile } from "@still-pine/core/programs";

const part = encodeURIComponent;
const versioned = (version: number): Record<string, string> => ({ "If-Match": `"${version}"` });

/** Everything the server knows comes through here; a stored event makes every view of its horse stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: askYard,
  tagTypes: ["String", "Horse", "Ledger", "Labels", "Phones", "Programs", "Troubles"],
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
    checkUp: build.query<CheckUpView, { horse: string; upTo?: string; steps?: readonly string[] }>({
      query: ({ horse, upTo, steps }) => {
        const asked = new URLSearchParams({ ...(upTo ? { upTo } : {}), ...(steps ? { steps: steps.join(",") } : {}) });
        return `horses/${part(horse)}/check-up${asked.size > 0 ? `?${asked}` : ""}`;
      },
      providesTags: ["Horse"],
    }),
    programs: build.query<ProgramsView, void>({ query: () => "programs", providesTags: ["Programs"] }),
    putDraft: build.mutation<DraftView, { id: string; version: number; file: ProgramFile }>({
      query: ({ id, version, file }) => ({
        url: `programs/${part(id)}/draft`,
        method: "PUT",
        body: { file },
        headers: versioned(version),
      }),
      invalidatesTags: (result, _error, { version }) => (result && version === 0 ? ["Programs"] : []),
    }),
    dropDraft: build.mutation<null, { id: string; version: number }>({
      query: ({ id, version }) => ({
        url: `programs/${part(id)}/draft/drop`,
        method: "POST",
        body: {},
        headers: versioned(version),
      }),
      invalidatesTags: ["Programs"],
    }),
    programChanges: build.query<ProgramChanges, string>({ query: (id) => `programs/${part(id)}/changes` }),
    publishProgram: build.mutation<{ id: string; version: number }, { id: string; version: number }>({
      query: ({ id, version }) => ({
        url: `programs/${part(id)}/publish`,
        method: "POST",
        body: {},
        headers: versioned(version),
      }),
      invalidatesTags: (result) => (result ? ["Programs", "String", "Horse", "Ledger"] : []),
    }),
    troubles: build.query<TroubleView[], void>({ query: () => "troubles", providesTags: ["Troubles"] }),
    putTrouble: build.mutation<TroubleView, { id: string; version: number; fields: TroubleFields }>({
      query: ({ id, version, fields }) => ({
        url: `troubles/${part(id)}`,
        method: "PUT",
        body: fields,
        headers: versioned(version),
      }),
      invalidatesTags: ["Troubles"],
    }),
    dropTrouble: build.mutation<null, { id: string; version: number }>({
      query: ({ id, version }) => ({
        url: `troubles/${part(id)}/drop`,
        method: "POST",
        body: {},
        headers: versioned(version),
      }),
      invalidatesTags: ["Troubles"],
    }),
    under: build.query<UnderView, { horse: string; programs: readonly string[] }>({
      query: ({ horse, programs }) => `horses/${part(horse)}/under?programs=${programs.map(part).join(",")}`,
      providesTags: ["Horse"],
    }),
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
    addMedia: build.mutation<{ isSent: boolean }, KeptMedia>({
      queryFn: async (media) => {
        const { sendMediaNow } = await import("./outbox/now");
        const sent = await sendMediaNow(media);
        return "problem" in sent ? { error: refusal(sent.problem) } : { data: sent };
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
    /** Kept on this device first, then sent. What the server refuses is told at once; while it is away all of it waits here. */
    sendEvents: build.mutation<SentNow, Batch>({
      queryFn: async ({ events }) => {
        const { sendNow } = await import("./outbox/now");
        const sent = await sendNow(events);
        return "problem" in sent ? { error: refusal(sent.problem) } : { data: sent };
      },
      invalidatesTags: ["String", "Horse", "Ledger"],
    }),
    pair: build.mutation<PairedView, { code: string; name: string }>({
      query: (body) => ({ url: "pair", method: "POST", body }),
    }),
    unlock: build.mutation<null, { phrase: string }>({ query: (body) => ({ url: "unlock", method: "POST", body }) }),
    rail: build.query<RailView, string>({ query: (outing) => `outings/${part(outing)}/rail` }),
    phones: build.query<PhonesView, void>({ query: () => "phones", providesTags: ["Phones"] }),
    makeCode: build.mutation<CodeView, { rights: "all" } | { rights: "write"; outing: string }>({
      query: (body) => ({ url: "codes", method: "POST", body }),
    }),
    changeDevice: build.mutation<{ version: number }, { id: string; version: number; fields: DeviceFields }>({
      query: ({ id, version, fields }) => ({
        url: `devices/${part(id)}`,
        method: "PUT",
        body: fields,
        headers: versioned(version),
      }),
      invalidatesTags: ["Phones"],
    }),
    setPassPhrase: build.mutation<null, { phrase: string | null; current?: string }>({
      query: (body) => ({ url: "pass-phrase", method: "PUT", body }),
      invalidatesTags: ["Phones"],
    }),
    running: build.query<RunningView, void>({ query: () => "running", providesTags: ["Horse"] }),
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

/** What became of events sent from a page. */
export interface SentNow {
  changes: BatchResult["changes"];
  /** False where they wait on this device. */
  isSent: boolean;
}

const refusal = (problem: Problem): FetchBaseQueryError => ({ status: problem.status, data: problem });

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
  useCheckUpQuery,
  useTroublesQuery,
  usePutTroubleMutation,
  useDropTroubleMutation,
  useUnderQuery,
  useProgramsQuery,
  usePutDraftMutation,
  useDropDraftMutation,
  useLazyProgramChangesQuery,
  usePublishProgramMutation,
  useFeelQuery,
  useOutingQuery,
  useMediaQuery,
  useAddMediaMutation,
  useAddHorseMutation,
  useChangeHorseMutation,
  useSendEventsMutation,
  usePairMutation,
  useUnlockMutation,
  usePhonesQuery,
  useMakeCodeMutation,
  useChangeDeviceMutation,
  useSetPassPhraseMutation,
  useRunningQuery,
  useBringInMutation,
  useBringInCsvMutation,
  useLedgerQuery,
  useLedgerSumsQuery,
} = api;

const NO_ANSWER: Problem = {
  type: "about:blank",
  title: "No answer",
  status: 0,
  detail: "The server does not answer. Nothing you typed is lost; see that Still Pine runs and try again.",
};

/** The server's problem details behind a failed request, or a plain line where there is none. */
export function problemOf(error: unknown): Problem {
  const data = (error as { data?: unknown } | null)?.data;
  if (typeof data === "object" && data !== null && "detail" in data) return data as Problem;
  return NO_ANSWER;
}
