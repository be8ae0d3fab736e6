import { z } from "zod";
import { anyEventSchema, idSchema } from "../record/events";
import { checkUpViewSchema } from "./check-up";
import { troubleFieldsSchema, troubleViewSchema } from "./troubles";
import { draftSchema, draftViewSchema, programChangesSchema, programsViewSchema, publishedSchema } from "./programs";
import { horsePackSchema, packViewSchema } from "./alone";
import {
  checkUpQuerySchema,
  diaryQuerySchema,
  underQuerySchema,
  horseFieldsSchema,
  labelFieldsSchema,
  ledgerFilterSchema,
  ledgerQuerySchema,
  mediaIdSchema,
  mediaQuerySchema,
  newHorseSchema,
  previewSchema,
  yardFieldsSchema,
} from "./bodies";
import {
  codeBodySchema,
  codeViewSchema,
  deviceFieldsSchema,
  helloViewSchema,
  pairBodySchema,
  pairedViewSchema,
  passPhraseSchema,
  phonesViewSchema,
  unlockSchema,
} from "./phones";
import { liveQuerySchema, outingPlanSchema, railViewSchema, runningViewSchema } from "./together";
import {
  batchResultSchema,
  briefViewSchema,
  csvResultSchema,
  diarySchema,
  underViewSchema,
  feelViewSchema,
  horseViewSchema,
  importResultSchema,
  labelViewSchema,
  ledgerPageSchema,
  ledgerSumsSchema,
  mediaViewSchema,
  newVersionSchema,
  outingViewSchema,
  stepViewSchema,
  stringViewSchema,
  yardViewSchema,
} from "./views";

export type Right = "open" | "write" | "all" | "laptop";

/** Every route there is: what OpenAPI says of the server, and what the tests hold it to. */
export interface RouteSpec {
  method: "get" | "put" | "post";
  /** Below /api, parameters in braces. */
  path: string;
  says: string;
  parameters?: Record<string, z.ZodType>;
  query?: z.ZodObject;
  /**
   * Who may: anybody; whoever was let in, a helper for the one outing they write down; those let in with all rights, which is
   * what a route needs that says nothing; the person at the laptop.
   */
  right?: Right;
  /** The row's version has to be sent in If-Match. */
  versioned?: boolean;
  body?: { type: string; schema?: z.ZodType };
  /** By status: a schema for JSON, the content type of anything else, or "" for no content. */
  answers: Record<number, z.ZodType | string>;
  /** Statuses of refusals, besides those any route may answer with. */
  refuses?: readonly number[];
}

/** What any route may answer with: bad input, not let in, a foreign page or no right to it, too large, the database away. */
export const ANY_ROUTE_REFUSES = [400, 401, 403, 413, 503, 507] as const;

const json = (schema: z.ZodType): RouteSpec["body"] => ({ type: "application/json", schema });
const horse = { horse: idSchema };
const program = { program: idSchema };
const trouble = { trouble: idSchema };
const MEDIA_TYPES = "image/jpeg, image/png, image/webp, video/mp4, video/quicktime, audio/webm or audio/mp4";
const eventsBody = z.object({
  events: z.array(z.object({ horse: idSchema, outing: idSchema.nullable(), event: anyEventSchema() })),
});

export const ROUTES: readonly RouteSpec[] = [
  { method: "get", path: "/yard", says: "The yard and its settings.", answers: { 200: yardViewSchema } },
  {
    method: "put",
    path: "/yard",
    says: "Changes the settings.",
    versioned: true,
    body: json(yardFieldsSchema),
    answers: { 200: newVersionSchema },
    refuses: [412, 428],
  },
  {
    method: "get",
    path: "/programs",
    says: "The yard's own programs, every version, and the drafts.",
    answers: { 200: programsViewSchema },
  },
  {
    method: "put",
    path: "/programs/{program}/draft",
    says: 'Stores a draft, unsound or not; `"0"` in If-Match begins one.',
    parameters: program,
    versioned: true,
    body: json(draftSchema),
    answers: { 200: draftViewSchema },
    refuses: [404, 412, 428],
  },
  {
    method: "post",
    path: "/programs/{program}/draft/drop",
    says: "Takes a draft away; what was published stays.",
    parameters: program,
    versioned: true,
    answers: { 204: "" },
    refuses: [404, 412, 428],
  },
  {
    method: "get",
    path: "/programs/{program}/changes",
    says: "What publishing the draft would change for each horse in work that goes by the program.",
    parameters: program,
    answers: { 200: programChangesSchema },
    refuses: [404, 422],
  },
  {
    method: "post",
    path: "/programs/{program}/publish",
    says: "Publishes the draft as the program's next version, where it is sound and keeps what guards a person.",
    parameters: program,
    versioned: true,
    answers: { 201: publishedSchema },
    refuses: [404, 412, 422, 428],
  },
  {
    method: "get",
    path: "/troubles",
    says: "Troubles the yard has added to the table of where to look.",
    answers: { 200: z.array(troubleViewSchema) },
  },
  {
    method: "put",
    path: "/troubles/{trouble}",
    says: 'Adds a trouble with `"0"` in If-Match, or changes one.',
    parameters: trouble,
    versioned: true,
    body: json(troubleFieldsSchema),
    answers: { 200: troubleViewSchema },
    refuses: [404, 412, 428],
  },
  {
    method: "post",
    path: "/troubles/{trouble}/drop",
    says: "Takes one of the yard's troubles away.",
    parameters: trouble,
    versioned: true,
    answers: { 204: "" },
    refuses: [404, 412, 428],
  },
  ...(["places", "people"] as const).flatMap((kind): RouteSpec[] => [
    { method: "get", path: `/${kind}`, says: `All ${kind} by label.`, answers: { 200: z.array(labelViewSchema) } },
    {
      method: "put",
      path: `/${kind}/{label}`,
      says: "Gives another label; the record shows the new one everywhere.",
      parameters: { label: idSchema },
      versioned: true,
      body: json(labelFieldsSchema),
      answers: { 200: labelViewSchema },
      refuses: [404, 409, 412, 428],
    },
  ]),
  { method: "get", path: "/string", says: "All horses, each with its trail.", answers: { 200: stringViewSchema } },
  {
    method: "post",
    path: "/horses",
    says: "A new horse.",
    body: json(newHorseSchema),
    answers: { 200: newVersionSchema, 201: newVersionSchema },
    refuses: [409, 422],
  },
  {
    method: "get",
    path: "/horses/{horse}",
    says: "One horse: verdicts, the latest outings, what is said of it.",
    parameters: horse,
    answers: { 200: horseViewSchema },
    refuses: [404],
  },
  {
    method: "put",
    path: "/horses/{horse}",
    says: "Changes name, age or sex.",
    parameters: horse,
    versioned: true,
    body: json(horseFieldsSchema),
    answers: { 200: newVersionSchema },
    refuses: [404, 412, 422, 428],
  },
  {
    method: "get",
    path: "/horses/{horse}/brief",
    says: "What to know before the next outing: where the last one ended, what to check cold, where to work, what is enough.",
    parameters: horse,
    answers: { 200: briefViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/check-up",
    says: "What a check-up would test, in which order and with how many asks, and what the last ones found.",
    parameters: horse,
    query: checkUpQuerySchema,
    answers: { 200: checkUpViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/under",
    says: "What other programs would say is next for him, and what a move to each would count, miss and add.",
    parameters: horse,
    query: underQuerySchema,
    answers: { 200: underViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/outings",
    says: "Its outings, the latest first.",
    parameters: horse,
    query: diaryQuerySchema,
    answers: { 200: diarySchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/feel",
    says: "Where his answers lay on the feel square over the last outings.",
    parameters: horse,
    answers: { 200: feelViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/outings/{outing}",
    says: "One outing with every entry and every correction.",
    parameters: { ...horse, outing: idSchema },
    answers: { 200: outingViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/steps/{step}",
    says: "One step: its verdict and the asks behind it.",
    parameters: { ...horse, step: idSchema },
    answers: { 200: stepViewSchema },
    refuses: [404],
  },
  {
    method: "post",
    path: "/events",
    says: "Stores events. Each is stored, was there already, or is refused; 422 when at least one was refused.",
    right: "write",
    body: json(eventsBody),
    answers: { 200: batchResultSchema },
    refuses: [422],
  },
  {
    method: "get",
    path: "/horses/{horse}/record",
    says: "The horse record, an open format.",
    parameters: horse,
    answers: { 200: "application/json" },
    refuses: [404],
  },
  {
    method: "get",
    path: "/horses/{horse}/archive",
    says: "The horse record with its photos and clips.",
    parameters: horse,
    answers: { 200: "application/zip" },
    refuses: [404],
  },
  { method: "get", path: "/archive", says: "The whole yard.", answers: { 200: "application/zip" } },
  {
    method: "post",
    path: "/records",
    says: "Brings in a horse record.",
    query: previewSchema,
    body: { type: "application/json" },
    answers: { 200: importResultSchema, 201: importResultSchema },
    refuses: [409, 415, 422],
  },
  {
    method: "post",
    path: "/archives",
    says: "Brings in an archive of a horse or a yard.",
    query: previewSchema,
    body: { type: "application/zip" },
    answers: { 200: importResultSchema, 201: importResultSchema },
    refuses: [409, 415, 422],
  },
  {
    method: "post",
    path: "/csv",
    says: "Brings in weights and care.",
    query: previewSchema.pick({ preview: true }),
    body: { type: "text/csv" },
    answers: { 200: csvResultSchema },
    refuses: [415, 422],
  },
  {
    method: "get",
    path: "/horses/{horse}/media",
    says: "Its photos and clips.",
    parameters: horse,
    answers: { 200: z.array(mediaViewSchema) },
    refuses: [404],
  },
  {
    method: "put",
    path: "/horses/{horse}/media/{media}",
    says: `Stores a photo or clip: ${MEDIA_TYPES}. The type is proven by its content, position and other hidden data are taken out.`,
    parameters: { ...horse, media: mediaIdSchema },
    query: mediaQuerySchema,
    body: { type: "*/*" },
    answers: { 200: mediaViewSchema, 201: mediaViewSchema },
    refuses: [404, 409, 415, 422],
  },
  {
    method: "get",
    path: "/media/{media}",
    says: "The photo or clip; ranges are honoured.",
    parameters: { media: mediaIdSchema },
    answers: { 200: "*/*", 206: "*/*" },
    refuses: [404, 416],
  },
  {
    method: "get",
    path: "/media/{media}/thumbnail",
    says: "A small picture of it.",
    parameters: { media: mediaIdSchema },
    answers: { 200: "image/jpeg" },
    refuses: [404],
  },
  {
    method: "put",
    path: "/media/{media}/thumbnail",
    says: "Stores a small picture of it, once.",
    parameters: { media: mediaIdSchema },
    body: { type: "image/jpeg" },
    answers: { 200: mediaViewSchema, 201: mediaViewSchema },
    refuses: [404, 415, 422],
  },
  {
    method: "get",
    path: "/ledger",
    says: "Every outing and event, a page at a time, the latest first.",
    query: ledgerQuerySchema,
    answers: { 200: ledgerPageSchema },
  },
  {
    method: "get",
    path: "/ledger/sums",
    says: "What the ledger adds up to.",
    query: ledgerFilterSchema,
    answers: { 200: ledgerSumsSchema },
  },
  {
    method: "get",
    path: "/ledger.csv",
    says: "The ledger as CSV (RFC 4180).",
    query: ledgerFilterSchema,
    answers: { 200: "text/csv" },
  },
  {
    method: "get",
    path: "/pack",
    says: "What a phone keeps to work alone: the yard, and how far each horse's record has come.",
    answers: { 200: packViewSchema },
  },
  {
    method: "get",
    path: "/horses/{horse}/pack",
    says: "What a phone keeps of one horse: what was gathered of him, and his last outings.",
    parameters: horse,
    answers: { 200: horsePackSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/hello",
    says: "Whether this is Still Pine, who one is to it, and what time it is there.",
    right: "open",
    answers: { 200: helloViewSchema },
  },
  {
    method: "post",
    path: "/pair",
    says: "Lets a device in by a code from the laptop's screen: one use, five minutes, five tries, then a pause. Its key comes as a cookie.",
    right: "open",
    body: json(pairBodySchema),
    answers: { 201: pairedViewSchema },
    refuses: [410, 422, 429],
  },
  {
    method: "post",
    path: "/unlock",
    says: "Opens the laptop by the yard's pass phrase, where it has one.",
    right: "open",
    body: json(unlockSchema),
    answers: { 204: "" },
    refuses: [422, 429],
  },
  {
    method: "post",
    path: "/codes",
    says: "A new code for one device. Only the laptop gives all rights.",
    body: json(codeBodySchema),
    answers: { 201: codeViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/phones",
    says: "Where phones find Still Pine, and which are let in.",
    answers: { 200: phonesViewSchema },
  },
  {
    method: "put",
    path: "/devices/{device}",
    says: "Names a device anew, or shuts it out at once.",
    parameters: { device: idSchema },
    versioned: true,
    body: json(deviceFieldsSchema),
    answers: { 200: newVersionSchema },
    refuses: [404, 412, 428],
  },
  {
    method: "put",
    path: "/pass-phrase",
    says: "What opens the laptop from now on; null: nothing has to.",
    right: "laptop",
    body: json(passPhraseSchema),
    answers: { 204: "" },
    refuses: [422, 429],
  },
  {
    method: "get",
    path: "/running",
    says: "Outings that were begun in the last day and not ended.",
    answers: { 200: runningViewSchema },
  },
  {
    method: "put",
    path: "/outings/{outing}/plan",
    says: "What an outing set out with, for whoever joins it; the first one said stays.",
    parameters: { outing: idSchema },
    body: json(outingPlanSchema),
    answers: { 204: "" },
    refuses: [404],
  },
  {
    method: "get",
    path: "/outings/{outing}/rail",
    says: "A running outing for somebody who joins it: what it set out with and every event so far.",
    right: "write",
    parameters: { outing: idSchema },
    answers: { 200: railViewSchema },
    refuses: [404],
  },
  {
    method: "get",
    path: "/outings/{outing}/live",
    says: "Its events as they come in (server-sent events; the id of each is where to go on after a break).",
    right: "write",
    parameters: { outing: idSchema },
    query: liveQuerySchema,
    answers: { 200: "text/event-stream" },
    refuses: [404],
  },
  { method: "get", path: "/openapi.json", says: "This description.", answers: { 200: z.looseObject({}) } },
  {
    method: "get",
    path: "/horse-record.schema.json",
    says: "The JSON Schema of the horse record.",
    answers: { 200: z.looseObject({}) },
  },
];
