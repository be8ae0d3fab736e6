import type { StringHorse } from "../http";
import { ageInWords, ageOn, daysBetween, type Day, type Horse } from "@still-pine/core/record";
import { nextAtAge, openSummary, type Standing, type WhatNext } from "@still-pine/core/readiness";

/** A horse as the yard knows him. */
export interface HorseRow extends Horse {
  programId: string;
  version: number;
}

/** Steps of the edge that a line carries. */
const EDGE_SHOWN = 8;

/** What is next for a horse, held back from what its program does not ask of his age. */
export const nextFor = (horse: Horse, { next, program }: Standing, today: Day): WhatNext =>
  nextAtAge(next, program, ageOn(horse.foaled, horse.foaledPrecision, today).monthsAtLeast);

/** A horse's line of the string for one day. */
export function horseLine(horse: HorseRow, standing: Standing, today: Day): StringHorse {
  const { judgements, gates, program, days, inWork } = standing;
  const next = nextFor(horse, standing, today);
  const first = next.work[0] ?? next.checkCold[0];
  const judged = first && judgements.find((one) => one.step === first.step);
  const gate = gates.find((one) => one.gate === next.gate);
  const count = (word: string): number => judgements.filter(({ status }) => status === word).length;
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
    program: { id: program.id, version: program.version },
    trail: judgements
      .filter(({ status, held }) => status !== "untried" || held)
      .map(({ step, status, held, sides }) => ({
        step,
        status,
        ...(held ? { held } : {}),
        sides: Object.fromEntries(
          Object.entries(sides).map(([side, one]) => [side, { status: one.status, sure: one.sure }]),
        ),
      })),
    steady: count("steady"),
    slipped: count("slipped"),
    rusty: count("rusty"),
    edge: next.work.slice(0, EDGE_SHOWN).map(({ step, status, reason }) => ({ step, status, reason })),
    gate: gate ? { gate: gate.gate, have: gate.needs.filter(({ met }) => met).length, of: gate.needs.length } : null,
    waitsOn:
      first && judged
        ? { step: first.step, status: judged.status, text: openSummary(judged.toOpen, program) || "one clean cold ask" }
        : null,
  };
}
