import type { HorseId, OutingId, StepId } from "@still-pine/core/record";
import { createApi, type FetchBaseQueryError } from "@reduxjs/toolkit/query/react";
import { askYard } from "./alone/ask-yard";
import { ask, change, type AnswerTo } from "./ask";
import type { KeptMedia } from "./outbox/kept";
import type {
  Batch,
  BatchResult,
  DeviceFields,
  HorseFields,
  LedgerFilter,
  LedgerQuery,
  NewHorse,
  Preview,
  Problem,
  TroubleFields,
  YardFields,
} from "@still-pine/contract/http";
import type { ProgramFile, Stage } from "@still-pine/core/programs";

/** Everything the server knows comes through here; a stored event makes every view of its horse stale. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: askYard,
  tagTypes: ["String", "Horse", "Ledger", "Labels", "Phones", "Programs", "Troubles", "Anew"],
  endpoints: (build) => ({
    yard: build.query<AnswerTo<"yard">, void>({ query: () => ask<"yard">("/yard", {}), providesTags: ["String"] }),
    changeYard: build.mutation<AnswerTo<"changeYard">, { version: number; fields: YardFields }>({
      query: ({ version, fields }) => change<"changeYard">("PUT", "/yard", {}, { body: fields, version }),
      invalidatesTags: (result) => (result ? ["String", "Horse", "Ledger"] : []),
    }),
    yardDays: build.query<AnswerTo<"yardDays">, void>({
      query: () => ask<"yardDays">("/yard/days", {}),
      providesTags: ["Horse"],
    }),
    wordsAnew: build.query<AnswerTo<"wordsAnew">, void>({
      query: () => ask<"wordsAnew">("/yard/words-anew", {}),
      providesTags: ["Anew"],
    }),
    readWordsAnew: build.mutation<AnswerTo<"readWordsAnew">, void>({
      query: () => change<"readWordsAnew">("POST", "/yard/words-anew/read", {}),
      invalidatesTags: ["Anew"],
    }),
    labels: build.query<AnswerTo<"places">, "places" | "people">({
      query: (kind) => (kind === "places" ? ask<"places">("/places", {}) : ask<"people">("/people", {})),
      providesTags: ["Labels", "String"],
    }),
    relabel: build.mutation<
      AnswerTo<"relabelPlace">,
      { kind: "places" | "people"; id: string; version: number; label: string }
    >({
      query: ({ kind, id, version, label }) => {
        const said = { body: { label }, version };
        return kind === "places"
          ? change<"relabelPlace">("PUT", "/places/{label}", { label: id }, said)
          : change<"relabelPerson">("PUT", "/people/{label}", { label: id }, said);
      },
      invalidatesTags: ["Labels", "String", "Horse", "Ledger"],
    }),
    string: build.query<AnswerTo<"string">, void>({
      query: () => ask<"string">("/string", {}),
      providesTags: ["String"],
    }),
    horse: build.query<AnswerTo<"horse">, string>({
      query: (horse) => ask<"horse">("/horses/{horse}", { horse }),
      providesTags: ["Horse"],
    }),
    brief: build.query<AnswerTo<"brief">, string>({
      query: (horse) => ask<"brief">("/horses/{horse}/brief", { horse }),
      providesTags: ["Horse"],
    }),
    checkUp: build.query<AnswerTo<"checkUp">, { horse: HorseId; upTo?: Stage; steps?: readonly string[] }>({
      query: ({ horse, upTo, steps }) =>
        ask<"checkUp">("/horses/{horse}/check-up", { horse }, { upTo, steps: steps?.join(",") }),
      providesTags: ["Horse"],
    }),
    programs: build.query<AnswerTo<"programs">, void>({
      query: () => ask<"programs">("/programs", {}),
      providesTags: ["Programs"],
    }),
    putDraft: build.mutation<AnswerTo<"putDraft">, { id: string; version: number; file: ProgramFile }>({
      query: ({ id: program, version, file }) =>
        change<"putDraft">("PUT", "/programs/{program}/draft", { program }, { body: { file: { ...file } }, version }),
      invalidatesTags: (result, _error, { version }) => (result && version === 0 ? ["Programs"] : []),
    }),
    dropDraft: build.mutation<AnswerTo<"dropDraft">, { id: string; version: number }>({
      query: ({ id: program, version }) =>
        change<"dropDraft">("POST", "/programs/{program}/draft/drop", { program }, { version }),
      invalidatesTags: ["Programs"],
    }),
    programChanges: build.query<AnswerTo<"programChanges">, string>({
      query: (program) => ask<"programChanges">("/programs/{program}/changes", { program }),
    }),
    publishProgram: build.mutation<AnswerTo<"publishProgram">, { id: string; version: number }>({
      query: ({ id: program, version }) =>
        change<"publishProgram">("POST", "/programs/{program}/publish", { program }, { version }),
      invalidatesTags: (result) => (result ? ["Programs", "String", "Horse", "Ledger"] : []),
    }),
    troubles: build.query<AnswerTo<"troubles">, void>({
      query: () => ask<"troubles">("/troubles", {}),
      providesTags: ["Troubles"],
    }),
    putTrouble: build.mutation<AnswerTo<"putTrouble">, { id: string; version: number; fields: TroubleFields }>({
      query: ({ id: trouble, version, fields }) =>
        change<"putTrouble">("PUT", "/troubles/{trouble}", { trouble }, { body: fields, version }),
      invalidatesTags: ["Troubles"],
    }),
    dropTrouble: build.mutation<AnswerTo<"dropTrouble">, { id: string; version: number }>({
      query: ({ id: trouble, version }) =>
        change<"dropTrouble">("POST", "/troubles/{trouble}/drop", { trouble }, { version }),
      invalidatesTags: ["Troubles"],
    }),
    under: build.query<AnswerTo<"under">, { horse: HorseId; programs: readonly string[] }>({
      query: ({ horse, programs }) =>
        ask<"under">("/horses/{horse}/under", { horse }, { programs: programs.join(",") }),
      providesTags: ["Horse"],
    }),
    diary: build.query<AnswerTo<"diary">, { horse: HorseId; skip: number }>({
      query: ({ horse, skip }) => ask<"diary">("/horses/{horse}/outings", { horse }, { skip }),
      providesTags: ["Horse"],
    }),
    step: build.query<AnswerTo<"step">, { horse: HorseId; step: StepId }>({
      query: ({ horse, step }) => ask<"step">("/horses/{horse}/steps/{step}", { horse, step }),
      providesTags: ["Horse"],
    }),
    feel: build.query<AnswerTo<"feel">, string>({
      query: (horse) => ask<"feel">("/horses/{horse}/feel", { horse }),
      providesTags: ["Horse"],
    }),
    outing: build.query<AnswerTo<"outing">, { horse: HorseId; outing: OutingId }>({
      query: ({ horse, outing }) => ask<"outing">("/horses/{horse}/outings/{outing}", { horse, outing }),
      providesTags: ["Horse"],
    }),
    media: build.query<AnswerTo<"media">, string>({
      query: (horse) => ask<"media">("/horses/{horse}/media", { horse }),
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
    addHorse: build.mutation<AnswerTo<"addHorse">, NewHorse>({
      query: (body) => change<"addHorse">("POST", "/horses", {}, { body }),
      invalidatesTags: ["String"],
    }),
    changeHorse: build.mutation<AnswerTo<"changeHorse">, { id: string; version: number; fields: HorseFields }>({
      query: ({ id: horse, version, fields }) =>
        change<"changeHorse">("PUT", "/horses/{horse}", { horse }, { body: fields, version }),
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
    pair: build.mutation<AnswerTo<"pair">, { code: string; name: string }>({
      query: (body) => change<"pair">("POST", "/pair", {}, { body }),
    }),
    unlock: build.mutation<AnswerTo<"unlock">, { phrase: string }>({
      query: (body) => change<"unlock">("POST", "/unlock", {}, { body }),
    }),
    rail: build.query<AnswerTo<"rail">, string>({
      query: (outing) => ask<"rail">("/outings/{outing}/rail", { outing }),
    }),
    phones: build.query<AnswerTo<"phones">, void>({
      query: () => ask<"phones">("/phones", {}),
      providesTags: ["Phones"],
    }),
    makeCode: build.mutation<AnswerTo<"makeCode">, { rights: "all" } | { rights: "write"; outing: OutingId }>({
      query: (body) => change<"makeCode">("POST", "/codes", {}, { body }),
    }),
    changeDevice: build.mutation<AnswerTo<"changeDevice">, { id: string; version: number; fields: DeviceFields }>({
      query: ({ id: device, version, fields }) =>
        change<"changeDevice">("PUT", "/devices/{device}", { device }, { body: fields, version }),
      invalidatesTags: ["Phones"],
    }),
    setPassPhrase: build.mutation<AnswerTo<"setPassPhrase">, { phrase: string | null; current?: string }>({
      query: (body) => change<"setPassPhrase">("PUT", "/pass-phrase", {}, { body }),
      invalidatesTags: ["Phones"],
    }),
    running: build.query<AnswerTo<"running">, void>({
      query: () => ask<"running">("/running", {}),
      providesTags: ["Horse"],
    }),
    bringIn: build.mutation<AnswerTo<"bringInRecord">, { file: Blob; isArchive: boolean; how: Preview }>({
      query: ({ file, isArchive, how }) => ({
        url: isArchive ? ask<"bringInArchive">("/archives", {}, how) : ask<"bringInRecord">("/records", {}, how),
        method: "POST",
        // A blob's own type is what is sent; a file without an ending has none.
        body: file.slice(0, file.size, isArchive ? "application/zip" : "application/json"),
      }),
      invalidatesTags: (result) => (result && !result.preview ? ["String", "Horse", "Ledger", "Labels"] : []),
    }),
    bringInCsv: build.mutation<AnswerTo<"bringInCsv">, { text: string; preview: boolean }>({
      query: ({ text, preview }) => ({
        url: ask<"bringInCsv">("/csv", {}, { preview: preview ? "1" : undefined }),
        method: "POST",
        body: text,
        headers: { "Content-Type": "text/csv" },
      }),
      invalidatesTags: (result) => (result && !result.preview ? ["String", "Horse", "Ledger"] : []),
    }),
    ledger: build.query<AnswerTo<"ledger">, LedgerQuery>({
      query: (query) => ask<"ledger">("/ledger", {}, query),
      providesTags: ["Ledger"],
      keepUnusedDataFor: 30,
    }),
    ledgerSums: build.query<AnswerTo<"ledgerSums">, LedgerFilter>({
      query: (filter) => ask<"ledgerSums">("/ledger/sums", {}, filter),
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

export const {
  useYardQuery,
  useChangeYardMutation,
  useYardDaysQuery,
  useWordsAnewQuery,
  useReadWordsAnewMutation,
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
