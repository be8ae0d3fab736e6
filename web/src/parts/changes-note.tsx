import { ArrowDown, ArrowUp } from "lucide-react";
import type { ReactNode } from "react";
import type { VerdictChange } from "@still-pine/core/readiness";

/** What new entries changed in the verdicts, said in words and announced. */
export function ChangesNote({
  title,
  changes,
  children,
}: {
  title: string;
  changes: readonly VerdictChange[];
  children?: ReactNode;
}) {
  return (
    <section role="status" aria-label={title} className="rounded-xl border-2 border-pine bg-sheet p-4">
      <h2 className="mb-1 text-xl">{title}</h2>
      {changes.length === 0 ? (
        <p>No word changed; the evidence did.</p>
      ) : (
        <ul className="grid gap-1">
          {changes.map((change) => (
            <li key={change.text} className="flex items-center gap-2">
              {change.better ? (
                <ArrowUp size={18} className="text-pine" aria-label="up" />
              ) : (
                <ArrowDown size={18} className="text-clay" aria-label="down" />
              )}
              <span className={change.side ? undefined : "font-bold"}>{change.text}</span>
            </li>
          ))}
        </ul>
      )}
      {children && <div className="mt-3 flex flex-wrap gap-2">{children}</div>}
    </section>
  );
}
