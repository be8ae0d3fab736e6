import {
  dayIn,
  isAsk,
  isCorrection,
  isSeries,
  type FoldedOuting,
  type FoldedRecord,
  type RecordEvent,
} from "@still-pine/core/record";
import { OUTING_KIND, type LedgerRow } from "../store/ledger-rows";

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
