import { Minus, Plus } from "lucide-react";
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { nameIn, findStep, type Dialect } from "@still-pine/core/programs";
import { isAsk, type AskEvent, type RecordEvent } from "@still-pine/core/record";
import { clockOf, withPlace } from "../../pen/words";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

const HEIGHT = 190;
const BAND = 34;
const NEAR_Y = 72;
const OFF_Y = 128;
const NONE_Y = 100;
const SIGN_Y = 168;
const MARK = 16;
const EDGE = 18;
const ZOOMS = [1, 2, 4, 8, 16] as const;
const MS_A_MINUTE = 60_000;
/** What has no mark of its own on the line. */
const UNSHOWN = new Set([
  "outing-start",
  "outing-end",
  "finish-line",
  "spurt",
  "side-change",
  "head",
  "next-time",
  "against-gate",
]);

export const isShown = (event: RecordEvent): boolean => !UNSHOWN.has(event.type);

interface TimelineProps {
  reviewed: ReviewedOuting;
  words: Dialect;
  selected: string | null;
  onSelect: (id: string) => void;
  onDrop: (id: string) => void;
}

/** The outing from left to right: exercises as bands, near above and off below, every entry a mark that can be chosen. */
export function Timeline({ reviewed, words, selected, onSelect, onDrop }: TimelineProps) {
  const { plan, state, events, endedAt } = reviewed;
  const frame = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(0);
  const [width, setWidth] = useState(360);
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const seen = new ResizeObserver(() => setWidth(element.clientWidth));
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  const zoomBy = (by: number): void => setZoom((now) => Math.min(ZOOMS.length - 1, Math.max(0, now + by)));
  const pinch = usePinch(zoomBy);

  const start = Date.parse(plan.startedAt);
  const span = Math.max(MS_A_MINUTE, endedAt - start);
  const length = Math.max(width, 240) * (ZOOMS[zoom] ?? 1);
  const xOf = (at: number): number => EDGE + ((at - start) / span) * (length - 2 * EDGE);
  const shown = events.filter(isShown);
  const chosen = shown.findIndex(({ id }) => id === selected);
  const chosenX = chosen === -1 ? null : xOf(Date.parse(shown[chosen]?.at ?? ""));
  useEffect(() => {
    const element = frame.current;
    if (!element || chosenX === null) return;
    if (chosenX < element.scrollLeft + EDGE || chosenX > element.scrollLeft + element.clientWidth - EDGE)
      element.scrollTo({ left: chosenX - element.clientWidth / 2 });
  }, [chosenX]);

  const onKey = (event: KeyboardEvent): void => {
    const to = (index: number): void => {
      const one = shown[Math.min(shown.length - 1, Math.max(0, index))];
      event.preventDefault();
      if (one) onSelect(one.id);
    };
    if (event.key === "ArrowRight") to(chosen + 1);
    else if (event.key === "ArrowLeft") to(chosen === -1 ? 0 : chosen - 1);
    else if (event.key === "Home") to(0);
    else if (event.key === "End") to(shown.length - 1);
    else if (event.key === "+") zoomBy(1);
    else if (event.key === "-") zoomBy(-1);
    else if (event.key === "Delete" && selected !== null) onDrop(selected);
  };
  const bands = [...state.spurts, ...(state.spurt ? [{ ...state.spurt, to: endedAt }] : [])];
  const minutes = Math.floor(span / MS_A_MINUTE);
  const every = [1, 2, 5, 10, 20].find((one) => (minutes / one) * 44 < length) ?? 30;
  return (
    <section aria-label="Timeline" className="card p-3">
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 className="text-xl">The outing</h2>
        <div className="flex gap-2">
          <button type="button" className="button w-11 px-0" aria-label="Zoom out" onClick={() => zoomBy(-1)}>
            <Minus size={18} aria-hidden="true" />
          </button>
          <button type="button" className="button w-11 px-0" aria-label="Zoom in" onClick={() => zoomBy(1)}>
            <Plus size={18} aria-hidden="true" />
          </button>
        </div>
      </div>
      <div
        ref={frame}
        role="listbox"
        aria-label="Entries in time"
        aria-activedescendant={selected === null ? undefined : `mark-${selected}`}
        tabIndex={0}
        onKeyDown={onKey}
        {...pinch}
        className="mb-2 touch-pan-x overflow-x-auto rounded-lg"
      >
        <svg width={length} height={HEIGHT} role="presentation">
          {bands.map(({ step, side, from, to }, index) => {
            const found = findStep(plan.program, step);
            const wide = Math.max(2, xOf(to) - xOf(from));
            return (
              <g key={from} role="presentation">
                <rect
                  x={xOf(from)}
                  y={4}
                  width={wide}
                  height={BAND - 8}
                  rx={4}
                  className={index % 2 === 0 ? "fill-moss stroke-pine" : "fill-paper stroke-pine"}
                />
                <svg x={xOf(from)} y={4} width={wide} height={BAND - 8}>
                  <text x={5} y={18} className="fill-ink text-[13px] font-semibold">
                    {found ? nameIn(found, words) : step}
                  </text>
                </svg>
                {side !== "none" && (
                  <rect
                    x={xOf(from)}
                    y={side.startsWith("near") ? NEAR_Y - 14 : OFF_Y - 14}
                    width={wide}
                    height={28}
                    className="fill-moss"
                  />
                )}
              </g>
            );
          })}
          {(
            [
              ["near", NEAR_Y],
              ["off", OFF_Y],
            ] as const
          ).map(([side, y]) => (
            <g key={side} role="presentation">
              <path d={`M${EDGE} ${y}H${length - EDGE}`} className="stroke-line" />
              <text x={1} y={y + 4} className="fill-ink text-[11px]">
                {side.charAt(0)}
              </text>
            </g>
          ))}
          {Array.from({ length: Math.floor(minutes / every) + 1 }, (_, index) => (
            <text
              key={index}
              x={xOf(start + index * every * MS_A_MINUTE)}
              y={HEIGHT - 3}
              textAnchor="middle"
              className="fill-faint text-[11px]"
            >
              {index * every}
            </text>
          ))}
          {shown.map((event) => (
            <g
              key={event.id}
              id={`mark-${event.id}`}
              role="option"
              aria-selected={event.id === selected}
              aria-label={`${clockOf((Date.parse(event.at) - start) / 1000)} ${withPlace(event, plan.program, words)}`}
              transform={`translate(${xOf(Date.parse(event.at))} ${yOf(event)})`}
              onClick={() => onSelect(event.id)}
              className="cursor-pointer"
            >
              <rect x={-14} y={-22} width={28} height={44} className="fill-transparent" />
              {event.id === selected && (
                <rect x={-13} y={-13} width={26} height={26} rx={5} className="fill-none stroke-ink" strokeWidth={3} />
              )}
              <Mark event={event} />
            </g>
          ))}
        </svg>
      </div>
      <p className="text-sm text-faint">
        A square is an ask: the dot stands where he was, light to the right, loose above. Near above, off below; minutes
        along the foot. Arrows walk from entry to entry, Delete drops one.
      </p>
    </section>
  );
}

function yOf(event: RecordEvent): number {
  const { side } = event as { side?: string };
  if (isAsk(event) || event.type === "offer") return side === "near" ? NEAR_Y : side === "off" ? OFF_Y : NONE_Y;
  return SIGN_Y - 12;
}

function Mark({ event }: { event: RecordEvent }) {
  if (isAsk(event)) return <AskMark ask={event} />;
  switch (event.type) {
    case "startle":
      return <path d="M-9 8 0-9 9 8Z" className="fill-sheet stroke-clay" strokeWidth={2.5} />;
    case "mishap":
      return (
        <g>
          <path d="M-10 9 0-10 10 9Z" className="fill-clay" />
          <path d="M0-4v6M0 5v1" className="stroke-paper" strokeWidth={2.5} />
        </g>
      );
    case "sign":
      return <circle r={6} className="fill-sheet stroke-ink" strokeWidth={2} />;
    case "tired":
    case "enough":
      return <path d="M-7-7h14v14h-14Z" className="fill-resin" />;
    default:
      return <path d="M0-7 7 0 0 7-7 0Z" className="fill-ink" />;
  }
}

/** A feel square in small; what was no gave says so by its shape. */
function AskMark({ ask: { answer, phase = 0, mood } }: { ask: AskEvent }) {
  const half = MARK / 2;
  const x = half - 2 - (phase / 4) * (MARK - 4);
  const y = -half + 2 + ((mood ?? 2) / 4) * (MARK - 4);
  return (
    <g>
      <rect
        x={-half}
        y={-half}
        width={MARK}
        height={MARK}
        rx={2}
        strokeWidth={2}
        strokeDasharray={answer === "gave" ? undefined : "3 2"}
        className={answer === "against" ? "fill-sheet stroke-clay" : "fill-sheet stroke-ink"}
      />
      {(answer === "none" || answer === "against") && (
        <path
          d={
            answer === "none"
              ? `M${-half} 0H${half}`
              : `M${-half} ${-half}L${half} ${half}M${-half} ${half}L${half} ${-half}`
          }
          className={answer === "none" ? "stroke-ink" : "stroke-clay"}
          strokeWidth={1.5}
        />
      )}
      {mood !== undefined && <circle cx={x} cy={y} r={3.2} className={mood >= 3 ? "fill-clay" : "fill-pine"} />}
    </g>
  );
}

const PINCH_STEP = 1.5;

/** Two fingers apart zoom in, together out. */
function usePinch(zoomBy: (by: number) => void) {
  const points = useRef(new Map<number, number>());
  const last = useRef<number | null>(null);
  const spread = (): number | null => {
    const [a, b] = [...points.current.values()];
    return a === undefined || b === undefined ? null : Math.abs(a - b);
  };
  const drop = (event: PointerEvent): void => {
    points.current.delete(event.pointerId);
    last.current = null;
  };
  return {
    onPointerDown: (event: PointerEvent) => {
      points.current.set(event.pointerId, event.clientX);
      last.current = spread();
    },
    onPointerMove: (event: PointerEvent) => {
      if (!points.current.has(event.pointerId)) return;
      points.current.set(event.pointerId, event.clientX);
      const now = spread();
      if (now === null || last.current === null || last.current === 0) return;
      if (now / last.current > PINCH_STEP || last.current / Math.max(1, now) > PINCH_STEP) {
        zoomBy(now > last.current ? 1 : -1);
        last.current = now;
      }
    },
    onPointerUp: drop,
    onPointerCancel: drop,
    onPointerLeave: drop,
  };
}
