import type { HorseId } from "@still-pine/core/record";
import { Check, X } from "lucide-react";
import { Link } from "react-router";
import type { StepView } from "@still-pine/contract/http";
import type { Program, Step } from "@still-pine/core/programs";
import { findingInWords, RULES, sideInWords, type CountedAsk, type Finding } from "@still-pine/core/readiness";
import { askInWords } from "../../entries/entry-words";
import { weekdayOf } from "../../parts/days";

interface ReasonsProps {
  view: StepView;
  step: Step;
  program: Program;
}

/** Every rule and finding, what is missing first; each opens to the rule in words and to the asks it was made from. */
export function Reasons({ view: { judgement, asks, horse }, step, program }: ReasonsProps) {
  const byId = new Map(asks.map((ask) => [ask.event.id, ask]));
  const findings = judgement.findings.toSorted((a, b) => Number(a.met) - Number(b.met));
  if (findings.length === 0) return null;
  return (
    <section aria-label="Reasons">
      <h2 className="mb-2 text-xl">Reasons</h2>
      <ul className="divide-y divide-line rounded-xl border border-line bg-sheet">
        {findings.map((finding) => (
          <li key={`${finding.code}${finding.side ?? ""}${JSON.stringify(finding.have)}`} className="flex gap-3 p-3">
            {finding.met ? (
              <Check size={20} className="mt-0.5 shrink-0 text-pine" aria-label="Met" />
            ) : (
              <X size={20} className="mt-0.5 shrink-0 text-clay" aria-label="Not met" />
            )}
            <div className="min-w-0">
              <p>
                <b>{RULES[finding.code].title}.</b> {findingInWords(finding, program)}
              </p>
              <details className="mt-1 text-sm">
                <summary className="cursor-pointer text-pine">the rule{evidenceIn(finding, byId)}</summary>
                <p className="mt-1 max-w-prose">{RULES[finding.code].says(program, step)}</p>
                <Evidence finding={finding} byId={byId} horse={horse.id} program={program} />
              </details>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

type ById = ReadonlyMap<string, CountedAsk>;

const asksOf = (finding: Finding, byId: ById): CountedAsk[] => finding.evidence.flatMap((id) => byId.get(id) ?? []);

function evidenceIn(finding: Finding, byId: ById): string {
  const count = asksOf(finding, byId).length;
  return count === 0 ? "" : count === 1 ? " and the ask it rests on" : ` and the ${count} asks it rests on`;
}

interface EvidenceProps {
  finding: Finding;
  byId: ById;
  horse: HorseId;
  program: Program;
}

function Evidence({ finding, byId, horse, program }: EvidenceProps) {
  const shown = asksOf(finding, byId);
  if (shown.length === 0) return null;
  return (
    <ul className="mt-1">
      {shown.map((ask) => (
        <li key={ask.event.id}>
          <Link className="link" to={`/horses/${encodeURIComponent(horse)}/outings/${encodeURIComponent(ask.outing)}`}>
            {weekdayOf(ask.day)}
          </Link>{" "}
          {sideInWords(ask.side)} {askInWords(ask.event, program)}
        </li>
      ))}
    </ul>
  );
}
