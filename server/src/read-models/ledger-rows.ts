import { sumsOf } from "@still-pine/contract/views";
import { sqlInstant, type Db } from "../db/pool";
import {
  dayIn,
  isAsk,
  isCorrection,
  isSeries,
  type Day,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
} from "@still-pine/core/record";

/** One row of the ledger: an event as it counts now, or an outing, which has the kind ''. */
export interface LedgerRow {
  id: string;
  kind: string;
  day: Day;
  at: string;
  outing: string | null;
  step: string | null;
  side: string | null;
  place: string | null;
  handler: string | null;
  asks: number;
  minutes: number;
  voided: boolean;
  /** With its corrections, where it has any. */
  current: RecordEvent | null;
}

/** No event can have an empty type. */
export const OUTING_KIND = "";

/** The outing's start and end are its own row, not events beside it. */
const IN_THE_OUTING = new Set(["outing-start", "outing-end"]);
const MS_A_MINUTE = 60_000;

/** Rows of an outing and its events. @param only ids of the events that are wanted besides the outing itself; all when null */
export function outingRows(outing: FoldedOuting, folded: FoldedRecord, only: ReadonlySet<string> | null): LedgerRow[] {
  const place = textOf(outing.head.place);
  const handler = textOf(outing.head.handler);
  const rows: LedgerRow[] = [
    {
      id: outing.id,
      kind: OUTING_KIND,
      day: outing.day,
      at: outing.startedAt,
      outing: outing.id,
      step: null,
      side: null,
      place,
      handler,
      asks: 0,
      minutes: minutesOf(outing),
      voided: false,
      current: null,
    },
  ];
  // Of one ask seen by two devices one counts; which of them may change with the second.
  const pairs = new Set(folded.pairs.flat());
  const leftOut = new Set(folded.pairs.map(([, other]) => other));
  for (const event of outing.history)
    if (!IN_THE_OUTING.has(event.type) && (only === null || only.has(event.id) || pairs.has(event.id))) {
      const row = eventRow(event, folded, { outing: outing.id, day: outing.day, place, handler });
      rows.push(leftOut.has(event.id) ? { ...row, asks: 0 } : row);
    }
  return rows;
}

/** Rows of what is said of the horse itself. */
export function horseRows(
  events: readonly RecordEvent[],
  folded: FoldedRecord,
  timeZone: string,
  only: ReadonlySet<string> | null,
): LedgerRow[] {
  return events
    .filter((event) => only === null || only.has(event.id))
    .map((event) => {
      const { at } = folded.corrections.standingOf(event).event;
      return eventRow(event, folded, { outing: null, day: dayIn(timeZone, at), place: null, handler: null });
    });
}

function eventRow(
  event: RecordEvent,
  { corrections }: FoldedRecord,
  context: Pick<LedgerRow, "outing" | "day" | "place" | "handler">,
): LedgerRow {
  const standing = corrections.standingOf(event);
  const current = standing.event as RecordEvent & { step?: unknown; side?: unknown };
  const asks = isAsk(current) ? 1 : isSeries(current) ? current.count : 0;
  return {
    ...context,
    id: event.id,
    kind: event.type,
    at: current.at,
    step: textOf(current.step),
    side: textOf(current.side),
    asks: standing.voided ? 0 : asks,
    minutes: 0,
    voided: standing.voided,
    current: standing.event === event || isCorrection(event) ? null : standing.event,
  };
}

const textOf = (value: unknown): string | null => (typeof value === "string" ? value : null);

/** Whole minutes an outing took. */
const minutesOf = ({ startedAt, endedAt }: { startedAt: string; endedAt: string }): number =>
  Math.round((Date.parse(endedAt) - Date.parse(startedAt)) / MS_A_MINUTE);

/** Writes rows; with "new" none of them is there yet. */
export async function writeLedger(
  db: Db,
  yardId: string,
  horseId: string,
  rows: readonly LedgerRow[],
  are: "new" | "perhaps there" = "perhaps there",
): Promise<void> {
  if (rows.length === 0) return;
  await db.query(
    `insert into ledger (yard_id, horse_id, id, kind, day, at, outing_id, step, side, place, handler, asks, minutes, voided, current)
     select $1, $2, * from unnest($3::text[], $4::text[], $5::date[], $6::timestamptz[], $7::text[], $8::text[], $9::text[],
       $10::text[], $11::text[], $12::int[], $13::int[], $14::boolean[], $15::jsonb[])
     ${
       are === "new"
         ? ""
         : `on conflict (yard_id, id, kind) do update set day = excluded.day, at = excluded.at, step = excluded.step,
              side = excluded.side, place = excluded.place, handler = excluded.handler, asks = excluded.asks,
              minutes = excluded.minutes, voided = excluded.voided, current = excluded.current`
     }`,
    [
      yardId,
      horseId,
      rows.map(({ id }) => id),
      rows.map(({ kind }) => kind),
      rows.map(({ day }) => day),
      rows.map(({ at }) => sqlInstant(at)),
      rows.map(({ outing }) => outing),
      rows.map(({ step }) => step),
      rows.map(({ side }) => side),
      rows.map(({ place }) => place),
      rows.map(({ handler }) => handler),
      rows.map(({ asks }) => asks),
      rows.map(({ minutes }) => minutes),
      rows.map(({ voided }) => voided),
      rows.map(({ current }) => (current ? JSON.stringify(current) : null)),
    ],
  );
}

/** Writes the outings' own rows. Returns those that were there with another day, place or handler: all their events moved. */
export async function writeOutings(
  db: Db,
  yardId: string,
  horseId: string,
  outings: readonly FoldedOuting[],
): Promise<Set<string>> {
  if (outings.length === 0) return new Set();
  const before = await db.query<{ id: string; day: Day; place: string | null; handler: string | null }>(
    "select id, day, place, handler from outing where yard_id = $1 and id = any($2)",
    [yardId, outings.map(({ id }) => id)],
  );
  const sums = outings.map(sumsOf);
  await db.query(
    `insert into outing (yard_id, horse_id, id, day, started_at, ended_at, place, handler, asks, mishaps, steps)
     select $1, $2, id, day, started_at, ended_at, place, handler, asks, mishaps, array(select jsonb_array_elements_text(steps))
     from unnest($3::text[], $4::date[], $5::timestamptz[], $6::timestamptz[], $7::text[], $8::text[], $9::int[], $10::int[], $11::jsonb[])
       as one(id, day, started_at, ended_at, place, handler, asks, mishaps, steps)
     on conflict (yard_id, id) do update set day = excluded.day, started_at = excluded.started_at, ended_at = excluded.ended_at,
       place = excluded.place, handler = excluded.handler, asks = excluded.asks, mishaps = excluded.mishaps, steps = excluded.steps`,
    [
      yardId,
      horseId,
      outings.map(({ id }) => id),
      outings.map(({ day }) => day),
      outings.map(({ startedAt }) => sqlInstant(startedAt)),
      outings.map(({ endedAt }) => sqlInstant(endedAt)),
      outings.map(({ head }) => textOf(head.place)),
      outings.map(({ head }) => textOf(head.handler)),
      sums.map(({ asks }) => asks),
      sums.map(({ mishaps }) => mishaps),
      sums.map(({ steps }) => JSON.stringify(steps)),
    ],
  );
  const now = new Map(outings.map((outing) => [outing.id, outing]));
  return new Set(
    before.rows
      .filter(({ id, day, place, handler }) => {
        const outing = now.get(id);
        return (
          outing &&
          (outing.day !== day || textOf(outing.head.place) !== place || textOf(outing.head.handler) !== handler)
        );
      })
      .map(({ id }) => id),
  );
}
