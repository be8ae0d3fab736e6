import { Link } from "react-router";
import type { StepView } from "@still-pine/contract/http";
import { stairOf, type ShownOnRung } from "@still-pine/core/evidence";
import { gatedRungOf, inDialect, nameIn, type Dialect, type Program, type Step } from "@still-pine/core/programs";
import { FAULT_WORDS } from "@still-pine/core/programs/fault-words";
import { ladderTextsOf, rungInWords } from "@still-pine/core/programs/ladder-words";
import { sideInWords } from "@still-pine/core/readiness";
import { weekdayOf } from "../../parts/days";

interface StairProps {
  view: StepView;
  step: Step;
  program: Program;
  words: Dialect;
}

/** How the step grows, the smallest first, and what was shown of each rung on each side; what spoils an answer. */
export function StairOfStep({ view: { asks, horse }, step, program, words }: StairProps) {
  const { rungs, said, unsaid } = stairOf(step, asks);
  const outingOf = new Map(asks.map(({ event, outing }) => [event.id, outing]));
  const page = `/horses/${encodeURIComponent(horse.id)}/outings/`;
  const { faults } = ladderTextsOf(step.id);
  const gated = gatedRungOf(program, step);
  if (rungs.length < 2) return null;
  return (
    <section aria-labelledby="stair">
      <h2 id="stair" className="mb-2 text-xl">
        How it grows
      </h2>
      <ol className="grid gap-1">
        {rungs.map(({ id, isStandard, sides }, place) => (
          <li
            key={id}
            style={{ marginInlineStart: `${place * STEP_REM}rem` }}
            className={`rounded-lg border-s-4 bg-sheet px-3 py-2 ${isStandard ? "border-pine" : "border-line"}`}
          >
            <p className="flex flex-wrap items-baseline justify-between gap-x-3">
              <b>{capital(inDialect(rungInWords(step.id, id), words))}</b>
              {isStandard && <span className="text-sm font-semibold text-pine">the standard</span>}
              {gated?.place === place - 1 && (
                <span className="text-sm font-semibold text-resin">{nameIn(gated.gate, words)} stands before it</span>
              )}
            </p>
            <ul className="flex flex-wrap gap-x-4 text-sm">
              {sides.map(([side, shown]) => (
                <li key={side} className={shown ? undefined : "text-faint"}>
                  {sideInWords(side)}{" "}
                  {shown ? (
                    <Link className="link" to={`${page}${encodeURIComponent(outingOf.get(shown.event) ?? "")}`}>
                      {weekdayOf(shown.day)}
                      {howShown(shown)}
                    </Link>
                  ) : (
                    "not shown"
                  )}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-sm text-faint">{saidInWords(said, unsaid)}</p>
      {faults.length > 0 && (
        <p className="mt-1 text-sm">
          <b>What spoils it:</b> {faults.map((fault) => inDialect(FAULT_WORDS[fault], words)).join(", ")}.
        </p>
      )}
    </section>
  );
}

/** Each step of the stair stands so far in. */
const STEP_REM = 0.75;

const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;

function howShown({ settings, withTool, withoutTool }: ShownOnRung): string {
  const tool = withoutTool
    ? withTool
      ? "with and without a tool"
      : "without a tool"
    : withTool
      ? "with a tool"
      : null;
  const how = [settings.length > 0 ? settings.join(" and ") : null, tool].filter(Boolean).join(", ");
  return how ? `, ${how}` : "";
}

function saidInWords(said: number, unsaid: number): string {
  if (said + unsaid === 0) return "Never asked.";
  const asks = (count: number): string => (count === 1 ? "1 ask" : `${count} asks`);
  if (unsaid === 0) return `${capital(asks(said))} ${said === 1 ? "says its" : "say their"} rung.`;
  const silent = `${asks(unsaid)} ${unsaid === 1 ? "does" : "do"} not say on which rung, and ${unsaid === 1 ? "is" : "are"} on none here.`;
  return said === 0 ? capital(silent) : `${asks(said)} ${said === 1 ? "says its" : "say their"} rung; ${silent}`;
}
