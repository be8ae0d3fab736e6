import type { Pool } from "pg";
import type { CheckUpView } from "@still-pine/contract/http";
import { composeCheckUp } from "@still-pine/contract/views";
import { gather } from "@still-pine/core/readiness";
import { dayIn, foldRecord } from "@still-pine/core/record";
import { eventsOfHorse } from "../store/events";
import { loadLabels } from "../store/labels";
import { toRecord } from "../store/record";
import type { Yard } from "../store/yard";
import { standingOfHorse, yardView } from "./horse";

/** A horse's next check-up and what the last ones found; null where the yard has no such horse. */
export async function checkUpView(
  db: Pool,
  yard: Yard,
  id: string,
  asked: Parameters<typeof composeCheckUp>[0]["asked"],
  now: string,
): Promise<CheckUpView | null> {
  const today = dayIn(yard.timeZone, now);
  const judged = await standingOfHorse(db, yard, id, today);
  if (!judged) return null;
  const { horse: row, standing } = judged;
  const [events, labels] = await Promise.all([eventsOfHorse(db, yard.id, id), loadLabels(db, yard.id)]);
  const folded = foldRecord(toRecord(yard, row, events, labels));
  return composeCheckUp({
    yard: yardView(yard, labels, today),
    row,
    standing,
    today,
    gathered: gather(folded, standing.program),
    outings: folded.outings,
    asked,
  });
}
