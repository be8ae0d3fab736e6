import type { LedgerFilter, LedgerPage, LedgerQuery, LedgerRowView, LedgerSums } from "@still-pine/contract/http";
import type { Day, RecordEvent, YardId } from "@still-pine/core/record";
import type { Db } from "../db/pool";
import { OUTING_KIND } from "./ledger-rows";
import { loadLabels, withLabels, type Labels } from "./labels";

/** Where a page ended: the key of its last row. */
interface Key {
  day: Day;
  /** As PostgreSQL writes it, to the microsecond. */
  at: string;
  id: string;
  kind: string;
}

interface Row {
  id: string;
  kind: string;
  day: Day;
  at: Date;
  key_at: string;
  horse_id: string;
  outing_id: string | null;
  place: string | null;
  handler: string | null;
  minutes: number;
  voided: boolean;
  corrected: boolean;
  body: RecordEvent | null;
}

const PAGE = 100;

/** A filter as SQL: conditions on `ledger l` and their values, the yard's first. */
function conditions(yardId: YardId, filter: LedgerFilter, labels: Labels): { where: string; values: unknown[] } {
  const values: unknown[] = [yardId];
  const parts = ["l.yard_id = $1"];
  const add = (sql: string, value: unknown): void => {
    if (value === undefined) return;
    values.push(value);
    parts.push(sql.replace("?", `$${values.length}`));
  };
  const idOf = (kind: "place" | "person", label: string | undefined): string | undefined =>
    label === undefined ? undefined : ([...labels[kind]].find(([, one]) => one === label)?.[0] ?? label);
  add("l.horse_id = ?", filter.horse);
  add("l.day >= ?", filter.from);
  add("l.day <= ?", filter.to);
  add("l.step = ?", filter.step);
  add("l.side = ?", filter.side);
  add("l.kind = ?", filter.kind === "outing" ? OUTING_KIND : filter.kind);
  add("l.place = ?", idOf("place", filter.place));
  add("l.handler = ?", idOf("person", filter.handler));
  return { where: parts.join(" and "), values };
}

/** The SQL of a page; in a function of its own so that a test can have it explained. */
export function ledgerPageSql(
  yardId: YardId,
  { day, skip = 0, after, limit = PAGE, ...filter }: LedgerQuery,
  labels: Labels,
): { text: string; values: unknown[] } {
  const { where, values } = conditions(yardId, filter, labels);
  const key = after === undefined ? null : readKey(after);
  const place = (value: unknown): string => `$${values.push(value)}`;
  const from = key
    ? `and (l.day, l.at, l.id, l.kind) < (${place(key.day)}::date, ${place(key.at)}::timestamptz, ${place(key.id)}, ${place(key.kind)})`
    : day === undefined
      ? ""
      : `and l.day <= ${place(day)}::date`;
  const offset = key || skip === 0 ? "" : `offset ${place(skip)}`;
  return {
    text: `select l.id, l.kind, l.day, l.at, l.at::text as key_at, l.horse_id, l.outing_id, l.place, l.handler, l.minutes, l.voided,
        l.current is not null as corrected, coalesce(l.current, e.body) as body
      from (select * from ledger l where ${where} ${from}
            order by l.day desc, l.at desc, l.id desc, l.kind desc ${offset} limit ${place(limit)}) l
      left join event e on e.yard_id = l.yard_id and e.id = l.id and l.kind <> '${OUTING_KIND}'
      order by l.day desc, l.at desc, l.id desc, l.kind desc`,
    values,
  };
}

/** A page of the ledger, the latest first. */
export async function ledgerPage(db: Db, yardId: YardId, query: LedgerQuery): Promise<LedgerPage> {
  const labels = await loadLabels(db, yardId);
  const { rows } = await db.query<Row>(ledgerPageSql(yardId, query, labels));
  const last = rows.at(-1);
  const isFull = rows.length === (query.limit ?? PAGE);
  return { rows: rows.map((row) => toView(row, labels)), next: last && isFull ? writeKey(last) : null };
}

/** All rows of a filter, a page at a time. */
export async function* ledgerPages(db: Db, yardId: YardId, filter: LedgerFilter): AsyncGenerator<LedgerRowView[]> {
  let after: string | undefined;
  do {
    const page = await ledgerPage(db, yardId, { ...filter, limit: 500, ...(after === undefined ? {} : { after }) });
    yield page.rows;
    after = page.next ?? undefined;
  } while (after !== undefined);
}

function toView(row: Row, labels: Labels): LedgerRowView {
  return {
    id: row.id,
    kind: row.kind === OUTING_KIND ? "outing" : row.kind,
    day: row.day,
    at: row.at.toISOString(),
    horse: row.horse_id,
    outing: row.outing_id,
    place: row.place === null ? null : (labels.place.get(row.place) ?? row.place),
    handler: row.handler === null ? null : (labels.person.get(row.handler) ?? row.handler),
    minutes: row.minutes,
    voided: row.voided,
    corrected: row.corrected,
    event: row.body && withLabels(row.body, labels),
  };
}

const writeKey = ({ day, key_at: at, id, kind }: Row): string =>
  Buffer.from(JSON.stringify([day, at, id, kind])).toString("base64url");

/** @returns a key before everything where the text is none of ours: the page is then empty, not wrong */
function readKey(text: string): Key {
  const nothing: Key = { day: "0001-01-01", at: "0001-01-01 00:00:00+00", id: "", kind: "" };
  try {
    const [day, at, id, kind] = JSON.parse(Buffer.from(text, "base64url").toString()) as unknown[];
    const isRight =
      typeof day === "string" &&
      /^\d{4}-\d\d-\d\d$/.test(day) &&
      !Number.isNaN(Date.parse(day)) &&
      typeof at === "string" &&
      /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d(\.\d{1,6})?\+00$/.test(at) &&
      !Number.isNaN(Date.parse(at.replace("+00", "Z"))) &&
      typeof id === "string" &&
      typeof kind === "string" &&
      !`${id}${kind}`.includes("\0");
    return isRight ? { day, at, id, kind } : nothing;
  } catch {
    return nothing;
  }
}

/** What a filter's rows add up to, and how many there are on each day, so that any place in them can be jumped to. */
export async function ledgerSums(db: Db, yardId: YardId, filter: LedgerFilter): Promise<LedgerSums> {
  const labels = await loadLabels(db, yardId);
  const { where, values } = conditions(yardId, filter, labels);
  // An outing belongs to a filter on its own fields by itself, to any other by its events.
  const byOwnFields = filter.step === undefined && filter.side === undefined && filter.kind === undefined;
  const outings = byOwnFields
    ? `select count(*)::int as outings, coalesce(sum(minutes), 0)::int as minutes from ledger l where ${where} and kind = ''`
    : `select count(*)::int as outings, coalesce(sum(o.minutes), 0)::int as minutes from ledger o
       where o.yard_id = $1 and o.kind = '' and o.id in (select distinct outing_id from ledger l where ${where} and not voided)`;
  const [days, asks, worked] = await Promise.all([
    db.query<{ day: Day; n: number }>(
      `select day, count(*)::int as n from ledger l where ${where} group by day order by day desc`,
      values,
    ),
    db.query<{ side: string | null; asks: number }>(
      `select side, sum(asks)::int as asks from ledger l where ${where} and asks > 0 group by side`,
      values,
    ),
    db.query<{ outings: number; minutes: number }>(outings, values),
  ]);
  const sides = { near: 0, off: 0, none: 0 };
  for (const { side, asks: count } of asks.rows) sides[side === "near" || side === "off" ? side : "none"] += count;
  return {
    rows: days.rows.reduce((sum, { n }) => sum + n, 0),
    outings: worked.rows[0]?.outings ?? 0,
    minutes: worked.rows[0]?.minutes ?? 0,
    asks: sides.near + sides.off + sides.none,
    sides,
    days: days.rows.map(({ day, n }) => [day, n]),
  };
}
