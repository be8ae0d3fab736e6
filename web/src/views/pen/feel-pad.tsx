import { clsx } from "clsx";
import { memo, useEffect, useRef, type PointerEvent } from "react";
import { findStep, phaseWordsOf } from "@still-pine/core/programs";
import { lineFor, tallyOf } from "@still-pine/core/outing";
import { MOODS, PHASES, type Mood, type Phase } from "@still-pine/core/record";
import { MOOD_WORDS } from "../../marks/feel-square";
import type { Cell } from "../../pen/snapshot";
import { usePen, useSession } from "./pen-context";

/** Pressed longer than this, the length is the wait from cue to answer. */
const HOLD_MS = 500;

const HEAVY_TO_LIGHT = PHASES.toReversed();
/** Mood by mood from loose at the top down to over, and phase by phase from firm to a thought. */
const CELLS: readonly Cell[] = MOODS.flatMap((mood) => HEAVY_TO_LIGHT.map((phase) => ({ phase, mood })));
/** For a step without phases the same five moods, from over to loose. */
const ROW: readonly Cell[] = MOODS.toReversed().map((mood) => ({ mood }));
const WIDE = 5;

interface FeelPadProps {
  /** Where a remote's arrows stand; null while none is used. */
  cursor: Cell | null;
  onPress: (cell: Cell, waitSeconds?: number) => void;
}

/**
 * The pad: one press is one ask, wherever on it the thumb comes down. Held from the cue to the answer, the length is the wait and
 * the place where it is let go is the feel.
 */
export function FeelPad({ cursor, onPress }: FeelPadProps) {
  const session = useSession();
  const pad = useRef<HTMLDivElement>(null);
  const down = useRef<{ at: number; lit: Element | null } | null>(null);
  const stepId = usePen((_, { here }) => here.step);
  const side = usePen((_, { here }) => here.side);
  const feels = usePen(({ state }) => tallyOf(state, stepId, side).feels);
  const line = usePen(({ state }) => lineFor(state, stepId));
  const step = findStep(session.plan.program, stepId);
  const standard = step?.standard ?? { phase: 1 as Phase, mood: 1 as Mood, dose: null };
  const hasPhase = standard.phase !== null;
  const cells = hasPhase ? CELLS : ROW;
  const phaseWords = phaseWordsOf(session.plan.program);
  const mostPhase = line.phase ?? standard.phase ?? 4;

  // A finger needs no mouse made up after it: that would move the focus and be looked at all over again.
  useEffect(() => {
    const element = pad.current;
    const only = (event: TouchEvent): void => event.preventDefault();
    element?.addEventListener("touchstart", only, { passive: false });
    return () => element?.removeEventListener("touchstart", only);
  }, []);

  /** The cell under a point of the pad, gaps included; null beside the pad. */
  const indexAt = ({ clientX, clientY }: PointerEvent): number | null => {
    const box = pad.current?.getBoundingClientRect();
    if (!box || clientX < box.left || clientX > box.right || clientY < box.top || clientY > box.bottom) return null;
    const column = Math.min(WIDE - 1, Math.floor(((clientX - box.left) / box.width) * WIDE));
    const rows = cells.length / WIDE;
    const row = Math.min(rows - 1, Math.floor(((clientY - box.top) / box.height) * rows));
    return row * WIDE + column;
  };
  const light = (index: number | null): void => {
    const state = down.current;
    if (!state) return;
    const next = index === null ? null : (pad.current?.children[index] ?? null);
    if (state.lit === next) return;
    state.lit?.removeAttribute("data-pressed");
    next?.setAttribute("data-pressed", "");
    state.lit = next;
  };
  const letGo = (): void => {
    light(null);
    down.current = null;
  };

  return (
    <div className="flex min-h-0 flex-col">
      <div
        ref={pad}
        role="group"
        aria-label="Feel: press where he was"
        className={clsx(
          "grid flex-1 touch-none grid-cols-5 gap-1 select-none",
          hasPhase ? "min-h-84 grid-rows-5" : "min-h-24",
        )}
        onContextMenu={(event) => event.preventDefault()}
        onPointerDown={(event) => {
          if (event.button !== 0 || down.current) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          down.current = { at: performance.now(), lit: null };
          light(indexAt(event));
        }}
        onPointerMove={(event) => down.current && light(indexAt(event))}
        onPointerCancel={letGo}
        onPointerUp={(event) => {
          const held = down.current ? performance.now() - down.current.at : 0;
          const index = down.current ? indexAt(event) : null;
          letGo();
          const cell = index === null ? undefined : cells[index];
          if (cell) onPress(cell, held >= HOLD_MS ? Math.round(held / 100) / 10 : undefined);
        }}
      >
        {cells.map((cell, index) => (
          <PadCell
            key={`${cell.phase ?? "-"}${cell.mood}`}
            cell={cell}
            count={feels[(cell.phase ?? 0) * MOODS.length + cell.mood] ?? 0}
            isGood={cell.mood <= standard.mood && (cell.phase === undefined || cell.phase <= mostPhase)}
            isCursor={cursor !== null && cursor.mood === cell.mood && (!hasPhase || cursor.phase === cell.phase)}
            moodWord={hasPhase ? index % WIDE === 0 : true}
            phaseWords={phaseWords}
            phaseWord={hasPhase && index >= WIDE * (WIDE - 1)}
            onKey={onPress}
          />
        ))}
      </div>
    </div>
  );
}

interface PadCellProps {
  cell: Cell;
  count: number;
  isGood: boolean;
  isCursor: boolean;
  /** The words stand once a row and once a column. */
  moodWord: boolean;
  phaseWord: boolean;
  phaseWords: ReturnType<typeof phaseWordsOf>;
  onKey: (cell: Cell) => void;
}

const PadCell = memo(function PadCell(props: PadCellProps) {
  const { cell, count, isGood, isCursor, moodWord, phaseWord, phaseWords, onKey } = props;
  const { phase, mood } = cell;
  const words = `${phase === undefined ? "" : `${phaseWords[phase]}, `}${MOOD_WORDS[mood]}`;
  return (
    <button
      type="button"
      data-mood={moodWord ? MOOD_WORDS[mood] : undefined}
      data-phase={phaseWord && phase !== undefined ? phaseWords[phase] : undefined}
      aria-label={`${words}${count > 0 ? `; ${count} so far` : ""}`}
      // The pad itself listens to fingers; a click without one is a key.
      onClick={(event) => event.detail === 0 && onKey(cell)}
      className={clsx(
        "pen-cell relative min-h-16 min-w-16 rounded-lg border-2 text-2xl font-bold text-ink data-pressed:border-ink data-pressed:bg-pine data-pressed:text-on-pine",
        isGood ? "border-pine bg-moss" : "border-line bg-sheet",
        isCursor && "ring-4 ring-ink",
      )}
    >
      <span className="pen-still absolute inset-0">
        <span className="flex h-full items-center justify-center">
          {count > 0 ? count : <span aria-hidden="true" className={clsx("pen-dot", isGood && "pen-dot-good")} />}
        </span>
      </span>
    </button>
  );
});
