import { z } from "zod";
import { idSchema } from "../../record/events";
import { labelFieldsSchema, yardFieldsSchema } from "../bodies";
import { labelViewSchema, newVersionSchema, yardViewSchema } from "../views";
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
