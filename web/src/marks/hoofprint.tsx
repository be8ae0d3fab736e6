import { Fragment, useId, type ReactNode } from "react";
import type { PrintView } from "@still-pine/contract/http";
import type { SideKey } from "@still-pine/core/programs";
import { sideInWords, STATUS_WORDS, type Status } from "@still-pine/core/readiness/words";
import { clsx } from "clsx";

/**
 * The hoofprint: one step of the work. Left half near, right half off; a step without sides is one whole print. A half fills from
 * heel to toe as its evidence grows. Each word has its own drawing, so that colour is never alone.
 */

/** Ground surface of an unshod forefoot, toe up: the wall with its two heel bulbs, and the frog between the heels. */
const WALL =
  "M20 2.5C30.5 2.5 37.5 10.5 37.5 22 37.5 31 34.6 38 30.2 42 27.6 44.3 23.4 44 20 41.4 16.6 44 12.4 44.3 9.8 42 5.4 38 2.5 31 2.5 22 2.5 10.5 9.5 2.5 20 2.5Z";
const FROG = "M20 19.5 26.6 39.6Q23.2 42.6 20 39.9 16.8 42.6 13.4 39.6Z";
const TOE = 2.5;
const HEEL = 43.5;
const EMPTY_SURE = 0.25;
const FULL_SURE = 0.8;

interface HoofprintProps {
  print: Pick<PrintView, "status" | "sides" | "held">;
  /** The step's name, for the text equivalent. */
  name: string;
  size?: number;
  /** Words in place of the usual ones. */
  label?: string;
}

export function Hoofprint({ print, name, size = 40, label }: HoofprintProps) {
  const id = useId();
  const halves = areasOf(print);
  return (
    <svg
      viewBox="0 0 40 46"
      width={size}
      height={size * 1.15}
      role="img"
      aria-label={label ?? printInWords(print, name)}
      className="shrink-0"
    >
      {halves.map((half) => {
        const filled = fillOf(half.status, half.sure) * (half.heel - half.toe);
        const isFull = half.status === "steady" || half.status === "rusty";
        return (
          <Fragment key={half.key}>
            {filled > 0 && (
              <Pane {...half} top={half.heel - filled} bottom={Math.min(half.bottom, half.heel + 3)}>
                {half.status === "rusty" && <Hatch id={`${id}-${half.key}`} />}
                <path
                  d={WALL}
                  fill={half.status === "rusty" ? `url(#${id}-${half.key})` : "currentColor"}
                  opacity={isFull ? 0.82 : 0.5}
                />
              </Pane>
            )}
            <Pane {...half}>
              <path
                d={WALL}
                fill="none"
                stroke="currentColor"
                strokeWidth={half.status === "untried" ? 1.6 : 3}
                strokeDasharray={
                  half.status === "untried" ? "2.5 2.5" : half.status === "slipped" ? "7 3.5" : undefined
                }
              />
              {half.status === "untried" ? (
                <path d={FROG} fill="none" stroke="currentColor" strokeWidth="1.2" strokeDasharray="2.5 2.5" />
              ) : (
                <path d={FROG} fill="currentColor" stroke="var(--sheet)" strokeWidth="2.2" />
              )}
              {half.status === "slipped" && (
                <path
                  d={`M${half.x + 4} ${half.toe + 9}l${half.width - 7} 11`}
                  stroke="currentColor"
                  strokeWidth="3.2"
                />
              )}
            </Pane>
          </Fragment>
        );
      })}
      {print.held && <path d="M1 23H39" className="text-resin" stroke="currentColor" strokeWidth="5" />}
    </svg>
  );
}

/** A part of the print is seen through a window: a picture within the picture cuts off what lies beyond. There are hundreds on a page, so few elements. */
function Pane({
  x,
  width,
  top,
  bottom,
  status,
  children,
}: Pick<Area, "x" | "width" | "top" | "bottom" | "status"> & { children: ReactNode }) {
  const height = bottom - top;
  return (
    <svg
      role="none"
      x={x}
      y={top}
      width={width}
      height={height}
      viewBox={`${x} ${top} ${width} ${height}`}
      className={COLOURS[status]}
    >
      {children}
    </svg>
  );
}

const Hatch = ({ id }: { id: string }) => (
  <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
    <rect width="2.6" height="5" fill="currentColor" />
  </pattern>
);

/** Where a part of the print lies: a half, the toe or heel part of a half for a fore or hind leg, or the whole. */
interface Area {
  key: string;
  x: number;
  width: number;
  top: number;
  bottom: number;
  toe: number;
  heel: number;
  status: Status;
  sure: number;
}

const MIDDLE = 22.6;

function areasOf({ sides }: Pick<PrintView, "sides">): Area[] {
  const upright = { top: 0, bottom: 46, toe: TOE, heel: HEEL };
  if (sides.none) return [{ key: "whole", x: 0, width: 40, ...upright, ...sides.none }];
  const left = { x: 0, width: 19.3 };
  const right = { x: 20.7, width: 19.3 };
  if (!("near-fore" in sides || "near-hind" in sides || "off-fore" in sides || "off-hind" in sides))
    return [
      { key: "near", ...left, ...upright, ...(sides.near ?? UNTRIED) },
      { key: "off", ...right, ...upright, ...(sides.off ?? UNTRIED) },
    ];
  const fore = { top: 0, bottom: MIDDLE - 0.7, toe: TOE, heel: MIDDLE - 0.7 };
  const hind = { top: MIDDLE + 0.7, bottom: 46, toe: MIDDLE + 0.7, heel: HEEL };
  return [
    { key: "near-fore", ...left, ...fore, ...(sides["near-fore"] ?? UNTRIED) },
    { key: "near-hind", ...left, ...hind, ...(sides["near-hind"] ?? UNTRIED) },
    { key: "off-fore", ...right, ...fore, ...(sides["off-fore"] ?? UNTRIED) },
    { key: "off-hind", ...right, ...hind, ...(sides["off-hind"] ?? UNTRIED) },
  ];
}

const UNTRIED = { status: "untried" as const, sure: EMPTY_SURE };

const COLOURS: Record<Status, string> = {
  untried: "text-faint",
  begun: "text-ink",
  coming: "text-ink",
  steady: "text-pine",
  rusty: "text-resin",
  slipped: "text-clay",
};

/** How far a half is filled, heel to toe, on [0, 1]: from the empty record's sureness to what is asked. */
export function fillOf(status: Status, sure: number): number {
  if (status === "untried") return 0;
  if (status === "steady" || status === "rusty") return 1;
  const share = (sure - EMPTY_SURE) / (FULL_SURE - EMPTY_SURE);
  return Math.min(0.9, Math.max(0.12, share * 0.9));
}

/** The print in words: "Lateral flexion: coming; near side steady, off side coming". */
export function printInWords({ status, sides, held }: HoofprintProps["print"], name: string): string {
  const word = `${name}: ${STATUS_WORDS[status].toLowerCase()}${held ? ", held" : ""}`;
  const parts = Object.entries(sides).filter(([side]) => side !== "none");
  if (parts.length < 2) return word;
  return `${word}; ${parts.map(([side, one]) => `${sideInWords(side as SideKey)} ${STATUS_WORDS[one.status].toLowerCase()}`).join(", ")}`;
}

/** The word of a status, with its colour and a small shape of its own. */
export function StatusWord({ status, className }: { status: Status; className?: string }) {
  return (
    <span className={clsx("inline-flex items-center gap-1.5 font-bold whitespace-nowrap", COLOURS[status], className)}>
      <svg viewBox="0 0 12 12" width="11" height="11" aria-hidden="true" className="shrink-0">
        {SHAPES[status]}
      </svg>
      {STATUS_WORDS[status]}
    </span>
  );
}

/** The small shape of a status alone, where its word would be too much; the word stays for those who hear it. */
export function StatusMark({ status }: { status: Status }) {
  return (
    <>
      <svg viewBox="0 0 12 12" width="11" height="11" aria-hidden="true" className={clsx("shrink-0", COLOURS[status])}>
        {SHAPES[status]}
      </svg>
      <span className="sr-only">{STATUS_WORDS[status]}: </span>
    </>
  );
}

const SHAPES: Record<Status, ReactNode> = {
  untried: <circle cx="6" cy="6" r="4.5" fill="none" stroke="currentColor" strokeWidth="1.5" strokeDasharray="2 2" />,
  begun: <path d="M1.5 6A4.5 4.5 0 0 0 10.5 6Z" fill="none" stroke="currentColor" strokeWidth="1.6" />,
  coming: <path d="M1.5 6A4.5 4.5 0 0 0 10.5 6Z" fill="currentColor" stroke="currentColor" strokeWidth="1.6" />,
  steady: <circle cx="6" cy="6" r="5.3" fill="currentColor" />,
  rusty: <path d="M6 .7 11.3 6 6 11.3.7 6Z" fill="currentColor" />,
  slipped: <path d="M1 1.5H11L6 11Z" fill="currentColor" />,
};
