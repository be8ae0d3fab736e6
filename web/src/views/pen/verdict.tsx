import { clsx } from "clsx";
import { ArrowRight, CloudOff, CornerUpLeft, DoorOpen, Flag, Pause, type LucideIcon } from "lucide-react";
import { isUnknown } from "@still-pine/core/programs";
import { adviceInWords, VERB_WORDS, type Verb } from "@still-pine/core/outing";
import { PenRing } from "../../marks/pen-ring";
import { minutesAt } from "@still-pine/core/outing";
import { useSending } from "../../outbox/use-sending";
import { usePen, usePenSettings, usePenTime, useSession } from "./pen-context";

/** Each verb has a shape of its own. */
export const VERB_ICONS: Record<Verb, LucideIcon> = {
  "go-on": ArrowRight,
  stay: Pause,
  "go-back": CornerUpLeft,
  leave: Flag,
  finish: DoorOpen,
};

const LOOK: Record<Verb, string> = {
  "go-on": "border-pine bg-sheet text-pine",
  stay: "border-ink bg-sheet text-ink",
  "go-back": "border-resin bg-sheet text-resin",
  leave: "border-pine bg-pine text-on-pine",
  finish: "border-ink bg-ink text-paper",
};

/** The coach's word with its one reason; opened, the entries it rests on. */
export function Verdict({ onOpen }: { onOpen: () => void }) {
  const session = useSession();
  const advice = usePen((snapshot) => snapshot.advice);
  const [{ coach }] = usePenSettings();
  // Safety needs no program, and is said as ever.
  if (isUnknown(session.plan.program) && advice.reason === "start")
    return <p className="flex-1 self-center text-lg">His program is not here: no coach. What you press is kept.</p>;
  if (coach === "off") return <p className="flex-1 self-center text-lg">The coach is off.</p>;
  const Icon = VERB_ICONS[advice.verb];
  return (
    <button
      type="button"
      onClick={onOpen}
      className={clsx("h-31 min-w-0 flex-1 rounded-xl border-3 px-3 text-left lg:h-68", LOOK[advice.verb])}
    >
      <span role="status" aria-label="The coach" className="block">
        <span className="pen-still h-28 lg:h-64">
          <span className="flex h-full flex-col justify-center">
            <span className="flex items-center gap-2 text-3xl font-bold whitespace-nowrap lg:text-5xl">
              <Icon size={32} className="lg:size-12" strokeWidth={3} aria-hidden="true" /> {VERB_WORDS[advice.verb]}
            </span>
            <span className="block text-[17px] leading-tight font-semibold lg:mt-2 lg:text-2xl">
              {adviceInWords(advice, session.plan.program)}
            </span>
          </span>
        </span>
      </span>
    </button>
  );
}

/** The ring with the time of this outing: whichever of the two caps is nearer. */
export function Clock() {
  const session = useSession();
  const now = usePenTime();
  const { plan } = session;
  const spurts = usePen(({ state }) => state.spurts);
  const running = usePen(({ state }) => state.spurt);
  const { inHand, working } = minutesAt(session.read().state, plan, now);
  const isWorkNearer = working / plan.caps.workingMinutes > inHand / plan.caps.inHandMinutes;
  return (
    <div className="shrink-0">
      <div className="pen-still h-31 w-28 lg:h-68 lg:w-60">
        <div className="flex flex-col items-center">
          <PenRing
            startedAt={Date.parse(plan.startedAt)}
            capMinutes={isWorkNearer ? plan.caps.workingMinutes : plan.caps.inHandMinutes}
            minutes={isWorkNearer ? working : inHand}
            now={now}
            spurts={spurts}
            running={running}
            className="size-26 lg:size-60"
          />
          <b className="flex max-w-28 items-center gap-1 text-[16px] leading-tight lg:max-w-60 lg:text-2xl">
            <span className="truncate">{session.outing.horseName}</span>
            <Waiting />
          </b>
        </div>
      </div>
    </div>
  );
}

/** How many entries lie on this device only. */
function Waiting() {
  const { waiting } = useSending();
  if (waiting === 0) return null;
  return (
    <span className="flex shrink-0 items-center gap-0.5 text-[14px] font-semibold">
      <CloudOff size={14} aria-label="on this device only:" /> {waiting}
    </span>
  );
}
