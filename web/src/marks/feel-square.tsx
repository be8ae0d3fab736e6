import { clsx } from "clsx";
import { useRef, type KeyboardEvent } from "react";
import { MOODS, PHASES, type Mood, type Phase } from "@still-pine/core/record";
import type { PhaseWords, Standard } from "@still-pine/core/programs";

/**
 * The feel square: across, how little it took, heavy to light; upwards, how he felt, tight to loose. One press records phase and
 * mood. A step without a phase has one row of moods.
 */
export const MOOD_WORDS: Record<Mood, string> = { 0: "loose", 1: "quiet", 2: "watchful", 3: "tight", 4: "over" };

interface FeelSquareProps {
  standard: Standard;
  /** What the horse's program calls the phases. */
  phaseWords: PhaseWords;
  onPress: (feel: { phase?: Phase; mood: Mood }) => void;
  /** Counts to show in the cells, by "phase mood" or "mood". */
  counts?: ReadonlyMap<string, number>;
  label: string;
}

const HEAVY_TO_LIGHT = PHASES.toReversed();

export function FeelSquare({ standard, phaseWords, onPress, counts, label }: FeelSquareProps) {
  const grid = useRef<HTMLDivElement>(null);
  const hasPhase = standard.phase !== null;
  const columns: readonly (Phase | null)[] = hasPhase ? HEAVY_TO_LIGHT : [null];
  const rows = hasPhase ? MOODS : MOODS.toReversed();

  const move = (event: KeyboardEvent<HTMLButtonElement>): void => {
    const steps = { ArrowUp: -1, ArrowDown: 1, ArrowLeft: -1, ArrowRight: 1 } as const;
    const step = steps[event.key as keyof typeof steps];
    if (step === undefined) return;
    event.preventDefault();
    const cells = [...(grid.current?.querySelectorAll<HTMLButtonElement>("button") ?? [])];
    const at = cells.indexOf(event.currentTarget);
    const width = hasPhase ? columns.length : cells.length;
    const isAcross = event.key === "ArrowLeft" || event.key === "ArrowRight";
    const next = at + (isAcross ? step : step * width);
    const sameRow = Math.floor(next / width) === Math.floor(at / width);
    if (isAcross && !sameRow) return;
    cells[next]?.focus();
  };

  const cell = (phase: Phase | null, mood: Mood) => {
    const isClean = mood <= standard.mood && (phase === null || phase <= (standard.phase ?? 4));
    const key = phase === null ? `${mood}` : `${phase} ${mood}`;
    const count = counts?.get(key) ?? 0;
    const words =
      phase === null
        ? `mood ${mood}, ${MOOD_WORDS[mood]}`
        : `phase ${phase}, ${phaseWords[phase]}; mood ${mood}, ${MOOD_WORDS[mood]}`;
    return (
      <button
        key={key}
        type="button"
        tabIndex={isStart(phase, mood, standard) ? 0 : -1}
        aria-label={`${words}${count ? `; ${count} so far` : ""}`}
        onKeyDown={move}
        onClick={() => onPress(phase === null ? { mood } : { phase, mood })}
        className={clsx(
          "relative flex min-h-12 min-w-11 cursor-pointer items-center justify-center rounded-md border text-lg font-bold hover:border-ink active:bg-pine active:text-on-pine",
          isClean ? "border-pine bg-moss" : "border-line bg-sheet",
        )}
      >
        {count > 0 ? (
          count
        ) : (
          <span className={clsx("rounded-full", isClean ? "size-2.5 bg-pine" : "size-1.5 bg-faint")} />
        )}
      </button>
    );
  };

  if (!hasPhase)
    return (
      <div>
        <div ref={grid} role="group" aria-label={label} className="grid grid-cols-5 gap-1.5">
          {rows.map((mood) => cell(null, mood))}
        </div>
        <div aria-hidden="true" className="mt-1 grid grid-cols-5 gap-1.5 text-center text-sm text-faint">
          {rows.map((mood) => (
            <span key={mood}>{MOOD_WORDS[mood]}</span>
          ))}
        </div>
      </div>
    );

  return (
    <div>
      <div aria-hidden="true" className="mb-1 ml-18 flex justify-between text-sm italic text-faint">
        <span>dull</span>
        <span>answers</span>
      </div>
      <div className="flex gap-2">
        <div aria-hidden="true" className="grid w-16 grid-rows-5 gap-1 sm:gap-1.5 text-right text-sm text-faint">
          {rows.map((mood) => (
            <span key={mood} className="self-center">
              {MOOD_WORDS[mood]}
            </span>
          ))}
        </div>
        <div ref={grid} role="group" aria-label={label} className="grid flex-1 grid-cols-5 gap-1 sm:gap-1.5">
          {rows.flatMap((mood) => columns.map((phase) => cell(phase, mood)))}
        </div>
      </div>
      <div aria-hidden="true" className="mt-1 ml-18 grid grid-cols-5 gap-1 sm:gap-1.5 text-center text-sm text-faint">
        {HEAVY_TO_LIGHT.map((phase) => (
          <span key={phase}>{phaseWords[phase]}</span>
        ))}
      </div>
      <div aria-hidden="true" className="ml-18 flex justify-between text-sm italic text-faint">
        <span>braced</span>
        <span>reacts</span>
      </div>
    </div>
  );
}

/** The one cell the Tab key reaches: the standard's own feel. */
function isStart(phase: Phase | null, mood: Mood, standard: Standard): boolean {
  return mood === standard.mood && (phase === null || phase === standard.phase);
}
