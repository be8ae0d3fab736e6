import type { DayEstimate } from "@still-pine/core/evidence";
import { useYardDaysQuery } from "../../api";

const PLACES = 2;
const figure = (value: number): string => value.toFixed(PLACES);
const inHundred = (share: number): string => {
  const count = Math.round(Math.abs(share) * 100);
  return count === 0 ? "as many come clean as later" : `${count} of 100 ${share > 0 ? "fewer" : "more"} come clean`;
};

/** Two things nobody has measured on horses, as the yard's own record has them. They are shown, and change no rule. */
export function OwnDays() {
  const { data } = useYardDaysQuery();
  if (!data) return null;
  const { together, firstWorse } = data;
  return (
    <section aria-labelledby="own-days" className="card grid gap-3">
      <h2 id="own-days" className="text-xl">
        What your record says of days
      </h2>
      <p className="text-faint">
        Nobody has measured these two things on horses. Your own record can. They are shown, and change no rule by
        themselves.
      </p>
      <dl className="grid gap-3">
        <div>
          <dt className="font-bold">How far asks of one day hang together</dt>
          <dd>
            {together ? (
              <>
                <b className="tabular-nums">{figure(together.value)}</b>
                {rangeInWords(together, figure)}, from {together.from} pairs of days. At 0 each ask stands by itself; at
                1 a day is good or bad as a whole. The judge was tried on horses of 0 to 0.2.
              </>
            ) : (
              <TooLittle />
            )}
          </dd>
        </div>
        <div>
          <dt className="font-bold">How much worse a day’s first ask is than those after it</dt>
          <dd>
            {firstWorse ? (
              <>
                <b>{inHundred(firstWorse.value)}</b>
                {rangeInWords(firstWorse, (share) => String(Math.round(share * 100)))}, from {firstWorse.from} days. The
                judge asks for cold first asks because they often come out worse.
              </>
            ) : (
              <TooLittle />
            )}
          </dd>
        </div>
      </dl>
      <p className="text-sm text-faint">
        Counted side by side, from asks that were tapped one by one, of {data.horses}{" "}
        {data.horses === 1 ? "horse" : "horses"}; the latest outing of each is left out.
      </p>
    </section>
  );
}

const TooLittle = () => <>There is too little on record yet: at least fifty such days are needed.</>;

function rangeInWords({ range }: DayEstimate, inWords: (value: number) => string): string {
  return range ? ` (likely between ${inWords(range[0])} and ${inWords(range[1])})` : "";
}
