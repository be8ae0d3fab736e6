import { addDays, type Day } from "../record";
import type { JudgeNumbers } from "../programs";
import type { SideEvidence } from "../evidence";
import { whyNotOnItsOwn } from "./rules";
import type { FindingCode } from "./types";

export interface LeastWork {
  /** Clean asks in all, counted over the outings. */
  asks: number;
  /** Outings on further days; the first ask of each is a cold one where the step was worked before. */
  outings: number;
  /** For each rule that is not met now, after how many such outings it is. */
  afterOutings: Map<FindingCode, number>;
}

const MOST_OUTINGS = 6;
const MOST_ASKS = 80;

/**
 * The least clean work after which a side meets rules 1, 3, 4 and 5, found by trying it on a copy of the evidence: the
 * fewest further outings first, then the fewest asks. Each ask is taken as clean at the standard, quiet and true.
 *
 * @param workedBefore whether the step was asked in an earlier outing, on either side
 * @returns null where even many outings would not do
 */
export function leastWork(
  side: SideEvidence,
  numbers: JudgeNumbers,
  today: Day,
  workedBefore: boolean,
): LeastWork | null {
  const missing = whyNotOnItsOwn(side, numbers);
  if (missing.length === 0) return { asks: 0, outings: 0, afterOutings: new Map() };
  const afterOutings = new Map<FindingCode, number>();
  let before = side.fork();
  for (let outings = 1; outings <= MOST_OUTINGS; outings += 1) {
    const single = tryOuting(before, outings, 1, today, workedBefore);
    const still = whyNotOnItsOwn(single, numbers);
    for (const code of missing) if (!still.includes(code) && !afterOutings.has(code)) afterOutings.set(code, outings);
    const onlyShareMissing = still.every((code) => code === "clean-share" || code === "light");
    if (onlyShareMissing)
      for (let asks = 1; asks <= MOST_ASKS; asks += 1) {
        const tried = asks === 1 ? single : tryOuting(before, outings, asks, today, workedBefore);
        if (whyNotOnItsOwn(tried, numbers).length === 0) return { asks: outings - 1 + asks, outings, afterOutings };
      }
    before = single;
  }
  return null;
}

/** A copy of `side` after one more outing with so many clean asks, on the `nth` day from tomorrow on. */
export function tryOuting(
  side: SideEvidence,
  nth: number,
  asks: number,
  today: Day,
  workedBefore: boolean,
): SideEvidence {
  const copy = side.fork();
  const day = addDays(today, nth);
  const { phase, mood } = side.standard;
  const outing = (side.visits.at(-1)?.outing ?? 0) + 1;
  for (let n = 0; n < asks; n += 1)
    copy.ask(
      {
        type: "ask",
        id: `try-${nth}-${n}`,
        at: `${day}T10:00:00Z`,
        step: "",
        answer: "gave",
        phase: phase ?? undefined,
        mood,
      },
      outing,
      day,
      workedBefore || nth > 1,
    );
  copy.close([]);
  return copy;
}
