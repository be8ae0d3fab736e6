import { ArrowRight } from "lucide-react";
import { checkUpResults } from "@still-pine/core/outing";
import { findStep, nameIn, type Dialect } from "@still-pine/core/programs";
import { sideInWords } from "@still-pine/core/readiness/words";
import { RestOrOther } from "./exercise-strip";
import { goNext } from "../../pen/moves";
import { usePen, useSession } from "./pen-context";

interface CheckUpStripProps {
  words: Dialect;
  onAdd: () => void;
}

/** In a check-up: what is asked now, how far it has come, and one large key to what is next. */
export function CheckUpStrip({ words, onAdd }: CheckUpStripProps) {
  const session = useSession();
  const course = session.plan.checkUp;
  const step = usePen((_, { here }) => here.step);
  const advice = usePen((snapshot) => snapshot.advice);
  const found = usePen(({ state }) => (course ? checkUpResults(state, course).size - course.known.length : 0));
  if (!course) return null;
  const named = (id: string): string => {
    const one = findStep(session.plan.program, id);
    return one ? nameIn(one, words) : id;
  };
  const next =
    advice.side !== undefined
      ? `the ${sideInWords(advice.side)}`
      : advice.step !== undefined && advice.step !== step
        ? named(advice.step)
        : null;
  return (
    <div role="group" aria-label="Check-up" className="grid gap-1.5">
      <p className="pen-still h-7 truncate px-1 text-[17px] font-bold" role="status" aria-label="Asked now">
        {named(step)}
        <span className="font-semibold">
          {" "}
          · {found} of {course.tests.length} found
        </span>
      </p>
      <div className="flex gap-1.5">
        <button
          type="button"
          disabled={next === null}
          onClick={() => goNext(session)}
          className="pen-button min-w-0 flex-1 justify-between border-pine bg-pine px-3 text-left text-[17px] text-on-pine disabled:border-line disabled:bg-sheet disabled:text-faint"
        >
          <span className="line-clamp-2">{next === null ? "Ask it" : `Next: ${next}`}</span>
          <ArrowRight size={26} className="shrink-0" aria-hidden="true" />
        </button>
        <RestOrOther onAdd={onAdd} />
      </div>
    </div>
  );
}
