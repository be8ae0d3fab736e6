import { clsx } from "clsx";
import { ChevronDown, ChevronUp, MoveHorizontal } from "lucide-react";
import type { BodyOf } from "@still-pine/core/record";
import { sidesOf, type SideKey, type Step } from "@still-pine/core/programs";
import { framesOf, mayFallIntoCanter } from "@still-pine/core/programs/carriage";
import { isReached, lineFor, tallyOf } from "@still-pine/core/outing";
import { gaitBeside } from "@still-pine/core/recording";
import { carries, changeGait, comeBack, fallIntoCanter } from "../../pen/going";
import { clockOf } from "../../pen/words";
import { usePen, usePenSettings, usePenTime, useSession } from "./pen-context";

type Frame = BodyOf<"frame">["frame"];

const FRAME_KEYS: Partial<Record<Frame, string>> = {
  stretches: "reaches down",
  hollow: "hollow",
  "behind-the-vertical": "behind the vertical",
};

/** With so many keys besides there is room for one key of the gait. */
const CROWDED = 3;

const KEY = "pen-button min-w-16 flex-1 flex-col gap-0 px-0.5 text-[15px] leading-[1.1]";

/** Where he travels: the rein, the gait he goes in and how he carries himself, one press each. */
export function GoingRow({ step }: { step: Step }) {
  const going = usePen(({ state }) => state.going);
  const extras = framesOf(step).length + Number(mayFallIntoCanter(step));
  const isCrowded = extras >= CROWDED;
  if (going?.isUnasked) return <Unasked from={going.at} />;
  return (
    <div role="group" aria-label="Rein, gait and frame" className="flex gap-1.5">
      {sidesOf(step).length > 1 && <ReinKey step={step} />}
      {isCrowded ? (
        <GaitKey by={going?.gait === "trot" || going?.gait === "canter" ? -1 : 1} />
      ) : (
        <>
          <GaitKey by={-1} />
          <GaitKey by={1} />
        </>
      )}
      {framesOf(step).map((frame) => (
        <FrameKey key={frame} frame={frame} />
      ))}
      {mayFallIntoCanter(step) && <UnaskedKey />}
    </div>
  );
}

const REIN_NAMES: Partial<Record<SideKey, string>> = { near: "Left", off: "Right" };

/** The rein he goes on, and how far each has come; a press changes it. */
function ReinKey({ step }: { step: Step }) {
  const session = useSession();
  const here = usePen((_, { here: { side } }) => side);
  const gait = usePen(({ state }) => state.going?.gait);
  const other: SideKey = here === "near" ? "off" : "near";
  return (
    <button
      type="button"
      onClick={() => session.changeSide()}
      className={clsx(KEY, "flex-[1.4] border-pine bg-pine text-on-pine max-[379px]:text-[14px]")}
    >
      <span className="flex items-center gap-1 whitespace-nowrap min-[380px]:text-[17px]">
        {REIN_NAMES[here]} <Count step={step} side={here} />
      </span>
      {gait && <span>{gait}</span>}
      <span className="sr-only">; change to the</span>
      <span className="flex items-center gap-1 font-normal whitespace-nowrap">
        <MoveHorizontal size={16} className="max-[379px]:hidden" aria-hidden="true" />{" "}
        {REIN_NAMES[other]?.toLowerCase()} <Count step={step} side={other} />
      </span>
    </button>
  );
}

function Count({ step: { id }, side }: { step: Step; side: SideKey }) {
  const good = usePen(({ state }) => tallyOf(state, id, side).good);
  const count = usePen(({ state }) => lineFor(state, id).count);
  const isDone = usePen(({ state }) => isReached(state, id, side));
  return (
    <span>
      {isDone && "✓ "}
      {good}/{count}
    </span>
  );
}

/** One gait up or down. */
function GaitKey({ by }: { by: 1 | -1 }) {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  const to = usePen(({ state }) => gaitBeside(state.going?.gait ?? null, by));
  const Icon = by === 1 ? ChevronUp : ChevronDown;
  return (
    <button
      type="button"
      disabled={to === null}
      aria-label={to === null ? "No gait beyond" : `He goes in ${to}`}
      onClick={() => changeGait(session, by, onceOnly)}
      className={clsx(KEY, "disabled:text-faint")}
    >
      <Icon size={24} strokeWidth={3} aria-hidden="true" /> {to ?? "–"}
    </button>
  );
}

function FrameKey({ frame }: { frame: Frame }) {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  return (
    <button type="button" onClick={() => carries(session, frame, onceOnly)} className={KEY}>
      {FRAME_KEYS[frame]}
    </button>
  );
}

function UnaskedKey() {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  return (
    <button type="button" onClick={() => fallIntoCanter(session, onceOnly)} className={KEY}>
      canter, not asked
    </button>
  );
}

/** While he goes in a gait nobody asked for: how he came back from it. */
function Unasked({ from }: { from: number }) {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  const now = usePenTime();
  return (
    <div role="group" aria-label="Canter, not asked for" className="flex gap-1.5">
      <button
        type="button"
        onClick={() => comeBack(session, "brought", onceOnly)}
        className="pen-button flex-[2] border-ink bg-ink px-1 text-[17px] leading-tight text-paper"
      >
        <span>
          Brought back <span className="tabular-nums">{clockOf(Math.max(0, (now - from) / 1000))}</span>
        </span>
      </button>
      <button
        type="button"
        onClick={() => comeBack(session, "himself", onceOnly)}
        className="pen-button flex-1 px-1 text-[16px] leading-tight"
      >
        came back himself
      </button>
    </div>
  );
}
