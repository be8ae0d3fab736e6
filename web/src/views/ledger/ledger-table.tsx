import { useVirtualizer } from "@tanstack/react-virtual";
import { clsx } from "clsx";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { LedgerFilter, LedgerRowView, LedgerSums, StringHorse, StringView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { useProgramFor } from "../../book/use-book";
import { useLedgerQuery } from "../../api";
import { entryInWords } from "../../entries/entry-words";
import { timeIn } from "../../parts/days";
import { placeOf, startsOf } from "./places";

const BLOCK = 100;
/** No browser draws a higher box; what is beyond is reached a window further. */
const HEIGHT_MOST = 33_000_000;
const LINE_PX = 30;
const PHONE_LINE_PX = 48;
/** A block that is only passed by is not fetched. */
const FETCH_AFTER_MS = 90;

interface LedgerTableProps {
  filter: LedgerFilter;
  sums: LedgerSums;
  string: StringView;
}

/** The rows of the ledger, the latest first; only those in sight are there, however many they are. */
export function LedgerTable({ filter, sums, string }: LedgerTableProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const [isPhone] = useState(() => window.matchMedia("(width < 40rem)").matches);
  const linePx = isPhone ? PHONE_LINE_PX : LINE_PX;
  const windowRows = Math.floor(HEIGHT_MOST / linePx / BLOCK) * BLOCK;
  const [first, setFirst] = useState(0);
  const count = Math.min(windowRows, sums.rows - first);
  const starts = useMemo(() => startsOf(sums.days), [sums.days]);
  // It hands out new rows under the same name as one scrolls; nothing here is memoised by it.
  // oxlint-disable-next-line react/incompatible-library
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => linePx,
    overscan: 10,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = items.at(-1)?.index ?? 0;
  const blocks = Array.from(
    { length: Math.floor(to / BLOCK) - Math.floor(from / BLOCK) + 1 },
    (_, index) => Math.floor(from / BLOCK) + index,
  );
  const horses = useMemo(() => new Map(string.horses.map((horse) => [horse.id, horse])), [string.horses]);
  const turn = (rows: number): void => {
    setFirst(rows);
    virtual.scrollToOffset(0);
  };

  return (
    <>
      {first > 0 && (
        <button type="button" className="button mb-2" onClick={() => turn(first - windowRows)}>
          Later rows
        </button>
      )}
      <div
        ref={scroller}
        role="region"
        aria-label="Rows"
        tabIndex={0}
        className="h-[max(20rem,calc(100dvh-21rem))] overflow-auto rounded-xl border border-line bg-sheet text-sm"
      >
        <div role="table" aria-label="Ledger" aria-rowcount={sums.rows + 1} className="min-w-0 sm:min-w-[44rem]">
          <div role="rowgroup" className="sticky top-0 z-1 bg-sheet">
            <div
              role="row"
              aria-rowindex={1}
              className={clsx(GRID, "border-b border-line py-1 font-semibold text-faint")}
            >
              {["Day", "Time", "Horse", "Entry", "Place", "Handler"].map((title) => (
                <span
                  key={title}
                  role="columnheader"
                  className={isPhone && !["Day", "Horse", "Entry"].includes(title) ? "hidden" : undefined}
                >
                  {title}
                </span>
              ))}
            </div>
          </div>
          <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
            {blocks.map((block) => (
              <Block
                key={block}
                filter={filter}
                place={placeOf(sums.days, starts, first + block * BLOCK)}
                rows={{
                  block: block * BLOCK,
                  from: Math.max(from, block * BLOCK),
                  to: Math.min(to, block * BLOCK + BLOCK - 1),
                  first,
                }}
                linePx={linePx}
                horses={horses}
                string={string}
              />
            ))}
          </div>
        </div>
      </div>
      {first + windowRows < sums.rows && (
        <button type="button" className="button mt-2" onClick={() => turn(first + windowRows)}>
          Older rows
        </button>
      )}
    </>
  );
}

const GRID =
  "grid grid-cols-[5.5rem_1fr] gap-x-3 px-3 sm:grid-cols-[6.5rem_3.2rem_8rem_minmax(0,1fr)_9rem_8rem] sm:items-center";

interface BlockProps {
  filter: LedgerFilter;
  place: { day: string; skip: number } | null;
  rows: { block: number; from: number; to: number; first: number };
  linePx: number;
  horses: ReadonlyMap<string, StringHorse>;
  string: StringView;
}

/** A hundred rows fetched at once; those of them that are in sight. */
function Block({ filter, place, rows, linePx, horses, string }: BlockProps) {
  const [isWanted, setWanted] = useState(false);
  useEffect(() => {
    const later = setTimeout(() => setWanted(true), FETCH_AFTER_MS);
    return () => clearTimeout(later);
  }, []);
  const { data } = useLedgerQuery({ ...filter, ...place, limit: BLOCK }, { skip: !isWanted || place === null });
  return Array.from({ length: rows.to - rows.from + 1 }, (_, index) => {
    const at = rows.from + index;
    return (
      <div
        key={at}
        role="row"
        aria-rowindex={rows.first + at + 2}
        className={clsx(GRID, "absolute inset-x-0 overflow-hidden border-b border-line/50")}
        style={{ top: at * linePx, height: linePx }}
      >
        <Cells row={data?.rows[at - rows.block]} horses={horses} string={string} />
      </div>
    );
  });
}

function Cells({
  row,
  horses,
  string,
}: {
  row: LedgerRowView | undefined;
  horses: BlockProps["horses"];
  string: StringView;
}) {
  const programFor = useProgramFor();
  if (!row)
    return (
      <span role="cell" className="text-faint">
        …
      </span>
    );
  const of = horses.get(row.horse);
  const program = of ? programFor(of) : loosePenStart;
  const words = row.event ? entryInWords(row.event, program, string.yard.units) : `Outing, ${row.minutes} min`;
  const horse = encodeURIComponent(row.horse);
  const link = row.outing ? `/horses/${horse}/outings/${encodeURIComponent(row.outing)}` : `/horses/${horse}`;
  return (
    <>
      <span role="cell" className="whitespace-nowrap">
        {row.day}
      </span>
      <span role="cell" className="hidden text-faint sm:block">
        {timeIn(string.yard.timeZone, row.at)}
      </span>
      <span role="cell" className="truncate font-semibold">
        {of?.name ?? row.horse}
      </span>
      <span role="cell" className="col-span-2 truncate sm:col-span-1">
        <Link
          to={link}
          className={clsx(
            // On a phone the whole row is where one presses.
            "before:absolute before:inset-0 hover:underline sm:before:hidden",
            row.voided && "line-through",
            row.kind === "outing" && "font-bold",
          )}
        >
          {words}
        </Link>
        {row.voided && <span className="sr-only"> (struck out)</span>}
        {row.corrected && !row.voided && <span className="ml-1.5 text-resin">corrected</span>}
      </span>
      <span role="cell" className="hidden truncate text-faint sm:block">
        {row.place}
      </span>
      <span role="cell" className="hidden truncate text-faint sm:block">
        {row.handler}
      </span>
    </>
  );
}
