import type { Pool } from "pg";
import type { UnderView } from "@still-pine/contract/http";
import { horseLine, nextFor } from "@still-pine/contract/views";
import { describeMove, gather, gatherAfterMove, heldBy, judgeGathered, whatNext } from "@still-pine/core/readiness";
import { dayIn, foldRecord } from "@still-pine/core/record";
import { HttpProblem } from "../http/problems";
import { eventsOfHorse } from "../store/events";
import { loadLabels } from "../store/labels";
import { toRecord } from "../store/record";
import type { Yard } from "../store/yard";
import { standingOfHorse } from "./horse";

/** A horse's whole record read under other programs; null where the yard has no such horse. */
export async function underView(
  db: Pool,
  yard: Yard,
  id: string,
  programs: readonly string[],
  now: string,
): Promise<UnderView | null> {
  const today = dayIn(yard.timeZone, now);
  const judged = await standingOfHorse(db, yard, id, today);
  if (!judged) return null;
  const { horse, standing } = judged;
  const found = programs.map((one) => {
    const program = yard.book.known(one);
    if (!program)
      throw new HttpProblem(400, "Bad input", "Some fields are not as expected.", {
        errors: [{ path: "programs", expected: "ids of programs this yard has", found: one }],
      });
    return program;
  });
  const [events, labels] = await Promise.all([eventsOfHorse(db, yard.id, id), loadLabels(db, yard.id)]);
  const folded = foldRecord(toRecord(yard, horse, events, labels));
  const from = gather(folded, standing.program);
  return {
    horse: horseLine(horse, standing, today),
    programs: found.map((program) => {
      const to = program.id === standing.program.id ? from : gatherAfterMove(folded, from, program, today);
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
