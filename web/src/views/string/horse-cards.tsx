import { Link } from "react-router";
import { isUnknown } from "@still-pine/core/programs";
import { gateName, stepName } from "@still-pine/core/readiness/words";
import { useProgramFor } from "../../book/use-book";
import { StatusWord } from "../../marks/hoofprint";
import { StageTrail } from "../../marks/trail";
import { dayInWords } from "../../parts/days";
import { HorseMenu } from "./horse-menu";
import type { HorseListProps } from "./horse-table";

/** Steps of the edge on a card; his page has them all. */
const EDGE_SHOWN = 3;

/** The string on a phone: a card a horse, with the same on it. */
export function HorseCards({ horses, yard, onEdit }: HorseListProps) {
  const programFor = useProgramFor();
  return (
    <ul className="grid gap-3" aria-label="Horses in work">
      {horses.map((horse) => {
        const program = programFor(horse);
        const link = `/horses/${encodeURIComponent(horse.id)}`;
        return (
          <li
            key={horse.id}
            className="card grid gap-2 py-3 [contain-intrinsic-size:auto_15rem] [content-visibility:auto]"
          >
            <div className="flex items-start justify-between gap-3">
              <div>
                <h2 className="text-2xl">
                  <Link to={link} className="hover:underline">
                    {horse.name}
                  </Link>
                </h2>
                <p className="text-sm text-faint">
                  {horse.sex}, {horse.age}
                </p>
              </div>
              <div className="flex gap-2">
                <Link className="button" to={`${link}/brief`}>
                  Go out<span className="sr-only"> with {horse.name}</span>
                </Link>
                <HorseMenu horse={horse} onEdit={() => onEdit(horse)} />
              </div>
            </div>
            <StageTrail horse={horse.id} prints={horse.trail} program={program} size={29} />
            {isUnknown(program) && (
              <p className="text-sm text-faint">His program, {program.id}, is not here: nothing is judged.</p>
            )}
            <ul className="flex flex-wrap gap-x-4 gap-y-1" aria-label="Where work is now">
              {horse.edge.slice(0, EDGE_SHOWN).map(({ step, status }) => (
                <li key={step} className="flex items-center gap-2">
                  <Link className="link flex min-h-11 items-center" to={`${link}/steps/${step}`}>
                    {stepName(program, step, yard.words)}
                  </Link>
                  <StatusWord status={status} className="text-sm" />
                </li>
              ))}
            </ul>
            {horse.waitsOn && <p className="line-clamp-2 text-sm">{horse.waitsOn.text}</p>}
            <p className="flex flex-wrap gap-x-4 text-sm text-faint">
              {horse.gate && (
                <span>
                  {gateName(program, horse.gate.gate, yard.words)}: {horse.gate.have} of {horse.gate.of}
                </span>
              )}
              <span>
                {horse.workDays} work {horse.workDays === 1 ? "day" : "days"} in {horse.calendarDays}
              </span>
              <span>{horse.lastOuting ? `last out ${dayInWords(horse.lastOuting, yard.today)}` : "no outing yet"}</span>
            </p>
          </li>
        );
      })}
    </ul>
  );
}
