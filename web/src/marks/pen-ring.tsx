import { memo } from "react";
import type { Spurt } from "@still-pine/core/outing";

/**
 * The pen seen from above as the clock of an outing. The rail fills as minutes pass towards the cap; spurts lie along it, those
 * on the near side within, those on the off side without, those without a side on the rail.
 */

const CENTRE = 60;
const RAIL = 44;
const WITHIN = 34;
const WITHOUT = 54;
const NEAR_THE_CAP = 0.8;

/** A point of the ring: 0 is at the gate, on top, and it goes round with the clock. */
function pointAt(share: number, radius: number): string {
  const angle = share * 2 * Math.PI - Math.PI / 2;
  return `${(CENTRE + radius * Math.cos(angle)).toFixed(2)} ${(CENTRE + radius * Math.sin(angle)).toFixed(2)}`;
}

function arc(from: number, to: number, radius: number): string {
  const start = Math.min(from, 0.9999);
  const end = Math.min(Math.max(to, start + 0.004), 0.9999);
  return `M${pointAt(start, radius)}A${radius} ${radius} 0 ${end - start > 0.5 ? 1 : 0} 1 ${pointAt(end, radius)}`;
}

const radiusOf = (side: string): number => (side.startsWith("near") ? WITHIN : side.startsWith("off") ? WITHOUT : RAIL);

interface SpurtArcsProps {
  spurts: readonly Spurt[];
  from: number;
  span: number;
}

const SpurtArcs = memo(function SpurtArcs({ spurts, from, span }: SpurtArcsProps) {
  const paths = spurts
    .filter(({ side }) => side !== "none")
    .map((one) => arc((one.from - from) / span, (one.to - from) / span, radiusOf(one.side)));
  return <path d={paths.join("")} className="fill-none stroke-ink" strokeWidth={6} />;
});

interface PenRingProps {
  startedAt: number;
  capMinutes: number;
  /** Minutes that count towards the cap. */
  minutes: number;
  now: number;
  spurts: readonly Spurt[];
  running: { side: string; from: number } | null;
  className: string;
}

export function PenRing({ startedAt, capMinutes, minutes, now, spurts, running, className }: PenRingProps) {
  const share = Math.min(1, minutes / capMinutes);
  const span = Math.max(capMinutes * 60_000, now - startedAt);
  const isNear = share >= NEAR_THE_CAP;
  const left = Math.max(0, Math.ceil(capMinutes - minutes));
  const words = `${Math.floor(minutes)} of ${capMinutes} minutes`;
  return (
    <svg viewBox="0 0 120 120" role="img" aria-label={words} className={`shrink-0 ${className}`}>
      <circle cx={CENTRE} cy={CENTRE} r={RAIL} className="fill-none stroke-line" strokeWidth={9} />
      {/* The gate. */}
      <path d={`M${CENTRE} ${CENTRE - RAIL - 8}v16`} className="stroke-ink" strokeWidth={3} />
      {share > 0 && (
        <path
          d={arc(0, share, RAIL)}
          className={isNear ? "fill-none stroke-resin" : "fill-none stroke-pine"}
          strokeWidth={9}
          strokeDasharray={isNear ? "5 2" : undefined}
        />
      )}
      <SpurtArcs spurts={spurts} from={startedAt} span={span} />
      {running && running.side !== "none" && (
        <path
          d={arc((running.from - startedAt) / span, (now - startedAt) / span, radiusOf(running.side))}
          className="fill-none stroke-pine"
          strokeWidth={7}
        />
      )}
      <text x={CENTRE} y={CENTRE + 4} textAnchor="middle" className="fill-ink text-[30px] font-bold">
        {Math.floor(minutes)}
      </text>
      <text
        x={CENTRE}
        y={CENTRE + 22}
        textAnchor="middle"
        className="fill-ink text-[19px] font-bold lg:text-[14px] lg:font-semibold"
      >
        {isNear ? (left === 0 ? "cap" : `${left} left`) : `of ${capMinutes}`}
      </text>
    </svg>
  );
}
