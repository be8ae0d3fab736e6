import type { StepId } from "@still-pine/core/record";
import { clsx } from "clsx";
import { Coffee, Plus } from "lucide-react";
import { useEffect, useRef } from "react";
import { findStep, nameIn, sidesOf, type Dialect } from "@still-pine/core/programs";
import { isSpurtLong, lineFor, linkOf, shutBefore, tallyOf } from "@still-pine/core/outing";
import { stepName } from "@still-pine/core/readiness/words";
import { clockOf } from "../../pen/words";
import { usePen, usePenTime, useSession } from "./pen-context";

interface ExerciseStripProps {
  steps: readonly string[];
  words: Dialect;
  onAdd: () => void;
}

/** Today's exercises as large cards: one tap takes one up, or goes back to it. */
export function ExerciseStrip({ steps, words, onAdd }: ExerciseStripProps) {
  return (
    <div role="group" aria-label="Exercises" className="flex gap-1.5 overflow-x-auto pb-0.5 lg:flex-wrap">
      {steps.map((step) => (
        <Card key={step} step={step} words={words} />
      ))}
      <RestOrOther onAdd={onAdd} />
    </div>
  );
}

/** A rest, or something that is not among today's. */
export function RestOrOther({ onAdd }: { onAdd: () => void }) {
  const session = useSession();
  const isResting = usePen(({ state }) => state.spurt === null && state.step !== null);
  return (
    <>
      <button
        type="button"
        aria-pressed={isResting}
        onClick={() => session.rest()}
        className="pen-button w-18 shrink-0 flex-col aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
      >
        <Coffee size={22} aria-hidden="true" /> Rest
      </button>
      <button type="button" onClick={onAdd} className="pen-button w-18 shrink-0 flex-col">
        <Plus size={22} aria-hidden="true" /> Other
      </button>
    </>
  );
}

function Card({ step, words }: { step: StepId; words: Dialect }) {
  const session = useSession();
  const card = useRef<HTMLButtonElement>(null);
  const found = findStep(session.plan.program, step);
  const isHere = usePen((_, { here }) => here.step === step);
  const counts = usePen(({ state }) => {
    const { count } = lineFor(state, step);
    const good = found ? sidesOf(found).map((side) => Math.min(count, tallyOf(state, step, side).good)) : [];
    return `${good.join(good.length > 2 ? "·" : " · ")} of ${count}`;
  });
  const gate = shutBefore(session.plan, step);
  const planned = session.plan.exercises.find((one) => one.step === step);
  const waitsFor = usePen(({ state }) => {
    // Of the piece in hand the coach says it.
    if (state.step === step) return null;
    const link = planned && linkOf(state, session.plan, planned);
    return link?.waitsFor
      ? `${link.isMissed ? "back to" : "after"} ${stepName(session.plan.program, link.waitsFor.step, words)}`
      : null;
  });
  useEffect(() => {
    if (isHere) card.current?.scrollIntoView?.({ block: "nearest", inline: "nearest" });
  }, [isHere]);
  if (!found) return null;
  return (
    <button
      ref={card}
      type="button"
      aria-pressed={isHere}
      onClick={() => session.takeUp(step)}
      className={clsx(
        "pen-button w-33 shrink-0 lg:w-46 flex-col items-start justify-center gap-0 px-2.5 text-left leading-tight aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine",
        waitsFor !== null && "border-dashed",
        gate !== null && "border-resin",
      )}
    >
      <span className="block w-full">
        <span className="pen-still h-17">
          <span className="flex h-full flex-col justify-center">
            <span className={clsx("text-[16px]", waitsFor === null ? "line-clamp-2" : "line-clamp-1")}>
              {nameIn(found, words)}
            </span>
            <span className="flex w-full justify-between gap-1 text-[14px] font-semibold">
              {gate !== null ? (
                <span className={isHere ? undefined : "text-resin"}>gate shut</span>
              ) : waitsFor === null ? (
                <span>{counts}</span>
              ) : (
                <span className="line-clamp-2">{waitsFor}</span>
              )}
              {isHere && <SpurtTime step={step} />}
            </span>
          </span>
        </span>
      </span>
    </button>
  );
}

/** How long this spurt is; after the program's time a quiet sign to change. */
function SpurtTime({ step }: { step: StepId }) {
  const session = useSession();
  const now = usePenTime();
  const from = usePen(({ state }) => (state.spurt?.step === step ? state.spurt.from : null));
  if (from === null) return null;
  const seconds = Math.max(0, (now - from) / 1000);
  const isLong = isSpurtLong(session.read().state, session.plan, now);
  return (
    <span className={clsx(isLong && "rounded bg-paper px-1 text-ink")}>
      {clockOf(seconds)}
      {isLong && " ⇄"}
    </span>
  );
}
