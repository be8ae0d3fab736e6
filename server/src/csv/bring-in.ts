import { createHash } from "node:crypto";
import { parse } from "csv-parse/sync";
import type { PoolClient } from "pg";
import type { CsvResult } from "@still-pine/contract/http";
import type { InputProblem } from "@still-pine/contract/record";
import { noonIn, type RecordEvent, fieldOf, type HorseId } from "@still-pine/core/record";
import { Refusal } from "../refusals/refusal";
import { listHorses } from "../store/horses";
import { byItself, take, type Offered } from "../recording/take-events";
import { horseEventsAsTheyStand } from "../store/events";
import type { Yard } from "../store/yard";
import { asWritten } from "./cells";

export const CSV_MOST_BYTES = 20 * 1024 * 1024;
const ROWS_SHOWN = 200;
/** More than a large yard weighs and tends in twenty years. */
const ENTRIES_MOST = 50_000;

type Cells = Record<string, string>;

/** Columns that mean a measure, and the field each fills. */
const NUMBERS = { weight_kg: "weightKg", girth_cm: "girthCm", length_cm: "lengthCm" } as const;
const KNOWN_KINDS = new Set(["weight", "care"]);

interface Read {
  line: number;
  horse: HorseId;
  text: string;
  offered: Offered;
}

/**
 * Brings in weights and care from a CSV: one row each, columns by name. Needed: `horse` (its name) or `horse_id`, and `day` or
 * `at`; then `weight_kg`, `girth_cm`, `length_cm`, `means` or `care`, `due_on`, `text`. Rows of other kinds are passed over, so
 * that the ledger's own CSV can be brought in. A row has no id: the same row twice is the same entry.
 */
export async function bringInCsv(
  client: PoolClient,
  yard: Yard,
  text: string,
  now: string,
): Promise<Omit<CsvResult, "preview">> {
  const rows = readRows(text);
  const horses = await listHorses(client, yard.id);
  const refused: InputProblem[] = [];
  const read = rows.flatMap(({ line, cells }): Read[] => {
    const said = (field: string): string => asWritten(cells[field] ?? "").trim();
    const kind = said("kind") || (said("care") ? "care" : "weight");
    if (!KNOWN_KINDS.has(kind) || said("struck_out") === "yes") return [];
    const problem = (column: string, expected: string): Read[] => {
      refused.push({ path: `line ${line}, ${column}`, expected, found: JSON.stringify(said(column).slice(0, 60)) });
      return [];
    };
    const named = horses.filter(({ id, name }) =>
      said("horse_id") ? id === said("horse_id") : name.toLowerCase() === said("horse").toLowerCase(),
    );
    const [horse] = named;
    if (!horse) return problem(said("horse_id") ? "horse_id" : "horse", "a horse of this yard");
    if (named.length > 1) return problem("horse", "one horse; several have this name, so give horse_id");
    const at = said("at") || noonIn(yard.timeZone, said("day"));
    if (!at) return problem("day", "a day such as 2026-05-01");
    const fields = kind === "care" ? careOf(said) : weightOf(said);
    const text = kind === "care" ? `${said("care")} ${said("text")}`.trim() : weightInWords(said);
    const body = { at, type: kind, ...fields };
    const id =
      said("id") ||
      `csv-${createHash("sha256")
        .update(JSON.stringify([horse.id, body]))
        .digest("hex")
        .slice(0, 32)}`;
    return [{ line, horse: horse.name, text, offered: { horse: horse.id, outing: null, event: { id, ...body } } }];
  });
  if (read.length > ENTRIES_MOST)
    throw new Refusal(
      "refused",
      "Too many at once",
      `Expected at most ${ENTRIES_MOST} weights and care in one file, found ${read.length}: bring them in in parts.`,
    );
  const there = await horseEventsAsTheyStand(
    client,
    yard.id,
    read.map(({ offered }) => idOf(offered)),
  );
  const offered = read.map((one): Offered => {
    const before = there.get(idOf(one.offered));
    // A cell holds less than an event: what says the same in its cells is the same.
    return before && cellsOf(before.current) === cellsOf(one.offered.event as RecordEvent)
      ? { ...one.offered, event: before.body }
      : one.offered;
  });
  const { results } = await take(client, yard, offered, now, { where: byItself });
  results.forEach((result, index) => {
    const line = read[index]?.line ?? 0;
    for (const why of result.why ?? []) refused.push({ ...why, path: `line ${line}, ${why.path}` });
  });
  const count = (wanted: string): number => results.filter(({ result }) => result === wanted).length;
  return {
    stored: count("stored"),
    alreadyThere: count("already there"),
    rows: read.slice(0, ROWS_SHOWN).map(({ line, horse, text }, index) => ({
      line,
      horse,
      text,
      result: results[index]?.result ?? "refused",
    })),
    refused: refused.slice(0, ROWS_SHOWN),
  };
}

const idOf = ({ event }: Offered): string => (event as { id: string }).id;

const IN_CELLS = ["type", "kind", "weightKg", "girthCm", "lengthCm", "means", "dueOn", "text"];
const cellsOf = (event: RecordEvent): string =>
  JSON.stringify([Date.parse(event.at), ...IN_CELLS.map((field) => fieldOf(event, field) ?? null)]);

interface Row {
  /** The line of the file on which it begins. */
  line: number;
  cells: Cells;
}

const BREAKS = /\r\n|\r|\n/g;
const countOf = (pattern: RegExp, texts: readonly string[]): number =>
  texts.reduce((sum, text) => sum + (text.match(pattern)?.length ?? 0), 0);

function readRows(text: string): Row[] {
  const rows: Row[] = [];
  // Within quotes the reader counts the two signs of one line break as two lines.
  let counted = 0;
  try {
    parse(text, {
      bom: true,
      skip_empty_lines: true,
      relax_column_count_less: true,
      columns: (header: string[]) => {
        counted += countOf(/\r\n/g, header);
        return header.map((name) => name.trim().toLowerCase().replaceAll(" ", "_"));
      },
      on_record: (cells: Cells, { lines }: { lines: number }): null => {
        const texts = Object.values(cells);
        counted += countOf(/\r\n/g, texts);
        rows.push({ line: lines - counted - countOf(BREAKS, texts), cells });
        return null;
      },
    });
  } catch (cause) {
    throw new Refusal(
      "refused",
      "Not a CSV",
      `The file cannot be read as CSV: ${cause instanceof Error ? cause.message : String(cause)}.`,
      {},
      { cause },
    );
  }
  const [first] = rows;
  if (first && !("horse" in first.cells) && !("horse_id" in first.cells))
    throw new Refusal(
      "refused",
      "Not a CSV of weights or care",
      `Expected a first line with the columns horse, day and weight_kg or care; found ${Object.keys(first.cells).slice(0, 8).join(", ")}.`,
    );
  return rows;
}

type Said = (field: string) => string;

/** A number, or the text as it stands, which the contract then refuses with its own words. */
const numberOr = (text: string): number | string =>
  text !== "" && Number.isFinite(Number(text)) ? Number(text) : text;

function weightOf(said: Said): Record<string, unknown> {
  const numbers = Object.entries(NUMBERS).flatMap(([column, field]) =>
    said(column) === "" ? [] : [[field, numberOr(said(column))]],
  );
  return { ...Object.fromEntries(numbers), ...(said("means") ? { means: said("means") } : {}) };
}

function careOf(said: Said): Record<string, unknown> {
  return {
    kind: said("care"),
    ...(said("text") ? { text: said("text") } : {}),
    ...(said("due_on") ? { dueOn: said("due_on") } : {}),
  };
}

const weightInWords = (said: Said): string =>
  [said("weight_kg") && `${said("weight_kg")} kg`, said("girth_cm") && `girth ${said("girth_cm")} cm`]
    .filter(Boolean)
    .join(", ");
