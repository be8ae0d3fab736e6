import { z } from "zod";
import { endpoint } from "./endpoint";

/** What this server says of itself. */
export const OF_ITSELF = {
  openApi: endpoint({
    method: "get",
    path: "/openapi.json",
    says: "This description.",
    answers: { 200: z.looseObject({}) },
  }),
  recordSchema: endpoint({
    method: "get",
    path: "/horse-record.schema.json",
    says: "The JSON Schema of the horse record.",
    answers: { 200: z.looseObject({}) },
  }),
};
