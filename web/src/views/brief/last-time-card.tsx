import type { ReactNode } from "react";
import type { Brief } from "@still-pine/core/planning";
import { findingInWords, monthsInWords, stepName } from "@still-pine/core/readiness/words";
import { plain } from "../../parts/choice-words";
import { dayInWords } from "../../parts/days";
import { endedInWords, habitInWords, helpInWords, weakInWords, worryInWords, type Naming } from "./brief-words";

/** What the last outing left: how it ended, what was weak, what worried him, what helped, what was agreed for today. */
export function LastTimeCard({ brief, naming, today }: { brief: Brief; naming: Naming; today: string }) {
  const { last, nextTime, oldHabits, breakDays } = brief;
  if (!last)
    return (
      <section aria-label="Last time" className="card">
        <h2 className="text-xl">His first outing</h2>
        <p>Nothing is known of him here yet. Look before you ask; the least first.</p>
      </section>
    );
  const where = [last.place, last.handler && `with ${last.handler}`].filter(Boolean).join(", ");
  const caught = last.caught
    ? `${plain(last.caught)}${last.caughtSeconds === null ? "" : `, ${Math.round(last.caughtSeconds)} s`}`
    : null;
  return (
    <section aria-label="Last time" className="card">
      <h2 className="text-xl">Last time, {dayInWords(last.day, today)}</h2>
      <p className="mb-2 text-sm text-faint">
        {last.minutes} min{where && `, ${where}`}
        {last.unended && " · nobody ended it; it was closed by itself"}
      </p>
      {breakDays !== null && (
        <p className="mb-2 font-semibold text-resin">
          {breakDays} days without an outing, {last.daysAgo < breakDays ? "and not all of it is shown again" : "so far"}
          : check what stayed before anything else, from the ground up.
        </p>
      )}
      <dl className="grid gap-2">
        <Line title="Agreed for today">
          {nextTime && (
            <>
              {nextTime.steps.map((step) => stepName(naming.program, step, naming.words)).join(", ")}
              {nextTime.text && ` “${nextTime.text}”`}
            </>
          )}
        </Line>
        <Lines
          title="Left off the card"
          lines={(nextTime?.heldBack ?? []).map(
            ({ step, why, months = 0 }) =>
              `${stepName(naming.program, step, naming.words)}. ${why ? findingInWords(why, naming.program) : `This program waits until he is ${monthsInWords(months)}.`}`,
          )}
        />
        <Line title="Ended with">{endedInWords(last, naming)}</Line>
        <Line title="Caught">{caught}</Line>
        <Lines title="Weak" lines={last.weak.map((one) => weakInWords(one, naming))} />
        <Lines title="Worried him" lines={last.worries.map((one) => worryInWords(one, naming))} />
        <Lines title="Helped" lines={last.helped.map((one) => helpInWords(one, naming))} />
        <Lines title="Noted" lines={last.notes.map((note) => `“${note}”`)} />
        <Lines title="May come back" lines={oldHabits.map((one) => habitInWords(one, naming))} />
      </dl>
    </section>
  );
}

function Line({ title, children }: { title: string; children: ReactNode }) {
  if (!children) return null;
  return (
    <div>
      <dt className="text-sm text-faint">{title}</dt>
      <dd className="font-semibold">{children}</dd>
    </div>
  );
}

function Lines({ title, lines }: { title: string; lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <div>
      <dt className="text-sm text-faint">{title}</dt>
      <dd>
        <ul>
          {lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </dd>
    </div>
  );
}
