import { useState } from "react";
import type { Answer } from "@still-pine/core/record";
import { phaseWordsOf, type Program, type SideKey, type Step } from "@still-pine/core/programs";
import { FeelSquare } from "../../marks/feel-square";
import { Field } from "../../parts/field";
import { bodyOfPress, type AskDetails } from "@still-pine/core/recording";
import type { EventBody } from "@still-pine/core/record";

import { AnswerChoice } from "./choices";

const MOST = 500;

interface SeriesFormProps {
  step: Step;
  side: SideKey;
  /** How all of them were put. */
  how: AskDetails;
  program: Program;
  onAdd: (entry: EventBody) => void;
}

/** Several asks as remembered: how many, how many clean, the first, the worst; the press on the square is the usual feel and adds them. */
export function SeriesForm({ step, side, how, program, onAdd }: SeriesFormProps) {
  const [count, setCount] = useState("6");
  const [clean, setClean] = useState("6");
  const [first, setFirst] = useState<Answer>("gave");
  const [worst, setWorst] = useState<Answer>("gave");
  const errors = seriesErrors(Number(count), Number(clean), first, worst);
  const ok = Object.keys(errors).length === 0;
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <Field id="series-count" label="How many" error={errors.count}>
          <input
            id="series-count"
            type="number"
            min={1}
            max={MOST}
            className="field"
            value={count}
            aria-describedby="series-count-note"
            onChange={(event) => setCount(event.target.value)}
          />
        </Field>
        <Field id="series-clean" label="How many clean" error={errors.clean}>
          <input
            id="series-clean"
            type="number"
            min={0}
            max={MOST}
            className="field"
            value={clean}
            aria-describedby="series-clean-note"
            onChange={(event) => setClean(event.target.value)}
          />
        </Field>
      </div>
      <AnswerChoice legend="The first one" value={first} onChange={setFirst} />
      <AnswerChoice legend="The worst one" value={worst} onChange={setWorst} />
      <div>
        <p className="mb-1 font-semibold">
          The usual feel <span className="font-normal text-faint">adds the series; it counts at half</span>
        </p>
        <FeelSquare
          standard={step.standard}
          phaseWords={phaseWordsOf(program)}
          label={`Add a series of ${step.name}`}
          onPress={(feel) => {
            if (ok)
              onAdd(
                bodyOfPress(
                  { press: "series", count: Number(count), clean: Number(clean), first, worst, ...feel },
                  { step: step.id, side, more: how },
                  Date.now(),
                ),
              );
            else document.getElementById(errors.count ? "series-count" : "series-clean")?.focus();
          }}
        />
      </div>
    </>
  );
}

/** A remembered series must agree with itself. */
export function seriesErrors(
  count: number,
  clean: number,
  first: Answer,
  worst: Answer,
): { count?: string; clean?: string } {
  if (!Number.isInteger(count) || count < 1 || count > MOST) return { count: `From 1 to ${MOST}.` };
  if (!Number.isInteger(clean) || clean < 0) return { clean: "A whole number, 0 or more." };
  if (clean > count) return { clean: `At most the ${count} asked.` };
  const missed = [first, worst].some((answer) => answer !== "gave" && answer !== "neutral");
  if (missed && clean === count) return { clean: "One that was not given is not clean: at least one less." };
  return {};
}
