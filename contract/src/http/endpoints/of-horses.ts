import { z } from "zod";
import { anyEventSchema, idSchema } from "../../record/events";
import { batchSchema, diaryQuerySchema, horseFieldsSchema, newHorseSchema } from "../bodies";
import {
  briefViewSchema,
  diarySchema,
  feelViewSchema,
  horseViewSchema,
  newVersionSchema,
  outingViewSchema,
  stepViewSchema,
  stringViewSchema,
} from "../views";
import { batchResultSchema } from "../views-of-records";
import { described, endpoint, json } from "./endpoint";

const horse = { horse: idSchema };
const eventsBody = z.object({
  events: z.array(z.object({ horse: idSchema, outing: idSchema.nullable(), event: anyEventSchema() })),
});

/** The string, each horse, and what is recorded of him. */
export const OF_HORSES = {
  string: endpoint({
    method: "get",
    path: "/string",
    says: "All horses, each with its trail.",
    answers: { 200: stringViewSchema },
    offline: true,
  }),
  addHorse: endpoint({
    method: "post",
    path: "/horses",
    says: "A new horse.",
    body: json(newHorseSchema),
    answers: { 200: newVersionSchema, 201: newVersionSchema },
    refuses: [409, 422],
  }),
  horse: endpoint({
    method: "get",
    path: "/horses/{horse}",
    says: "One horse: verdicts, the latest outings, what is said of it.",
    parameters: horse,
    answers: { 200: horseViewSchema },
    refuses: [404],
    offline: true,
  }),
  changeHorse: endpoint({
    method: "put",
    path: "/horses/{horse}",
    says: "Changes name, age or sex.",
    parameters: horse,
    versioned: true,
    body: json(horseFieldsSchema),
    answers: { 200: newVersionSchema },
    refuses: [404, 412, 422, 428],
  }),
  brief: endpoint({
    method: "get",
    path: "/horses/{horse}/brief",
    says: "What to know before the next outing: where the last one ended, what to check cold, where to work, what is enough.",
    parameters: horse,
    answers: { 200: briefViewSchema },
    refuses: [404],
    offline: true,
  }),
  diary: endpoint({
    method: "get",
    path: "/horses/{horse}/outings",
    says: "Its outings, the latest first.",
    parameters: horse,
    query: diaryQuerySchema,
    answers: { 200: diarySchema },
    refuses: [404],
    offline: true,
  }),
  feel: endpoint({
    method: "get",
    path: "/horses/{horse}/feel",
    says: "Where his answers lay on the feel square over the last outings.",
    parameters: horse,
    answers: { 200: feelViewSchema },
    refuses: [404],
    offline: true,
  }),
  outing: endpoint({
    method: "get",
    path: "/horses/{horse}/outings/{outing}",
    says: "One outing with every entry and every correction.",
    parameters: { ...horse, outing: idSchema },
    answers: { 200: outingViewSchema },
    refuses: [404],
    offline: true,
  }),
  step: endpoint({
    method: "get",
    path: "/horses/{horse}/steps/{step}",
    says: "One step: its verdict and the asks behind it.",
    parameters: { ...horse, step: idSchema },
    answers: { 200: stepViewSchema },
    refuses: [404],
    offline: true,
  }),
  sendEvents: endpoint({
    method: "post",
    path: "/events",
    says: "Stores events. Each is stored, was there already, or is refused; 422 when at least one was refused.",
    right: "write",
    body: described(eventsBody, batchSchema),
    answers: { 200: batchResultSchema },
    refuses: [422],
  }),
};
