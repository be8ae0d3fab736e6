import { Check, Loader, TriangleAlert, Undo2 } from "lucide-react";
import { useRef, type PointerEvent } from "react";
import { findStep, sidesOf, type SideKey } from "@still-pine/core/programs";
import { isReached, lineFor, tallyOf } from "@still-pine/core/outing";
import type { Answer, StepId } from "@still-pine/core/record";
import { isTravelled } from "@still-pine/core/programs/carriage";
import { shortly } from "../../pen/words";
import { GoingRow } from "./going-row";
import { usePen, usePenSettings, useSession } from "./pen-context";

const SIDE_NAMES: Record<SideKey, string> = {
  near: "Near",
  off: "Off",
  none: "",
  "near-fore": "Near fore",
  "near-hind": "Near hind",
  "off-fore": "Off fore",
  "off-hind": "Off hind",
};

const SWIPE_PX = 60;

/** Near and off, the four legs, or where he travels the rein and how he goes: one tap changes. */
export function SideRow() {
  const session = useSession();
  const [{ side: way }] = usePenSettings();
  const from = useRef<number | null>(null);
  const swiped = useRef(false);
  const stepId = usePen((_, { here }) => here.step);
  const now = usePen((_, { here }) => here.side);
  const step = findStep(session.plan.program, stepId);
  const sides = step ? sidesOf(step) : [];
  if (step && isTravelled(step)) return <GoingRow step={step} />;
  if (sides.length < 2) return null;
  return (
    <div
      role="group"
      aria-label="Side"
      className="grid auto-cols-fr grid-flow-col gap-1.5"
      onPointerDown={(event: PointerEvent) => {
        from.current = way === "swipe" ? event.clientX : null;
        swiped.current = false;
      }}
      onPointerUp={(event: PointerEvent) => {
        if (from.current === null || Math.abs(event.clientX - from.current) < SWIPE_PX) return;
        swiped.current = true;
        session.changeSide();
      }}
    >
      {sides.map((side) => (
        <SideButton
          key={side}
          step={stepId}
          side={side}
          isHere={side === now}
          isLeg={sides.length > 2}
          onPress={() => !swiped.current && session.goToSide(side)}
        />
      ))}
    </div>
  );
}

/** A leg in two lines: four of them stand in one row. */
function LegName({ side }: { side: SideKey }) {
  const [first, second] = SIDE_NAMES[side].split(" ");
  return (
    <span className="text-left text-[17px] leading-tight">
      {first} <br />
      {second}
    </span>
  );
}

interface SideButtonProps {
  step: StepId;
  side: SideKey;
  isHere: boolean;
  isLeg: boolean;
  onPress: () => void;
}

function SideButton({ step, side, isHere, isLeg, onPress }: SideButtonProps) {
  const good = usePen(({ state }) => tallyOf(state, step, side).good);
  const asks = usePen(({ state }) => tallyOf(state, step, side).asks);
  const isDone = usePen(({ state }) => isReached(state, step, side));
  const count = usePen(({ state }) => lineFor(state, step).count);
  return (
    <button
      type="button"
      aria-pressed={isHere}
      onClick={onPress}
      className="pen-button px-2 text-xl aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
    >
      <span className="block w-full">
        <span className="pen-still h-14">
          <span className="flex h-full items-center justify-between gap-1 whitespace-nowrap">
            {isLeg ? <LegName side={side} /> : SIDE_NAMES[side]}
            <span className="flex items-center gap-1 text-[17px]">
              {isDone && <Check size={20} strokeWidth={3} aria-label="line reached" />}
              {isLeg ? `${good}` : `${good} of ${count}`}
              {!isLeg && <span className="text-[14px] font-semibold">· {asks === 1 ? "1 ask" : `${asks} asks`}</span>}
            </span>
          </span>
        </span>
      </span>
    </button>
  );
}

const OTHERS: readonly Answer[] = ["tried", "neutral", "none", "against"];

/** The other answers, one more tap before or after the ask; and taking back the last entry. */
export function AnswerRow() {
  const session = useSession();
  const armed = usePen((snapshot) => snapshot.armed);
  const hasLast = usePen((snapshot) => snapshot.last !== null);
  const [{ onceOnly }] = usePenSettings();
  return (
    <div role="group" aria-label="Answer" className="grid grid-cols-5 gap-1.5">
      {OTHERS.map((answer) => (
        <button
          key={answer}
          type="button"
          aria-pressed={armed === answer}
          onClick={() => session.answer(answer, onceOnly)}
          className="pen-button px-0 text-[16px] aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
        >
          {answer}
        </button>
      ))}
      <button
        type="button"
        disabled={!hasLast}
        onClick={() => session.undo()}
        className="pen-button flex-col gap-0 px-0 text-[15px] disabled:opacity-70"
      >
        <Undo2 size={24} aria-hidden="true" /> undo
      </button>
    </div>
  );
}

/** What was recorded last, and whether this device has it. */
export function LastEntry({ digit }: { digit: string | null }) {
  const session = useSession();
  const last = usePen((snapshot) => snapshot.last);
  const keeping = usePen((snapshot) => snapshot.keeping);
  const pageOnly = usePen((snapshot) => snapshot.pageOnly);
  const armed = usePen((snapshot) => snapshot.armed);
  const words =
    digit ??
    (armed !== "gave"
      ? `${armed}: now the feel, or once more without`
      : last
        ? shortly(last, session.plan.program)
        : "Nothing recorded yet. Press where he was.");
  return (
    <div className="shrink-0">
      <p role="status" aria-label="Last entry" className="pen-still h-7 px-1 text-[17px] leading-tight font-semibold">
        <span className="flex h-full items-center gap-2 whitespace-nowrap">
          {pageOnly > 0 ? (
            <span className="flex items-center gap-2 text-clay">
              <TriangleAlert size={22} aria-hidden="true" />
              This device is full: {pageOnly} only in this page. Keep it open.
            </span>
          ) : (
            <>
              {last &&
                digit === null &&
                armed === "gave" &&
                (keeping === "writing" ? (
                  <Loader size={20} aria-label="being kept" />
                ) : (
                  <Check size={22} strokeWidth={3} className="shrink-0 text-pine" aria-label="kept" />
                ))}
              {words}
            </>
          )}
        </span>
      </p>
    </div>
  );
}
