import { Frown, Menu, Smile, Triangle, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { aThirdMore } from "@still-pine/core/outing";
import { SIGNS_OF_EASE, SIGNS_OF_STRAIN, TIRED, ENOUGH, type Severity, type EventBody } from "@still-pine/core/record";
import { FRIGHT_WORDS, plain } from "../../parts/choice-words";
import { clockOf } from "../../pen/words";
import { usePen, usePenSettings, usePenTime, useSession } from "./pen-context";

export type PanelName = "ease" | "strain" | "fright" | "more" | "why" | "other" | "hurt" | "settings" | "helper";

interface ToolsProps {
  open: PanelName | null;
  onOpen: (panel: PanelName | null) => void;
  onMishap: () => void;
}

/** The bottom row: signs, fright, mishap, the rest. While a fright or a dwell runs, its end is here. */
export function Tools({ open, onOpen, onMishap }: ToolsProps) {
  const fright = usePen(({ state }) => (state.fright && !state.fright.quiet ? state.fright.at : null));
  const dwellFrom = usePen((snapshot) => snapshot.dwellFrom);
  const toggle = (panel: PanelName) => () => onOpen(open === panel ? null : panel);
  const mishap = (
    <button
      type="button"
      onClick={onMishap}
      className="pen-button flex-col gap-0 border-clay px-0 text-[15px] text-clay"
    >
      <TriangleAlert size={24} aria-hidden="true" /> mishap
    </button>
  );
  if (fright !== null)
    return (
      <div className="grid grid-cols-[4fr_1fr] gap-1.5">
        <Quiet from={fright} /> {mishap}
      </div>
    );
  if (dwellFrom !== null)
    return (
      <div className="grid grid-cols-[4fr_1fr] gap-1.5">
        <Away from={dwellFrom} /> {mishap}
      </div>
    );
  return (
    <div className="grid grid-cols-5 gap-1.5">
      <Tool label="ease" pressed={open === "ease"} onClick={toggle("ease")}>
        <Smile size={24} aria-hidden="true" />
      </Tool>
      <Tool label="strain" pressed={open === "strain"} onClick={toggle("strain")}>
        <Frown size={24} aria-hidden="true" />
      </Tool>
      <Tool label="fright" pressed={open === "fright"} onClick={toggle("fright")}>
        <Triangle size={24} aria-hidden="true" />
      </Tool>
      {mishap}
      <Tool label="more" pressed={open === "more"} onClick={toggle("more")}>
        <Menu size={24} aria-hidden="true" />
      </Tool>
    </div>
  );
}

interface ToolProps {
  label: string;
  pressed: boolean;
  onClick: () => void;
  children: ReactNode;
}

function Tool({ label, pressed, onClick, children }: ToolProps) {
  return (
    <button
      type="button"
      aria-pressed={pressed}
      onClick={onClick}
      className="pen-button flex-col gap-0 px-0 text-[15px] aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
    >
      {children} {label}
    </button>
  );
}

function Quiet({ from }: { from: number }) {
  const session = useSession();
  const now = usePenTime();
  return (
    <button type="button" onClick={() => session.quiet()} className="pen-button border-ink bg-ink text-xl text-paper">
      Quiet again <span className="tabular-nums">{clockOf(Math.max(0, (now - from) / 1000))}</span>
    </button>
  );
}

function Away({ from }: { from: number }) {
  const session = useSession();
  const now = usePenTime();
  const last = session.lastDwell;
  return (
    <button type="button" onClick={() => session.dwell()} className="pen-button border-ink bg-ink text-xl text-paper">
      Step away {clockOf(Math.max(0, (now - from) / 1000))}
      {last !== null && (
        <span className="text-[15px]">
          last {last} s, now {aThirdMore(last)}
        </span>
      )}
    </button>
  );
}

const FRIGHTS = Object.entries(FRIGHT_WORDS).map(
  ([size, words]) => [words, { type: "startle", size: Number(size) as Severity }] as const,
);

/** Choices of one kind: the second tap records and closes. */
export function QuickPanel({
  name,
  onDone,
}: {
  name: "ease" | "strain" | "fright" | "tired" | "enough";
  onDone: () => void;
}) {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  const enter = (fields: EventBody) => (): void => {
    session.enter(fields, onceOnly);
    onDone();
  };
  const choices: readonly (readonly [string, EventBody])[] =
    name === "ease"
      ? ([...SIGNS_OF_EASE, "lick-chew"] as const).map((sign) => [plain(sign), { type: "sign", sign }] as const)
      : name === "strain"
        ? ([...SIGNS_OF_STRAIN, "shut-down"] as const).map((sign) => [plain(sign), { type: "sign", sign }] as const)
        : name === "fright"
          ? FRIGHTS
          : name === "tired"
            ? TIRED.map((seen) => [plain(seen), { type: "tired", seen }] as const)
            : ENOUGH.map((why) => [plain(why), { type: "enough", why }] as const);
  return (
    <div className="grid grid-cols-2 gap-1.5 sm:grid-cols-3">
      {choices.map(([words, fields]) => (
        <button key={words} type="button" className="pen-button text-lg" onClick={enter(fields)}>
          {words}
        </button>
      ))}
    </div>
  );
}
