import { clsx } from "clsx";
import { ArrowRight, CloudOff, CornerUpLeft, DoorOpen, Flag, Pause, type LucideIcon } from "lucide-react";
import { inDialect, isUnknown, type Dialect } from "@still-pine/core/programs";
import { adviceInWords, VERB_WORDS, type Verb } from "@still-pine/core/outing";
import { PenRing } from "../../marks/pen-ring";
import { minutesAt } from "@still-pine/core/outing";
import { plain } from "../../parts/choice-words";
import { useLadderTexts } from "../../parts/use-ladder-texts";
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

interface VerdictProps {
  words: Dialect;
  /** Whether it says whose outing it is; not where the page does. */
  isNamed?: boolean;
  onOpen: () => void;
}

/** The coach's word with its one reason; opened, the entries it rests on. */
export function Verdict({ words, isNamed = false, onOpen }: VerdictProps) {
  const session = useSession();
  const texts = useLadderTexts(usePen((_, { here }) => here.step));
  const advice = usePen((snapshot) => snapshot.advice);
  const [{ coach }] = usePenSettings();
  // Safety needs no program, and is said as ever.
  if (isUnknown(session.plan.program) && advice.reason === "start")
    return <NoCoach isNamed={isNamed}>His program is not here: no coach. What you press is kept.</NoCoach>;
  if (coach === "off") return <NoCoach isNamed={isNamed}>The coach is off.</NoCoach>;
  const Icon = VERB_ICONS[advice.verb];
  const rungWords = advice.rung === undefined ? null : (texts.rungs[advice.rung] ?? plain(advice.rung));
  const toRung = rungWords && `${advice.verb === "go-back" ? "Back to" : "On to"}: ${inDialect(rungWords, words)}.`;
  return (
    <button
      type="button"
      onClick={onOpen}
      className={clsx("h-22 min-w-0 flex-1 rounded-xl border-3 px-2.5 text-left lg:h-68 lg:px-3", LOOK[advice.verb])}
    >
      <span role="status" aria-label="The coach" className="block">
        <span className="pen-still h-20 lg:h-64">
          <span className="flex h-full flex-col justify-center">
            <span className="flex items-center gap-2 text-2xl leading-7 font-bold whitespace-nowrap lg:text-5xl lg:leading-none">
              <Icon size={26} className="shrink-0 lg:size-12" strokeWidth={3} aria-hidden="true" />
              {VERB_WORDS[advice.verb]}
              {isNamed && <Name />}
            </span>
            <span className="block text-[16px] leading-[1.08] font-semibold lg:mt-2 lg:text-2xl lg:leading-tight">
              {adviceInWords(advice, session.plan.program)}
              {toRung !== null && ` ${toRung}`}
            </span>
          </span>
        </span>
      </span>
    </button>
  );
}

function NoCoach({ isNamed, children }: { isNamed: boolean; children: string }) {
  return (
    <div className="flex-1 self-center text-lg">
      {isNamed && (
        <b className="flex text-[16px]">
          <Name />
        </b>
      )}
      <p>{children}</p>
    </div>
  );
}

/** Whose outing it is, beside the coach's word where the ring has no room for it. */
function Name() {
  const { outing } = useSession();
  return (
    <span className="ms-auto flex min-w-0 items-center gap-1 text-[15px] font-semibold lg:hidden">
      <span className="truncate">{outing.horseName}</span>
      <Waiting />
    </span>
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
      <div className="pen-still h-22 w-22 lg:h-68 lg:w-60">
        <div className="flex flex-col items-center">
          <PenRing
            startedAt={Date.parse(plan.startedAt)}
            capMinutes={isWorkNearer ? plan.caps.workingMinutes : plan.caps.inHandMinutes}
            minutes={isWorkNearer ? working : inHand}
            now={now}
            spurts={spurts}
            running={running}
            className="size-22 lg:size-60"
          />
          <b className="hidden max-w-60 items-center gap-1 text-2xl leading-tight lg:flex">
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
