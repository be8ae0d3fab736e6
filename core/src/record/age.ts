import { differenceInMonths } from "date-fns/differenceInMonths";
import { parseISO } from "date-fns/parseISO";
import type { Day } from "./day";
import type { Precision } from "./vocabulary";

export interface Age {
  /** Whole months at the youngest and at the oldest the horse can be. */
  monthsAtLeast: number;
  monthsAtMost: number;
}

const daysInMonth = (year: number, month: number): number => new Date(year, month, 0).getDate();

/** First and last calendar day on which a horse may have been foaled, as exact as the precision says. */
export function foalingSpan(foaled: Day, precision: Precision): { first: Day; last: Day } {
  const year = foaled.slice(0, 4);
  const month = foaled.slice(5, 7);
  switch (precision) {
    case "day":
      return { first: foaled, last: foaled };
    case "month":
      return { first: `${year}-${month}-01`, last: `${year}-${month}-${daysInMonth(Number(year), Number(month))}` };
    case "year":
      return { first: `${year}-01-01`, last: `${year}-12-31` };
    default: {
      const never: never = precision;
      return never;
    }
  }
}

/**
 * Age in whole months with its uncertainty. Where a limit guards a young body, use `monthsAtLeast`, the younger end.
 * `ageOn("2023-05-01", "year", "2026-05-01")` is `{ monthsAtLeast: 28, monthsAtMost: 40 }`.
 */
export function ageOn(foaled: Day, precision: Precision, today: Day): Age {
  const span = foalingSpan(foaled, precision);
  const months = (born: Day): number => Math.max(0, differenceInMonths(parseISO(today), parseISO(born)));
  return { monthsAtLeast: months(span.last), monthsAtMost: months(span.first) };
}

/** An age as people say it: "3 y 2 mo", "7 mo", "2–3 y". */
export function ageInWords(age: Age): string {
  const years = (months: number): number => Math.floor(months / 12);
  if (age.monthsAtLeast === age.monthsAtMost) {
    const months = age.monthsAtLeast;
    if (months < 24) return `${months} mo`;
    return months % 12 === 0 ? `${years(months)} y` : `${years(months)} y ${months % 12} mo`;
  }
  if (age.monthsAtMost < 24) return `${age.monthsAtLeast}–${age.monthsAtMost} mo`;
  const low = years(age.monthsAtLeast);
  const high = years(age.monthsAtMost);
  return low === high ? `about ${low} y` : `${low}–${high} y`;
}
