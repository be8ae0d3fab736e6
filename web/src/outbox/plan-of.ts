import type { OutingPlan } from "@still-pine/core/outing";
import { SHIPPED } from "@still-pine/core/programs";
import type { KeptOuting } from "./kept";

/** What an outing set out with. It brings the yard's own program along where it goes by one. */
export const planOf = (outing: KeptOuting): OutingPlan => ({
  program: SHIPPED.with(outing.programFile ? [outing.programFile] : []).find(outing.program.id, outing.program.version),
  startedAt: outing.startedAt,
  exercises: outing.exercises,
  known: outing.known,
  caps: outing.caps,
  ...(outing.upTo ? { upTo: outing.upTo } : {}),
  ...(outing.shut ? { shut: outing.shut } : {}),
  ...(outing.checkUp ? { checkUp: outing.checkUp } : {}),
});
