import type { Pool } from "pg";
import type { UnderView } from "@still-pine/contract/http";
import { horseLine, nextFor } from "@still-pine/contract/views";
import { describeMove, gather, gatherAfterMove, heldBy, judgeGathered, whatNext } from "@still-pine/core/readiness";
import type { Program } from "@still-pine/core/programs";
import { dayIn, foldRecord } from "@still-pine/core/record";
import { eventsOfHorse } from "../store/events";
import type { StoredHorse } from "../store/horses";
import { loadLabels } from "../store/labels";
import { toRecord } from "../store/record";
import type { Yard } from "../store/yard";
import { standingOf } from "./stored-yard";

/** A horse's whole record read under other programs. */
export async function underView(
  db: Pool,
  yard: Yard,
  horse: StoredHorse,
  programs: readonly Program[],
  now: string,
): Promise<UnderView> {
  const today = dayIn(yard.timeZone, now);
  const standing = await standingOf(db, yard, horse, today);
  const [events, labels] = await Promise.all([eventsOfHorse(db, yard.id, horse.id), loadLabels(db, yard.id)]);
  const folded = foldRecord(toRecord(yard, horse, events, labels));
  const from = gather(folded, standing.program);
  return {
    horse: horseLine(horse, standing, today),
    programs: programs.map((program) => {
      const isHis = program.id === standing.program.id && program.version === standing.program.version;
      const to = isHis ? from : gatherAfterMove(folded, from, program, today);
      const judgements = judgeGathered(to, today);
      const there = { ...standing, program: to.program, next: whatNext(to, judgements, today) };
      return {
        program: { id: program.id, version: program.version },
        next: nextFor(horse, there, today),
        held: heldBy(from, today),
        steady: judgements.filter(({ status }) => status === "steady").length,
        of: judgements.length,
        move: describeMove(from, to, today),
      };
    }),
  };
}
