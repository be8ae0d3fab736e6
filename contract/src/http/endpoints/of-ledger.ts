import { idSchema } from "../../record/events";
import { horsePackSchema, packViewSchema } from "../alone";
import { ledgerFilterSchema, ledgerQuerySchema } from "../bodies";
import { ledgerPageSchema, ledgerSumsSchema } from "../views-of-records";
import { endpoint } from "./endpoint";

const horse = { horse: idSchema };

/** Everything that was recorded, and what a phone keeps of it. */
export const OF_LEDGER = {
  ledger: endpoint({
    method: "get",
    path: "/ledger",
    says: "Every outing and event, a page at a time, the latest first.",
    query: ledgerQuerySchema,
    answers: { 200: ledgerPageSchema },
  }),
  ledgerSums: endpoint({
    method: "get",
    path: "/ledger/sums",
    says: "What the ledger adds up to.",
    query: ledgerFilterSchema,
    answers: { 200: ledgerSumsSchema },
  }),
  ledgerCsv: endpoint({
    method: "get",
    path: "/ledger.csv",
    says: "The ledger as CSV (RFC 4180).",
    query: ledgerFilterSchema,
    answers: { 200: "text/csv" },
  }),
  pack: endpoint({
    method: "get",
    path: "/pack",
    says: "What a phone keeps to work alone: the yard, and how far each horse's record has come.",
    answers: { 200: packViewSchema },
  }),
  horsePack: endpoint({
    method: "get",
    path: "/horses/{horse}/pack",
    says: "What a phone keeps of one horse: what was gathered of him, and his last outings.",
    parameters: horse,
    answers: { 200: horsePackSchema },
    refuses: [404],
  }),
};
