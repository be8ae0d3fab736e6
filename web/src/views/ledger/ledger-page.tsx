import { EVENT_TYPES } from "@still-pine/core/record";
import { Download } from "lucide-react";
import { useMemo, useState } from "react";
import type { LedgerFilter, LedgerSums, StringView } from "@still-pine/contract/http";
import type { ProgramBook, Step } from "@still-pine/core/programs";
import { linkTo } from "../../ask";
import { useBook } from "../../book/use-book";
import { useLedgerSumsQuery, useStringQuery } from "../../api";
import { inDialect } from "../../parts/choice-words";
import { NoDataYet } from "../../parts/page-state";
import { useAddress } from "../../parts/use-address";
import { LedgerTable } from "./ledger-table";

const FIELDS = ["horse", "from", "to", "step", "side", "kind", "handler", "place"] as const;

/** Every outing and event of the yard in one table. What narrows it down stands in the address, so that it can be kept. */
export function LedgerPage() {
  const [search, changeSearch] = useAddress();
  const string = useStringQuery();
  const filter = useMemo(
    () =>
      Object.fromEntries(
        FIELDS.flatMap((field) => (search.get(field) ? [[field, search.get(field)]] : [])),
      ) as LedgerFilter,
    [search],
  );
  const sums = useLedgerSumsQuery(filter);
  const isAny = Object.keys(filter).length > 0;
  // A phone shows the rows first.
  const [isFilterOpen, setFilterOpen] = useState(() => window.matchMedia("(width >= 40rem)").matches);
  if (!string.data) return <NoDataYet what="the ledger" error={string.error} retry={() => void string.refetch()} />;
  const change = (field: string, value: string): void => changeSearch({ [field]: value });
  return (
    <>
      <title>Ledger · Still Pine</title>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-3xl">Ledger</h1>
        <a className="button" href={linkTo<"ledgerCsv">("/ledger.csv", {}, filter)} download>
          <Download size={18} aria-hidden="true" /> CSV
        </a>
      </div>
      <details open={isFilterOpen} onToggle={(event) => setFilterOpen(event.currentTarget.open)} className="mb-2">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine sm:hidden">
          {isAny ? "Filter: on" : "Filter"}
        </summary>
        <Filters filter={filter} string={string.data} onChange={change} />
      </details>
      {sums.data ? (
        <>
          <Sums sums={sums.data} />
          {sums.data.rows === 0 ? (
            <p className="card">Nothing was recorded that fits. Take something out of the filter.</p>
          ) : (
            <LedgerTable key={search.toString()} filter={filter} sums={sums.data} string={string.data} />
          )}
        </>
      ) : (
        <NoDataYet what="the ledger" error={sums.error} retry={() => void sums.refetch()} />
      )}
    </>
  );
}

function Sums({ sums: { rows, outings, minutes, asks, sides } }: { sums: LedgerSums }) {
  const number = (value: number): string => value.toLocaleString("en");
  const items = [
    ["Rows", number(rows)],
    ["Outings", number(outings)],
    ["Time out", minutes < 120 ? `${minutes} min` : `${number(Math.round(minutes / 60))} h`],
    ["Asks", number(asks)],
    ["near", number(sides.near)],
    ["off", number(sides.off)],
    ["no side", number(sides.none)],
  ] as const;
  return (
    <dl aria-label="Sums" className="mb-3 flex flex-wrap gap-x-6 gap-y-1">
      {items.map(([name, value]) => (
        <div key={name} className="flex items-baseline gap-1.5">
          <dt className="text-sm text-faint">{name}</dt>
          <dd className="text-lg font-bold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Steps of every program, each once. */
const everyStep = ({ all }: ProgramBook): Step[] => [
  ...new Map(all.flatMap(({ steps }) => steps.map((step): [string, Step] => [step.id, step]))).values(),
];

interface FiltersProps {
  filter: LedgerFilter;
  string: StringView;
  onChange: (field: string, value: string) => void;
}

function Filters({ filter, string, onChange }: FiltersProps) {
  const book = useBook();
  const { yard, horses } = string;
  const plain = (values: readonly string[]) => values.map((value) => ({ value, label: value }));
  const choices = [
    { field: "horse", label: "Horse", options: horses.map(({ id, name }) => ({ value: id, label: name })) },
    {
      field: "step",
      label: "Step",
      options: everyStep(book).map(({ id, name }) => ({ value: id, label: inDialect(name, yard.words) })),
    },
    {
      field: "side",
      label: "Side",
      options: [
        { value: "near", label: "near" },
        { value: "off", label: "off" },
        { value: "none", label: "no side" },
      ],
    },
    {
      field: "kind",
      label: "Kind",
      options: [
        { value: "outing", label: "Outing" },
        ...EVENT_TYPES.filter(({ type }) => type !== "outing-start" && type !== "outing-end").map(({ type, name }) => ({
          value: type,
          label: name,
        })),
      ],
    },
    { field: "handler", label: "Handler", options: plain(yard.people) },
    { field: "place", label: "Place", options: plain(yard.places) },
  ] as const;
  const isAny = Object.keys(filter).length > 0;
  return (
    <form
      aria-label="Filter"
      className="mb-3 grid grid-cols-2 items-end gap-2 sm:grid-cols-4 lg:grid-cols-[repeat(8,1fr)_auto]"
      onSubmit={(event) => event.preventDefault()}
    >
      {choices.map(({ field, label, options }) => (
        <div key={field} className="min-w-0">
          <label htmlFor={`filter-${field}`} className="block text-sm font-semibold">
            {label}
          </label>
          <select
            id={`filter-${field}`}
            className="field mt-0.5"
            value={filter[field] ?? ""}
            onChange={(event) => onChange(field, event.target.value)}
          >
            <option value="">all</option>
            {options.map(({ value, label: words }) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </div>
      ))}
      {(["from", "to"] as const).map((field) => (
        <label key={field} className="block min-w-0 text-sm font-semibold">
          {field === "from" ? "From" : "To"}
          <input
            type="date"
            className="field mt-0.5 px-2 font-normal"
            value={filter[field] ?? ""}
            max={yard.today}
            onChange={(event) => onChange(field, event.target.value)}
          />
        </label>
      ))}
      <button
        type="button"
        className="button px-3"
        disabled={!isAny}
        onClick={() => FIELDS.forEach((field) => onChange(field, ""))}
      >
        Clear
      </button>
    </form>
  );
}
