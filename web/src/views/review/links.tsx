import type { YardView } from "@still-pine/contract/http";
import { linkChanges, type LinkChange } from "@still-pine/core/outing";
import { stepName } from "@still-pine/core/readiness/words";
import { useMemo } from "react";
import { timeIn } from "../../parts/days";
import { listInWords } from "../../parts/trust-words";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

/** Which pieces of the card opened as others were good today, and which closed again; nothing where none waited. */
export function Links({
  reviewed: { plan, events },
  yard,
}: {
  reviewed: ReviewedOuting;
  yard: Pick<YardView, "words" | "timeZone">;
}) {
  const changes = useMemo(() => linkChanges(plan, events), [plan, events]);
  const waited = plan.exercises.filter(({ after = [] }) => after.some(({ stands }) => !stands));
  if (waited.length === 0 && changes.length === 0) return null;
  const opened = new Set(changes.map(({ step }) => step));
  const never = waited.filter(({ step }) => !opened.has(step));
  const nameOf = (step: string): string => stepName(plan.program, step, yard.words);
  /** What changed with one entry, and by the same, is said in one line. */
  const lines = new Map<string, LinkChange[]>();
  for (const change of changes) {
    const key = `${change.entry} ${change.isOpen} ${change.bases.join(" ")}`;
    lines.set(key, [...(lines.get(key) ?? []), change]);
  }
  const say = (all: readonly LinkChange[]): string => {
    const [first] = all;
    const bases = listInWords((first?.bases ?? []).map(nameOf));
    const names = listInWords(all.map(({ step }) => nameOf(step)));
    return first?.isOpen ? `${bases} good for today: ${names} opened.` : `${bases} was missed: ${names} closed again.`;
  };
  return (
    <section aria-label="What opened" className="card">
      <h2 className="mb-2 text-xl">What opened</h2>
      <ul>
        {[...lines].map(([key, all]) => (
          <li key={key}>
            <span className="text-faint">{timeIn(yard.timeZone, new Date(all[0]?.at ?? 0).toISOString())}</span>{" "}
            {say(all)}
          </li>
        ))}
      </ul>
      {never.length > 0 && (
        <p className="text-faint">Stayed shut: {listInWords(never.map(({ step }) => nameOf(step)))}.</p>
      )}
    </section>
  );
}
