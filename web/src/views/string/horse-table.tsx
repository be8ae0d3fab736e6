import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { clsx } from "clsx";
import { memo, useLayoutEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { StringHorse, YardView } from "@still-pine/contract/http";
import { isUnknown, type Program } from "@still-pine/core/programs";
import { gateName, STATUS_WORDS, stepName } from "@still-pine/core/readiness/words";
import { useProgramFor } from "../../book/use-book";
import { StatusMark } from "../../marks/hoofprint";
import { StageTrail } from "../../marks/trail";
import { dayInWords } from "../../parts/days";
import { HorseMenu } from "./horse-menu";

export interface HorseListProps {
  horses: readonly StringHorse[];
  yard: YardView;
  onEdit: (horse: StringHorse) => void;
}

const COLUMNS = ["Horse", "Trail by stage", "Where work is now", "Next gate", "Work days", "Last out", ""] as const;
/** Up to so many, rows are roomy; more of them stand close. */
const ROOMY_UP_TO = 12;
const ROOMY_PX = 50;
const CLOSE_PX = 25;

/** The string on a laptop: a row a horse; of a long one only the rows in sight are drawn. */
export function HorseTable({ horses, yard, onEdit }: HorseListProps) {
  const programFor = useProgramFor();
  const table = useRef<HTMLTableElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(table.current?.offsetTop ?? 0), []);
  const isRoomy = horses.length <= ROOMY_UP_TO;
  const height = isRoomy ? ROOMY_PX : CLOSE_PX;
  // It hands out new rows under the same name as one scrolls; nothing here is memoised by it.
  // oxlint-disable-next-line react/incompatible-library
  const rows = useWindowVirtualizer({
    count: horses.length,
    estimateSize: () => height,
    overscan: 6,
    scrollMargin: top,
  });
  const shown = rows.getVirtualItems();
  const before = (shown[0]?.start ?? top) - top;
  const after = rows.getTotalSize() - ((shown.at(-1)?.end ?? top) - top);
  return (
    <table ref={table} className="w-full border-collapse text-left text-sm" aria-rowcount={horses.length + 1}>
      <caption className="sr-only">Horses in work</caption>
      <thead>
        <tr className="border-b border-line text-xs text-faint">
          {COLUMNS.map((title) => (
            <th key={title} scope="col" className="px-2 py-0.5 font-semibold">
              {title || <span className="sr-only">More</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {before > 0 && <Gap height={before} />}
        {shown.map(({ index }) => {
          const horse = horses[index];
          return (
            horse && (
              <Row
                key={horse.id}
                horse={horse}
                program={programFor(horse)}
                index={index}
                yard={yard}
                isRoomy={isRoomy}
                height={height}
                onEdit={onEdit}
              />
            )
          );
        })}
        {after > 0 && <Gap height={after} />}
      </tbody>
    </table>
  );
}

const Gap = ({ height }: { height: number }) => (
  <tr aria-hidden="true">
    <td colSpan={COLUMNS.length} style={{ height }} />
  </tr>
);

interface RowProps {
  horse: StringHorse;
  program: Program;
  index: number;
  yard: YardView;
  isRoomy: boolean;
  height: number;
  onEdit: (horse: StringHorse) => void;
}

/** Drawn anew only when its horse changed: a string that comes anew mostly holds what it held. */
const Row = memo(({ horse, program, index, yard, isRoomy, height, onEdit }: RowProps) => {
  const link = `/horses/${encodeURIComponent(horse.id)}`;
  const edge = horse.edge.slice(0, isRoomy ? 3 : 2);
  return (
    <tr aria-rowindex={index + 2} className="border-b border-line/70 hover:bg-sheet" style={{ height }}>
      <th scope="row" className="px-2 font-normal whitespace-nowrap">
        <Link
          to={link}
          className={clsx("font-serif hover:underline", isRoomy ? "text-xl" : "inline-block min-h-6 text-base/6")}
        >
          {horse.name}
        </Link>
        {isRoomy && (
          <span className="block text-xs text-faint">
            {horse.sex}, {horse.age}
          </span>
        )}
      </th>
      <td className="px-2">
        <StageTrail horse={horse.id} prints={horse.trail} program={program} size={isRoomy ? 26 : 16} />
      </td>
      <td className="px-2">
        <span className={clsx("flex gap-x-3", isRoomy ? "flex-wrap" : "max-w-[27rem] overflow-hidden")}>
          {edge.length === 0 && (
            <span className="text-faint">
              {isUnknown(program)
                ? `his program, ${program.id}, is not here: nothing is judged`
                : "every step of his road is steady"}
            </span>
          )}
          {edge.map(({ step, status }) => (
            <Link
              key={step}
              to={`${link}/steps/${step}`}
              className="inline-flex min-h-6 items-center gap-1.5 whitespace-nowrap hover:underline"
              title={STATUS_WORDS[status]}
            >
              <StatusMark status={status} />
              {stepName(program, step, yard.words)}
            </Link>
          ))}
        </span>
        {isRoomy && horse.waitsOn && (
          <span className="line-clamp-1 max-w-[34rem] text-xs text-faint" title={horse.waitsOn.text}>
            {horse.waitsOn.text}
          </span>
        )}
      </td>
      <td className="px-2 whitespace-nowrap">
        {horse.gate && (
          <>
            {gateName(program, horse.gate.gate, yard.words)}{" "}
            <b>
              {horse.gate.have}/{horse.gate.of}
            </b>
          </>
        )}
      </td>
      <td className="px-2 text-right whitespace-nowrap">
        {horse.workDays}
        <span className="text-faint"> in {horse.calendarDays}</span>
      </td>
      <td className="px-2 whitespace-nowrap">
        {horse.lastOuting ? dayInWords(horse.lastOuting, yard.today) : <span className="text-faint">not yet</span>}
      </td>
      <td className="w-px px-1 text-right">
        <HorseMenu horse={horse} isSmall={!isRoomy} onEdit={() => onEdit(horse)} />
      </td>
    </tr>
  );
});
