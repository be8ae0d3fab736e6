import { is, type HorseId, type YardId } from "@still-pine/core/record";
import { stringify } from "csv-stringify/sync";
import type { LedgerFilter, LedgerRowView } from "@still-pine/contract/http";
import type { Db } from "../db/pool";
import { listHorses } from "../store/horses";
import { ledgerPages } from "../store/ledger";
import { harmless } from "./cells";

/** Columns of the ledger's CSV; weights and care can be brought in again from the same ones. */
const COLUMNS = [
  "id",
  "day",
  "at",
  "horse",
  "horse_id",
  "outing",
  "kind",
  "step",
  "side",
  "phase",
  "answer",
  "mood",
  "count",
  "clean",
  "minutes",
  "place",
  "handler",
  "struck_out",
  "weight_kg",
  "girth_cm",
  "length_cm",
  "means",
  "care",
  "due_on",
  "text",
] as const;
type Column = (typeof COLUMNS)[number];

/** Where a cell stands in an event. */
const FIELD_OF: Partial<Record<Column, string>> = {
  step: "step",
  side: "side",
  phase: "phase",
  answer: "answer",
  mood: "mood",
  count: "count",
  clean: "clean",
  weight_kg: "weightKg",
  girth_cm: "girthCm",
  length_cm: "lengthCm",
  means: "means",
  due_on: "dueOn",
  text: "text",
};

const csvHeader = (): string => stringify([[...COLUMNS]], { record_delimiter: "windows" });

/** Rows of the ledger as CSV (RFC 4180). @param nameOf a horse's name by its id */
function csvRows(rows: readonly LedgerRowView[], nameOf: (horse: HorseId) => string): string {
  return stringify(
    rows.map((row) => COLUMNS.map((column) => cellOf(row, column, nameOf))),
    { record_delimiter: "windows" },
  );
}

function cellOf(row: LedgerRowView, column: Column, nameOf: (horse: HorseId) => string): string {
  const event = (row.event ?? {}) as Record<string, unknown>;
  switch (column) {
    case "id":
      return harmless(row.id);
    case "day":
      return row.day;
    case "at":
      return row.at;
    case "horse":
      return harmless(nameOf(row.horse));
    case "horse_id":
      return harmless(row.horse);
    case "outing":
      return harmless(row.outing ?? "");
    case "kind":
      return harmless(row.kind);
    case "minutes":
      return row.kind === "outing" ? String(row.minutes) : "";
    case "place":
      return harmless(row.place ?? "");
    case "handler":
      return harmless(row.handler ?? "");
    case "struck_out":
      return row.voided ? "yes" : "";
    case "care":
      return row.event && is(row.event, "care") ? row.event.kind : "";
    default:
      return shownIn(event[FIELD_OF[column] ?? column]);
  }
}

/** Numbers as they are, texts made harmless; anything else has no cell. */
const shownIn = (value: unknown): string =>
  typeof value === "number" ? String(value) : typeof value === "string" ? harmless(value) : "";

/** The ledger as CSV, piece by piece. Run it in one transaction that sees one moment. */
export async function* ledgerPieces(db: Db, yardId: YardId, filter: LedgerFilter): AsyncGenerator<string> {
  const names = new Map((await listHorses(db, yardId)).map(({ id, name }) => [id, name]));
  yield csvHeader();
  for await (const rows of ledgerPages(db, yardId, filter)) yield csvRows(rows, (id) => names.get(id) ?? "");
}
