import type { ReactNode } from "react";
import { Link } from "react-router";
import { problemOf } from "./problem";
import type { Problem } from "@still-pine/contract/http";

/** While a view waits for its first answer. */
function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-faint">
      Fetching {what} …
    </p>
  );
}

/** What went wrong, what to change, and every field that was named. */
export function ProblemNote({ problem, children }: { problem: Problem; children?: ReactNode }) {
  return (
    <div role="alert" className="rounded-xl border-2 border-clay bg-sheet p-4">
      <p className="font-bold text-clay">{problem.title}</p>
      <p>{problem.detail}</p>
      {problem.errors && problem.errors.length > 0 && (
        <ul className="mt-2 list-disc pl-5">
          {problem.errors.map((one) => (
            <li key={one.path + one.expected}>
              {one.path && <code>{one.path}</code>} expected {one.expected}, found {one.found}
            </li>
          ))}
        </ul>
      )}
      {children}
    </div>
  );
}

/** What a view shows instead of itself while it has no data: waiting, not there, or failed. */
export function NoDataYet({ what, error, retry }: { what: string; error: unknown; retry: () => void }) {
  if (!error) return <Loading what={what} />;
  const problem = problemOf(error);
  return problem.status === 404 ? <ProblemNote problem={problem} /> : <Failed error={error} retry={retry} />;
}

function Failed({ error, retry }: { error: unknown; retry: () => void }) {
  const problem = problemOf(error);
  return (
    <ProblemNote problem={problem}>
      <div className="mt-3 flex flex-wrap gap-2">
        {problem.status === 401 && <WayIn why={String(problem["why"] ?? "")} />}
        <button type="button" className="button" onClick={retry}>
          Try again
        </button>
      </div>
    </ProblemNote>
  );
}

/** Where somebody goes who is not let in. */
function WayIn({ why }: { why: string }) {
  if (why === "other-yard")
    return (
      <Link className="button button-main" to="/waiting">
        See what waits here
      </Link>
    );
  return (
    <Link className="button button-main" to="/join">
      {why === "locked" ? "Type the pass phrase" : "Pair this device"}
    </Link>
  );
}
