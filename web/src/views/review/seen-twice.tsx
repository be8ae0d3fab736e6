import type { YardView } from "@still-pine/contract/http";
import { stepName } from "@still-pine/core/readiness/words";
import type { AskEvent } from "@still-pine/core/record";
import { clockOf, shortly } from "../../pen/words";
import { deviceId } from "../../outbox/device";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

interface SeenTwiceProps {
  reviewed: ReviewedOuting;
  yard: YardView;
  /** Names of devices, as far as they are known. */
  recorders: Record<string, string>;
  /** Strikes one of the two out, so that the other counts. */
  onStrike: (id: string) => void;
}

/** Asks that two devices both wrote down: the less clean of the two counts until a person says otherwise. */
export function SeenTwice({ reviewed: { pairs, plan }, yard, recorders, onStrike }: SeenTwiceProps) {
  if (pairs.length === 0) return null;
  const own = deviceId();
  const by = ({ device }: AskEvent): string =>
    device === own ? "this device" : (recorders[device ?? ""] ?? "another device");
  const start = Date.parse(plan.startedAt);
  return (
    <section aria-label="Seen by two" className="card">
      <h2 className="mb-1 text-xl">Seen by two</h2>
      <p className="mb-3 text-faint">
        Two devices wrote down the same ask. It counts once, as the less clean of the two, until you choose.
      </p>
      <ul className="grid gap-2">
        {pairs.map(({ kept, other }) => {
          const name = stepName(plan.program, kept.step, yard.words);
          return (
            <li
              key={kept.id}
              className="grid gap-1 rounded-lg border border-line p-2 sm:grid-cols-[1fr_auto] sm:items-center"
            >
              <div>
                <p className="font-semibold">
                  {clockOf((Date.parse(kept.at) - start) / 1000)} {name}
                  {kept.side ? `, ${kept.side} side` : ""}
                </p>
                <p>
                  Counts: {shortly(kept, plan.program)}, by {by(kept)}
                </p>
                <p className="text-faint">
                  Left out: {shortly(other, plan.program)}, by {by(other)}
                </p>
              </div>
              <div className="flex flex-wrap gap-2">
                <button
                  type="button"
                  className="button"
                  onClick={() => onStrike(other.id)}
                  aria-label={`Keep it so: ${shortly(kept, plan.program)}, by ${by(kept)}`}
                >
                  Keep it so
                </button>
                <button
                  type="button"
                  className="button"
                  onClick={() => onStrike(kept.id)}
                  aria-label={`The other one: ${shortly(other, plan.program)}, by ${by(other)}`}
                >
                  The other one
                </button>
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
