import { useState } from "react";
import { Link } from "react-router";
import type { HorseView } from "@still-pine/contract/http";
import { findStep, STAGES, type Program } from "@still-pine/core/programs";
import {
  findingInWords,
  sideInWords,
  STAGE_WORDS,
  stepName,
  type Judgement,
  type SideKey,
} from "@still-pine/core/readiness";
import { StatusWord } from "../../marks/hoofprint";
import { useStages } from "../../parts/use-stages";

/** Findings that the words of the sides say already. */
const SAID_BESIDE: readonly string[] = [
  "both-sides",
  "clean-share",
  "different-days",
  "cold-asks",
  "light",
  "elsewhere",
];

/** Both sides of every step side by side, with what was seen of it. */
export function SidesTable({ view, program }: { view: HorseView; program: Program }) {
  const [all, setAll] = useState(false);
  const shown = view.judgements.filter((one) => (all ? true : one.status !== "untried"));
  const part = useStages(STAGES.length);
  if (shown.length === 0 && !all) return null;
  return (
    <section aria-label="Steps, side by side" className="off-screen">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-xl">Side by side</h2>
        <label className="flex min-h-9 items-center gap-2 text-sm">
          <input type="checkbox" className="size-4 accent-pine" checked={all} onChange={() => setAll(!all)} />
          untried ones too
        </label>
      </div>
      <div
        className="overflow-x-auto rounded-xl border border-line bg-sheet"
        tabIndex={0}
        role="region"
        aria-label="Table of steps"
      >
        <table className="w-full text-left text-sm">
          <caption className="sr-only">Steps of {view.horse.name} with the word of each side</caption>
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              {["Step", "Near", "Off", "What was seen"].map((title) => (
                <th key={title} scope="col" className="px-2 py-1">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          {STAGES.slice(0, part).map((stage) => {
            const rows = shown.filter(({ step }) => findStep(program, step)?.stage === stage);
            if (rows.length === 0) return null;
            return (
              <tbody key={stage}>
                <tr>
                  <th scope="rowgroup" colSpan={4} className="bg-paper px-2 py-0.5 text-xs font-semibold text-faint">
                    {STAGE_WORDS[stage]}
                  </th>
                </tr>
                {rows.map((judgement) => (
                  <Row key={judgement.step} judgement={judgement} view={view} program={program} />
                ))}
              </tbody>
            );
          })}
        </table>
      </div>
    </section>
  );
}

function Row({
  judgement,
  view: { horse, yard },
  program,
}: {
  judgement: Judgement;
  view: HorseView;
  program: Program;
}) {
  const seen = judgement.findings.filter(({ met, code }) => !met && !SAID_BESIDE.includes(code) && code !== "rests-on");
  const entries = Object.entries(judgement.sides) as [SideKey, { status: Judgement["status"] }][];
  const cell = (half: string) => (
    <td className="px-2 py-1 align-top">
      {entries
        .filter(([side]) => side.startsWith(half))
        .map(([side, one]) => (
          <span key={side} className="block whitespace-nowrap">
            <StatusWord status={one.status} />
            {side.includes("-") && <span className="text-xs text-faint"> {sideInWords(side).split(" ")[1]}</span>}
          </span>
        ))}
    </td>
  );
  return (
    <tr className="border-t border-line/60">
      <th scope="row" className="px-2 py-1 align-top font-normal">
        <Link className="hover:underline" to={`/horses/${encodeURIComponent(horse.id)}/steps/${judgement.step}`}>
          {stepName(program, judgement.step, yard.words)}
        </Link>
        {judgement.held && <b className="ml-2 text-resin">Held</b>}
      </th>
      {entries.some(([side]) => side === "none") ? (
        <td colSpan={2} className="px-2 py-1 align-top">
          <StatusWord status={judgement.status} />
        </td>
      ) : (
        <>
          {cell("near")}
          {cell("off")}
        </>
      )}
      <td className="px-2 py-1">
        {seen.map((finding) => (
          <span key={`${finding.code}${finding.side ?? ""}${JSON.stringify(finding.have)}`} className="block">
            {findingInWords(finding, program)}
          </span>
        ))}
      </td>
    </tr>
  );
}
