import type { StringHorse } from "@still-pine/contract/http";
import { ageInWords, ageOn, daysBetween, type Day } from "@still-pine/core/record";
import { openSummary, waitingSteps } from "@still-pine/core/readiness";
import type { StoredHorse } from "../store/horses";
import type { Standing } from "./horse-fold";

/** A horse's line of the string for one day. */
export function horseLine(
  horse: StoredHorse,
  { judgements, program, days, inWork }: Standing,
  today: Day,
): StringHorse {
  const [next] = waitingSteps(judgements, program);
  return {
    id: horse.id,
    name: horse.name,
    foaled: horse.foaled,
    foaledPrecision: horse.foaledPrecision,
    sex: horse.sex,
    version: horse.version,
    age: ageInWords(ageOn(horse.foaled, horse.foaledPrecision, today)),
    inWork,
    workDays: days.count,
    calendarDays: days.first === null ? 0 : Math.max(1, daysBetween(days.first, today) + 1),
    lastOuting: days.last,
    trail: judgements.map(({ step, status, sides }) => ({
      step,
      status,
      sides: Object.fromEntries(
        Object.entries(sides).map(([side, one]) => [side, { status: one.status, sure: one.sure }]),
      ),
    })),
    waitsOn: next ? { step: next.step, status: next.status, text: openSummary(next.toOpen, program) } : null,
  };
}
