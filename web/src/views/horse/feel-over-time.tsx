import type { HorseId } from "@still-pine/core/record";
import { useState } from "react";
import type { FeelView } from "@still-pine/contract/http";
import { nameIn, phaseWordsOf, type Dialect, type Program } from "@still-pine/core/programs";
import { useFeelQuery } from "../../api";
import { FeelChart } from "../../marks/feel-chart";
import { weekdayOf } from "../../parts/days";
import { gatherFeel } from "./feel";

/** Outings on each end that are laid together, and how far apart they are. */
const LAID_TOGETHER = 3;
const APART = 10;

/** Where his answers lay ten outings ago and where they lie now, for all steps or for one. */
export function FeelOverTime({ horse, program, words }: { horse: HorseId; program: Program; words: Dialect }) {
  const { data } = useFeelQuery(horse);
  const [step, setStep] = useState("");
  if (!data || data.outings.length === 0) return null;
  const asked = new Set(data.answers.filter(({ phase }) => phase !== null).map((one) => one.step));
  const { before, now } = gatherFeel(data, step || null, APART, LAID_TOGETHER);
  return (
    <section aria-label="Feel over time" className="card">
      <div className="mb-2 flex items-center justify-between gap-2">
        <h2 className="text-xl">Feel</h2>
        <select
          aria-label="Of which step"
          className="field min-h-9 w-auto max-w-44 py-0 text-sm"
          value={step}
          onChange={(event) => setStep(event.target.value)}
        >
          <option value="">all steps</option>
          {program.steps
            .filter(({ id }) => asked.has(id))
            .map((one) => (
              <option key={one.id} value={one.id}>
                {nameIn(one, words)}
              </option>
            ))}
        </select>
      </div>
      <FeelChart before={before.cells} now={now.cells} phaseWords={phaseWordsOf(program)} />
      <dl className="mt-2 flex flex-wrap gap-x-4 text-xs text-faint">
        <div>
          <dt className="inline font-semibold">○ then: </dt>
          <dd className="inline">{whenInWords(data, before.from, before.to)}</dd>
        </div>
        <div>
          <dt className="inline font-semibold">● now: </dt>
          <dd className="inline">{whenInWords(data, now.from, now.to)}</dd>
        </div>
      </dl>
      <details className="text-xs">
        <summary className="cursor-pointer py-1 text-pine">as a table</summary>
        <table className="w-full text-left">
          <caption className="sr-only">Answers by phase and mood, then and now</caption>
          <thead>
            <tr>
              {["Phase", "Mood", "Then", "Now"].map((title) => (
                <th key={title} scope="col">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...new Set([...before.cells.keys(), ...now.cells.keys()])].toSorted().map((cell) => (
              <tr key={cell}>
                <td>{cell.split(" ")[0]}</td>
                <td>{cell.split(" ")[1]}</td>
                <td>{before.cells.get(cell) ?? 0}</td>
                <td>{now.cells.get(cell) ?? 0}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  );
}

function whenInWords({ outings }: FeelView, from: number, to: number): string {
  const first = outings[from];
  const last = outings[to];
  if (!first || !last) return "no outing so far back";
  return first.day === last.day ? weekdayOf(first.day) : `${weekdayOf(first.day)} to ${weekdayOf(last.day)}`;
}
