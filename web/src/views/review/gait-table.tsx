import { gaitTimes, type GaitTime } from "@still-pine/core/outing";
import { clockOf } from "../../pen/words";
import type { ReviewedOuting } from "../../writing/reviewed-outing";

const REINS = [
  ["near", "Left rein"],
  ["off", "Right rein"],
  [null, "Rein not said"],
] as const satisfies readonly (readonly [GaitTime["rein"], string])[];

/** Minutes by gait and rein, as far as the gaits were said in the pen; nothing where none was. */
export function GaitTable({ reviewed: { events, endedAt } }: { reviewed: ReviewedOuting }) {
  const times = gaitTimes(events, endedAt);
  if (times.length === 0) return null;
  const reins = REINS.filter(([rein]) => rein !== null || times.some((one) => one.rein === null));
  const gaits = [...new Set(times.map(({ gait }) => gait))];
  return (
    <section aria-label="How long in each gait" className="card">
      <h2 className="mb-2 text-xl">How long in each gait</h2>
      <table className="w-full max-w-md border-collapse text-left">
        <thead>
          <tr className="text-sm text-faint">
            <th scope="col" className="font-normal">
              Minutes
            </th>
            {reins.map(([, words]) => (
              <th key={words} scope="col" className="font-normal">
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {gaits.map((gait) => (
            <tr key={gait} className="border-t border-line">
              <th scope="row" className="py-1 font-semibold first-letter:uppercase">
                {gait}
              </th>
              {reins.map(([rein, words]) => {
                const one = times.find((time) => time.gait === gait && time.rein === rein);
                return <td key={words}>{one ? clockOf(one.seconds) : "–"}</td>;
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
