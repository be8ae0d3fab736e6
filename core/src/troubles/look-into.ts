import { findStep, formerOf, stepsFor, type Program } from "../programs";
import type { Judgement, SideKey, Status } from "../readiness";
import type { Day } from "../record";
import type { Trouble, TroubleStep } from "./types";

/** A step under a trouble, with what this horse has shown of it. */
export interface Finding extends TroubleStep {
  status: Status;
  /** The weakest side that was asked, or one that never was. */
  side: SideKey | null;
  /** How sure the record makes us of its weakest side, 0 to 1; null where it was never asked. */
  sure: number | null;
  lastAsked: Day | null;
  /** Whether it stands on the road of the horse's program; where it does not, nothing of it is judged. */
  onRoad: boolean;
}

/** Untested before tested, and of the tested the weakest first: what never held, what waits for a check, what holds. */
const RANK: Record<Status, number> = { untried: 0, begun: 1, coming: 1, slipped: 1, rusty: 2, steady: 3 };

/** Its steps as a program has them, each once, whichever edition of the catalogue the trouble and the program name them by. */
function stepsHere({ steps }: Trouble, program: Program): TroubleStep[] {
  const here = new Map<string, TroubleStep>();
  for (const one of steps) {
    const former = formerOf(one.step);
    const ids = stepsFor(program, one.step).map(({ id }) => id);
    if (ids.length === 0) ids.push(former !== undefined && findStep(program, former) ? former : one.step);
    for (const step of ids) if (!here.has(step)) here.set(step, { ...one, step });
  }
  return [...here.values()];
}

/**
 * The steps under a trouble in the order in which to look: untested before tested, then what never held or slipped, the least sure
 * first, then what waits for a check, then what holds; where two are alike the one that comes first in the table.
 */
export function lookInto(trouble: Trouble, judgements: readonly Judgement[], program: Program): Finding[] {
  const judged = new Map(judgements.map((one) => [one.step, one]));
  const findings = stepsHere(trouble, program).map((one): Finding => {
    const judgement = judged.get(one.step);
    const sides = Object.entries(judgement?.sides ?? {}) as [SideKey, { status: Status; sure: number }][];
    const [weakest] = sides.toSorted(
      ([, a], [, b]) => Number(a.status !== "untried") - Number(b.status !== "untried") || a.sure - b.sure,
    );
    const status = judgement?.status ?? "untried";
    return {
      ...one,
      status,
      side: weakest && weakest[0] !== "none" ? weakest[0] : null,
      sure: status === "untried" || !weakest ? null : weakest[1].sure,
      lastAsked: judgement?.lastAsked ?? null,
      onRoad: program.steps.some(({ id }) => id === one.step),
    };
  });
  const weakness = ({ status, sure }: Finding): number => (RANK[status] === 1 ? (sure ?? 0) : 0);
  return findings.toSorted((a, b) => RANK[a.status] - RANK[b.status] || weakness(a) - weakness(b));
}
