import { MOODS, PHASES } from "@still-pine/core/record";
import type { PhaseWords } from "@still-pine/core/programs";
import { MOOD_WORDS } from "./feel-square";

interface FeelChartProps {
  /** Answers by "phase mood". */
  before: ReadonlyMap<string, number>;
  now: ReadonlyMap<string, number>;
  phaseWords: PhaseWords;
}

const CELL = 40;
const LEFT = 54;
const TOP = 14;
const SIZE = CELL * 5;
/** A dot that holds every answer fills its cell so far. */
const LARGEST = 17;

/** The feel square as a chart: hollow dots where his answers lay then, full ones where they lie now, an arrow from one middle to the other. */
export function FeelChart({ before, now, phaseWords }: FeelChartProps) {
  const from = middleOf(before);
  const to = middleOf(now);
  return (
    <svg
      viewBox={`0 0 ${LEFT + SIZE + 4} ${TOP + SIZE + 32}`}
      className="w-full"
      role="img"
      aria-label={`Feel square. Then ${inWords(before, phaseWords)}; now ${inWords(now, phaseWords)}.`}
    >
      <g className="fill-faint text-[11px]" aria-hidden="true">
        <text x={LEFT} y="10" fontStyle="italic">
          dull
        </text>
        <text x={LEFT + SIZE} y="10" textAnchor="end" fontStyle="italic">
          answers
        </text>
        <text x={LEFT} y={TOP + SIZE + 29} fontStyle="italic">
          braced
        </text>
        <text x={LEFT + SIZE} y={TOP + SIZE + 29} textAnchor="end" fontStyle="italic">
          reacts
        </text>
        {MOODS.map((mood) => (
          <text key={mood} x={LEFT - 5} y={TOP + (mood + 0.5) * CELL + 4} textAnchor="end">
            {MOOD_WORDS[mood]}
          </text>
        ))}
        {PHASES.map((phase) => (
          <text key={phase} x={LEFT + (4.5 - phase) * CELL} y={TOP + SIZE + 14} textAnchor="middle">
            {phaseWords[phase]}
          </text>
        ))}
      </g>
      <g className="stroke-line" fill="none">
        {MOODS.flatMap((mood) =>
          PHASES.map((phase) => (
            <rect
              key={`${phase}${mood}`}
              x={LEFT + (4 - phase) * CELL + 1}
              y={TOP + mood * CELL + 1}
              width={CELL - 2}
              height={CELL - 2}
              rx="4"
              className={phase <= 1 && mood <= 1 ? "fill-moss" : undefined}
            />
          )),
        )}
      </g>
      <Dots cells={before} className="fill-none stroke-faint" />
      <Dots cells={now} className="fill-pine stroke-sheet" />
      {from && to && Math.hypot(to.x - from.x, to.y - from.y) > CELL / 3 && (
        <>
          <defs>
            <marker id="feel-arrow" viewBox="0 0 8 8" refX="6" refY="4" markerWidth="6" markerHeight="6" orient="auto">
              <path d="M0 0 8 4 0 8Z" className="fill-resin" />
            </marker>
          </defs>
          <path
            d={`M${from.x} ${from.y}L${to.x} ${to.y}`}
            className="stroke-resin"
            strokeWidth="2.5"
            markerEnd="url(#feel-arrow)"
          />
        </>
      )}
    </svg>
  );
}

const at = (cell: string): { x: number; y: number } => {
  const [phase = 0, mood = 0] = cell.split(" ").map(Number);
  return { x: LEFT + (4.5 - phase) * CELL, y: TOP + (mood + 0.5) * CELL };
};
const sumOf = (cells: ReadonlyMap<string, number>): number => [...cells.values()].reduce((sum, n) => sum + n, 0);

function Dots({ cells, className }: { cells: ReadonlyMap<string, number>; className: string }) {
  const all = sumOf(cells);
  return [...cells].map(([cell, count]) => {
    const { x, y } = at(cell);
    // The area of a dot is its share of the answers.
    return (
      <circle
        key={cell}
        cx={x}
        cy={y}
        r={Math.max(2.5, LARGEST * Math.sqrt(count / all))}
        strokeWidth="2"
        className={className}
      />
    );
  });
}

function middleOf(cells: ReadonlyMap<string, number>): { x: number; y: number } | null {
  const all = sumOf(cells);
  if (all === 0) return null;
  let x = 0;
  let y = 0;
  for (const [cell, count] of cells) {
    x += (at(cell).x * count) / all;
    y += (at(cell).y * count) / all;
  }
  return { x, y };
}

function inWords(cells: ReadonlyMap<string, number>, phaseWords: PhaseWords): string {
  const most = [...cells].toSorted((a, b) => b[1] - a[1])[0];
  if (!most) return "no answers";
  const [phase = 0, mood = 0] = most[0].split(" ").map(Number);
  return `mostly ${phaseWords[phase as 0]} and ${MOOD_WORDS[mood as 0]}, of ${sumOf(cells)} answers`;
}
