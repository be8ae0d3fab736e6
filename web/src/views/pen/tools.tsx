import { Eye, Frown, Menu, PenLine, Smile, Triangle, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import {
  type HELD_OR_GONE,
  is,
  SIGNS_OF_EASE,
  SIGNS_OF_STRAIN,
  TIRED,
  ENOUGH,
  type Severity,
  type EventBody,
} from "@still-pine/core/record";
import { FRIGHT_WORDS, plain } from "../../parts/choice-words";
import { frightOf } from "../../pen/moves";
import { standingSoFar } from "../../pen/watching";
import { clockOf } from "../../pen/words";
import { usePen, usePenSettings, usePenTime, useSession } from "./pen-context";

export type PanelName = "signs" | "fault" | "fright" | "more" | "why" | "other" | "hurt" | "settings" | "helper";

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
      <div className="grid grid-cols-[minmax(0,1.6fr)_repeat(4,minmax(0,1fr))] gap-1.5">
        <Quiet from={fright} /> <Became /> {mishap}
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
      <Tool label="signs" pressed={open === "signs"} onClick={toggle("signs")}>
        <Eye size={24} aria-hidden="true" />
      </Tool>
      <Tool label="fault" pressed={open === "fault"} onClick={toggle("fault")}>
        <PenLine size={24} aria-hidden="true" />
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
    <button
      type="button"
      onClick={() => session.quiet()}
      className="pen-button flex-col gap-0 border-ink bg-ink px-0 text-[17px] leading-tight text-paper"
    >
      Quiet again <span className="tabular-nums">{clockOf(Math.max(0, (now - from) / 1000))}</span>
    </button>
  );
}

const BECAME = [
  ["until-quiet", "held till quiet"],
  ["gone-at-the-fright", "gone at once"],
  ["faced", "faced it"],
] as const satisfies readonly (readonly [(typeof HELD_OR_GONE)[number], string])[];

/** What became of the thing he took fright at: one press, and once more takes it back. */
function Became() {
  const session = useSession();
  const id = usePen(({ state }) => state.fright?.id ?? null);
  const held = usePen((snapshot) => {
    const fright = snapshot.state.fright && session.standing(snapshot.state.fright.id);
    return fright && is(fright, "startle") ? (fright.held ?? null) : null;
  });
  if (id === null) return null;
  return (
    <>
      {BECAME.map(([value, words]) => (
        <button
          key={value}
          type="button"
          aria-pressed={held === value}
          onClick={() => session.correct(id, { with: { held: held === value ? null : value } })}
          className="pen-button px-0.5 text-[15px] leading-tight aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
        >
          {words}
        </button>
      ))}
    </>
  );
}

function Away({ from }: { from: number }) {
  const session = useSession();
  const now = usePenTime();
  const stood = standingSoFar(session);
  return (
    <button type="button" onClick={() => session.dwell()} className="pen-button border-ink bg-ink text-xl text-paper">
      Step away {clockOf(Math.max(0, (now - from) / 1000))}
      {stood && (
        <span className="text-[15px]">
          last {stood.last} s, now {stood.next}
        </span>
      )}
    </button>
  );
}

const FRIGHTS = Object.entries(FRIGHT_WORDS).map(([size, words]) => [words, Number(size) as Severity] as const);

/** Signs of ease above, of strain below. */
export function SignsPanel({ onDone }: { onDone: () => void }) {
  return (
    <>
      <p className="mb-1 flex items-center gap-2 text-lg font-semibold">
        <Smile size={22} aria-hidden="true" /> Of ease
      </p>
      <QuickPanel name="ease" onDone={onDone} />
      <p className="mt-3 mb-1 flex items-center gap-2 text-lg font-semibold">
        <Frown size={22} aria-hidden="true" /> Of strain
      </p>
      <QuickPanel name="strain" onDone={onDone} />
    </>
  );
}

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
          ? FRIGHTS.map(([words, size]) => [words, frightOf(session, size)] as const)
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
