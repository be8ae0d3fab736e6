import { canonical, namedIn, type InputWarning } from "@still-pine/contract/record";
import { SHIPPED, type Program } from "@still-pine/core/programs";
import {
  aboutOf,
  adjustedProgram,
  chosenProgram,
  gather,
  judgeGates,
  judgeGathered,
  nextAtAge,
  whatNext,
  type GateJudgement,
  type Gathered,
  type HorseAbout,
  type Judgement,
  type WhatNext,
} from "@still-pine/core/readiness";
import { ageOn, dayIn, foldRecord, type FoldedRecord, type HorseRecord } from "@still-pine/core/record";

/** What `bin/assess` prints of a record. */
export interface Assessment {
  now: string;
  horse: unknown;
  program: unknown;
  steps: Judgement[];
  warnings: readonly InputWarning[];
  gates: GateJudgement[];
  next: WhatNext;
}

export interface Assessed {
  assessment: Assessment;
  folded: FoldedRecord;
  gathered: Gathered;
  chosen: Program;
}

/**
 * The verdicts of a whole record, read from its first entry to its last.
 *
 * @param now ISO 8601
 * @param choose another program than the horse's own
 * @param shown a step whose asks are kept for showing
 */
export function assessRecord(
  record: HorseRecord,
  now: string,
  choose: (about: HorseAbout) => Program = (about) => chosenProgram(namedIn(record), about, SHIPPED),
  shown?: string,
): Assessed {
  const folded = foldRecord(record);
  const about = aboutOf(folded);
  const chosen = choose(about);
  const today = dayIn(record.yard.timeZone, now);
  const { monthsAtLeast } = ageOn(record.horse.foaled, record.horse.foaledPrecision, today);
  const gathered = gather(folded, adjustedProgram(chosen, about), shown);
  const steps = judgeGathered(gathered, today);
  return {
    folded,
    gathered,
    chosen,
    assessment: {
      now,
      horse: JSON.parse(canonical(record.horse)),
      program: { id: chosen.id, version: chosen.version },
      steps,
      warnings: [],
      gates: judgeGates(gathered, today),
      next: nextAtAge(whatNext(gathered, steps, today), gathered.program, monthsAtLeast),
    },
  };
}
