import { useState } from "react";
import type { BriefView, YardView } from "@still-pine/contract/http";
import type { Brief } from "@still-pine/core/planning";
import {
  findStep,
  nameIn,
  phaseWordsOf,
  sidesOf,
  type Program,
  type SideKey,
  type Step,
} from "@still-pine/core/programs";
import { sideInWords } from "@still-pine/core/readiness/words";
import { FeelSquare } from "../../marks/feel-square";
import { Less, More } from "../../parts/stepper";
import { bodyOfPress } from "@still-pine/core/recording";
import type { EventBody } from "@still-pine/core/record";

import { lineInWords } from "../brief/brief-words";
import { HowChoice, type HowChanged } from "./choices";
import { HOW_MANY, seriesOf, usualCount, type HowMany } from "./series-of";

interface FromThePlanProps {
  brief: BriefView["brief"];
  program: Program;
  yard: YardView;
  onAdd: (entry: EventBody) => void;
}

interface Place {
  step: Step;
  side: SideKey;
  line: Brief["edge"][number]["line"];
  /** Id of the rung that was planned. */
  rung: string | undefined;
}

/** The rung that today's line is of: its own; of tries the one he begins on; else the standard's. */
function plannedRung({ ladder }: Step, side: SideKey, { line, from }: Brief["edge"][number]): string | undefined {
  const begin = from?.[side] ?? ladder.rungs[0]?.id;
  return line.rung ?? (line.worth === "tried" ? begin : ladder.rungs[ladder.standard]?.id);
}

const COUNT_MOST = 50;

/** Whether the usual feel is one the step's standard calls clean. */
const isWithin = ({ standard }: Step, { phase, mood }: { phase?: number; mood: number }): boolean =>
  mood <= standard.mood && (standard.phase === null || (phase ?? 0) <= standard.phase);

const LIKELY_MOST = 3;

/** Of a card's pieces those that were most likely worked: what the last review chose, and the first ones that waited for nothing. */
function likelyWorked({ edge, heldBack, nextTime }: Brief): Brief["edge"] {
  const order = nextTime?.steps ?? [];
  // What was worked though a gate was shut is written up like anything else.
  const again = [...edge, ...heldBack]
    .filter(({ why }) => why === "again")
    .toSorted((a, b) => order.indexOf(a.step) - order.indexOf(b.step));
  const open = edge.filter(({ why, after = [] }) => why !== "again" && after.every(({ stands }) => stands));
  return [...again, ...open.slice(0, Math.max(0, LIKELY_MOST - again.length))];
}

/** The outing as it was planned, side by side: one press on the feel square says how it usually was and goes on to the next. */
export function FromThePlan({ brief, program, yard, onAdd }: FromThePlanProps) {
  const places: Place[] = [...brief.checkCold, ...likelyWorked(brief)].flatMap((planned) => {
    const { step: id, line } = planned;
    const step = findStep(program, id);
    return step ? sidesOf(step).map((side) => ({ step, side, line, rung: plannedRung(step, side, planned) })) : [];
  });
  const [at, setAt] = useState(0);
  const [how, setHow] = useState<HowMany>("all");
  const [typed, setCount] = useState<number | null>(null);
  const [put, setPut] = useState<HowChanged>({});
  const place = places[at];
  if (!place)
    return (
      <div className="grid gap-3">
        <p className="text-lg">
          {places.length === 0
            ? "Nothing is planned for him yet."
            : "That was the plan. Anything besides is under Asks."}
        </p>
        {places.length > 0 && (
          <button type="button" className="button" onClick={() => setAt(0)}>
            From the beginning
          </button>
        )}
      </div>
    );
  const { step, side, line } = place;
  const rung = put.rung === undefined ? place.rung : (put.rung ?? undefined);
  const said = { ...(rung === undefined ? {} : { rung }), ...(put.setting ? { setting: put.setting } : {}) };
  const count = typed ?? usualCount(line.count);
  const goTo = (next: number): void => {
    setAt(next);
    setHow("all");
    setCount(null);
    setPut({});
  };
  const afterStep = places.findIndex((one, index) => index > at && one.step !== step);
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <div>
          <p className="text-sm text-faint">
            {at + 1} of {places.length}
          </p>
          <p className="text-xl font-bold" role="status" aria-label="At hand">
            {nameIn(step, yard.words)}
            {side !== "none" && <span className="text-pine">, {sideInWords(side)}</span>}
          </p>
          <p className="text-sm text-faint">planned: {lineInWords(line, step, program)}</p>
        </div>
        <div className="flex gap-2">
          <button
            type="button"
            className="button button-small"
            onClick={() => goTo(afterStep === -1 ? places.length : afterStep)}
          >
            Not this time
          </button>
          {at > 0 && (
            <button type="button" className="button button-small" onClick={() => goTo(at - 1)}>
              Back
            </button>
          )}
        </div>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Less label="Fewer asks" onClick={() => setCount(Math.max(1, count - 1))} />
        <b aria-live="polite">{count === 1 ? "1 ask" : `${count} asks`}</b>
        <More label="More asks" onClick={() => setCount(Math.min(COUNT_MOST, count + 1))} />
        <span className="flex flex-wrap gap-2" role="group" aria-label="How many were good">
          {HOW_MANY.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={how === one}
              className="chip aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
              onClick={() => setHow(one)}
            >
              {one} good
            </button>
          ))}
        </span>
      </div>
      <HowChoice
        step={step}
        words={yard.words}
        said={said}
        isOfOneAsk={false}
        onChange={(changed) => setPut({ ...put, ...changed })}
      />
      <FeelSquare
        standard={step.standard}
        phaseWords={phaseWordsOf(program)}
        label={`How it usually was: ${nameIn(step, yard.words)}`}
        onPress={(feel) => {
          const series = seriesOf(count, how, isWithin(step, feel));
          onAdd(bodyOfPress({ press: "series", ...series, ...feel }, { step: step.id, side, more: said }, Date.now()));
          goTo(at + 1);
        }}
      />
      <p className="text-sm text-faint">
        One press a side: how it usually was. What is remembered counts at half; single asks are under Asks.
      </p>
    </div>
  );
}
