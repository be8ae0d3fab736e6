import { Link } from "react-router";
import type { PrintView } from "@still-pine/contract/http";
import { loosePenStart } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness/words";
import { Hoofprint } from "./hoofprint";

/** A horse's row of prints, each a way to its step. Nearer and further prints stand a little apart, as a trail does. */
export function Trail({ horse, prints, size = 30 }: { horse: string; prints: readonly PrintView[]; size?: number }) {
  return (
    <ol aria-label="Trail" className="flex flex-wrap items-center">
      {prints.map((print, index) => (
        <li key={print.step} className={index % 2 ? "mt-2" : "mb-2"}>
          <Link
            to={`/horses/${encodeURIComponent(horse)}/steps/${print.step}`}
            className="block rounded px-px py-1 sm:px-0.5"
            title={stepName(loosePenStart, print.step)}
          >
            <Hoofprint print={print} name={stepName(loosePenStart, print.step)} size={size} />
          </Link>
        </li>
      ))}
    </ol>
  );
}
