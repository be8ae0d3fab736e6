import { idSchema } from "../../record/events";
import { previewSchema } from "../bodies";
import { csvResultSchema, importResultSchema } from "../views-of-records";
import { endpoint } from "./endpoint";

const horse = { horse: idSchema };

/** Records, archives and CSV, out and in. */
export const OF_FILES = {
  record: endpoint({
    method: "get",
    path: "/horses/{horse}/record",
    says: "The horse record, an open format.",
    parameters: horse,
    answers: { 200: "application/json" },
    refuses: [404],
  }),
  horseArchive: endpoint({
    method: "get",
    path: "/horses/{horse}/archive",
    says: "The horse record with its photos and clips.",
    parameters: horse,
    answers: { 200: "application/zip" },
    refuses: [404],
  }),
  yardArchive: endpoint({
    method: "get",
    path: "/archive",
    says: "The whole yard.",
    answers: { 200: "application/zip" },
  }),
  bringInRecord: endpoint({
    method: "post",
    path: "/records",
    says: "Brings in a horse record.",
    query: previewSchema,
    body: { type: "application/json" },
    answers: { 200: importResultSchema, 201: importResultSchema },
    refuses: [409, 415, 422],
  }),
  bringInArchive: endpoint({
    method: "post",
    path: "/archives",
    says: "Brings in an archive of a horse or a yard.",
    query: previewSchema,
    body: { type: "application/zip" },
    answers: { 200: importResultSchema, 201: importResultSchema },
    refuses: [409, 415, 422],
  }),
  bringInCsv: endpoint({
    method: "post",
    path: "/csv",
    says: "Brings in weights and care.",
    query: previewSchema.pick({ preview: true }),
    body: { type: "text/csv" },
    answers: { 200: csvResultSchema },
    refuses: [415, 422],
  }),
};
