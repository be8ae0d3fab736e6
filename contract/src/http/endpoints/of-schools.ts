import { idSchema } from "../../record/events";
import { checkUpQuerySchema, underQuerySchema } from "../bodies";
import { checkUpViewSchema } from "../check-up";
import {
  draftSchema,
  draftViewSchema,
  programChangesSchema,
  programsViewSchema,
  publishedSchema,
  underViewSchema,
} from "../programs";
import { troubleFieldsSchema, troubleViewSchema } from "../troubles";
import { z } from "zod";
import { endpoint, json } from "./endpoint";

const horse = { horse: idSchema };
const program = { program: idSchema };
const trouble = { trouble: idSchema };

/** Programs, troubles and check-ups. */
export const OF_SCHOOLS = {
  programs: endpoint({
    method: "get",
    path: "/programs",
    says: "The yard's own programs, every version, and the drafts.",
    answers: { 200: programsViewSchema },
    offline: true,
  }),
  putDraft: endpoint({
    method: "put",
    path: "/programs/{program}/draft",
    says: 'Stores a draft, unsound or not; `"0"` in If-Match begins one.',
    parameters: program,
    versioned: true,
    body: json(draftSchema),
    answers: { 200: draftViewSchema },
    refuses: [404, 412, 428],
  }),
  dropDraft: endpoint({
    method: "post",
    path: "/programs/{program}/draft/drop",
    says: "Takes a draft away; what was published stays.",
    parameters: program,
    versioned: true,
    answers: { 204: "" },
    refuses: [404, 412, 428],
  }),
  programChanges: endpoint({
    method: "get",
    path: "/programs/{program}/changes",
    says: "What publishing the draft would change for each horse in work that goes by the program.",
    parameters: program,
    answers: { 200: programChangesSchema },
    refuses: [404, 422],
  }),
  publishProgram: endpoint({
    method: "post",
    path: "/programs/{program}/publish",
    says: "Publishes the draft as the program's next version, where it is sound and keeps what guards a person.",
    parameters: program,
    versioned: true,
    answers: { 201: publishedSchema },
    refuses: [404, 412, 422, 428],
  }),
  troubles: endpoint({
    method: "get",
    path: "/troubles",
    says: "Troubles the yard has added to the table of where to look.",
    answers: { 200: z.array(troubleViewSchema) },
    offline: true,
  }),
  putTrouble: endpoint({
    method: "put",
    path: "/troubles/{trouble}",
    says: 'Adds a trouble with `"0"` in If-Match, or changes one.',
    parameters: trouble,
    versioned: true,
    body: json(troubleFieldsSchema),
    answers: { 200: troubleViewSchema },
    refuses: [404, 412, 428],
  }),
  dropTrouble: endpoint({
    method: "post",
    path: "/troubles/{trouble}/drop",
    says: "Takes one of the yard's troubles away.",
    parameters: trouble,
    versioned: true,
    answers: { 204: "" },
    refuses: [404, 412, 428],
  }),
  checkUp: endpoint({
    method: "get",
    path: "/horses/{horse}/check-up",
    says: "What a check-up would test, in which order and with how many asks, and what the last ones found.",
    parameters: horse,
    query: checkUpQuerySchema,
    answers: { 200: checkUpViewSchema },
    refuses: [404],
    offline: true,
  }),
  under: endpoint({
    method: "get",
    path: "/horses/{horse}/under",
    says: "What other programs would say is next for him, and what a move to each would count, miss and add.",
    parameters: horse,
    query: underQuerySchema,
    answers: { 200: underViewSchema },
    refuses: [404],
  }),
};
