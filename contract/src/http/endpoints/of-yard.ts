import { z } from "zod";
import { idSchema } from "../../record/events";
import { labelFieldsSchema, yardFieldsSchema } from "../bodies";
import { dayEstimatesSchema, horseAnewSchema, labelViewSchema, newVersionSchema, yardViewSchema } from "../views";
import { endpoint, json } from "./endpoint";

/** The yard itself and its settings. */
export const OF_YARD = {
  yard: endpoint({
    method: "get",
    path: "/yard",
    says: "The yard and its settings.",
    answers: { 200: yardViewSchema },
    offline: true,
  }),
  changeYard: endpoint({
    method: "put",
    path: "/yard",
    says: "Changes the settings.",
    versioned: true,
    body: json(yardFieldsSchema),
    answers: { 200: newVersionSchema },
    refuses: [412, 428],
  }),
  yardDays: endpoint({
    method: "get",
    path: "/yard/days",
    says: "What the yard's own records say of how asks of one day hang together, and of the first ones. No verdict reads it.",
    answers: { 200: dayEstimatesSchema },
  }),
  wordsAnew: endpoint({
    method: "get",
    path: "/yard/words-anew",
    says: "Words that an update of the judge found otherwise in the same record, until somebody has read of them.",
    answers: { 200: z.array(horseAnewSchema) },
  }),
  readWordsAnew: endpoint({
    method: "post",
    path: "/yard/words-anew/read",
    says: "They were read: they are not told again.",
    answers: { 204: "" },
  }),
};

const relabel = <const Path extends string>(path: Path) =>
  endpoint({
    method: "put",
    path,
    says: "Gives another label; the record shows the new one everywhere.",
    parameters: { label: idSchema },
    versioned: true,
    body: json(labelFieldsSchema),
    answers: { 200: labelViewSchema },
    refuses: [404, 409, 412, 428],
  });

/** Its places and its people. */
export const OF_LABELS = {
  places: endpoint({
    method: "get",
    path: "/places",
    says: "All places by label.",
    answers: { 200: z.array(labelViewSchema) },
    offline: true,
  }),
  relabelPlace: relabel("/places/{label}"),
  people: endpoint({
    method: "get",
    path: "/people",
    says: "All people by label.",
    answers: { 200: z.array(labelViewSchema) },
    offline: true,
  }),
  relabelPerson: relabel("/people/{label}"),
};
