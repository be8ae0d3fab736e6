import type { Pool } from "pg";
import type { ProgramChanges } from "@still-pine/contract/http";
import { nextFor } from "@still-pine/contract/views";
import type { Program } from "@still-pine/core/programs";
import {
  aboutOf,
  adjustedProgram,
  describeChanges,
  gather,
  judgeGathered,
  stepName,
  whatNext,
  wordsOf,
} from "@still-pine/core/readiness";
import { dayIn, foldRecord } from "@still-pine/core/record";
import { eventsOfHorse } from "../store/events";
import { listHorses } from "../store/horses";
import { toRecord } from "../store/record";
import type { Yard } from "../store/yard";
import { standingOf } from "./stored-yard";

/** What a new version of a program would change for each horse in work that goes by it; horses for whom nothing changes are left out. */
export async function programChanges(db: Pool, yard: Yard, program: Program, now: string): Promise<ProgramChanges> {
  const today = dayIn(yard.timeZone, now);
  const horses: ProgramChanges["horses"] = [];
  for (const horse of await listHorses(db, yard.id)) {
    const standing = await standingOf(db, yard, horse, today);
    if (standing.program.id !== program.id || !standing.inWork) continue;
    const folded = foldRecord(toRecord(yard, horse, await eventsOfHorse(db, yard.id, horse.id)));
    const before = wordsOf(gather(folded, standing.program), today);
    const gathered = gather(folded, adjustedProgram(program, aboutOf(folded)));
    const changes = describeChanges(before, wordsOf(gathered, today), program).filter(({ side }) => side === undefined);
    const there = { ...standing, program, next: whatNext(gathered, judgeGathered(gathered, today), today) };
    const [next, former] = [there, standing].map((one) => nextFor(horse, one, today).work[0]?.step);
    const isOther = next !== undefined && next !== former;
    if (changes.length > 0 || isOther)
      horses.push({
        horse: horse.id,
        name: horse.name,
        changes: changes.map(({ text }) => text),
        next: isOther ? stepName(program, next) : null,
      });
  }
  return { horses };
}
