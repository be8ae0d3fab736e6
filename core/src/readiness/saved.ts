import type { Day } from "../record";
import type { Program } from "../programs";
import { SideEvidence, type DaySums, type SavedSide } from "../evidence";
import type { HorseAbout } from "./about";
import type { Away } from "./away";
import { formerReading, layFormerBeside } from "./former";
import { createGathered, type Gathered, type Since, type StepState } from "./states";
import type { FormerAsks } from "./types";

/** A step's evidence as plain data; steps never asked are left out. */
interface SavedStep {
  workedIn: Since | null;
  formerAsks: FormerAsks | null;
  outings: number[];
  offers: { id: string; outing: number }[];
  sides: {
    holds: boolean;
    steadySince: Since | null;
    readySince: Since | null;
    checkedOn: Day | null;
    evidence: SavedSide;
  }[];
}

/** Counted up when the judge keeps something else of the past: what was saved before is gathered anew. */
export const GATHER_VERSION = 12;

/** What `gather` knew after some outings, as plain data, to go on from. */
export interface SavedGathered {
  outings: number;
  /** What its days say of how asks hang together; kept beside the verdicts, which do not read it. */
  days: DaySums;
  away: Away;
  /** By step; a step as far as one rung is `STEP@RUNG`. */
  steps: Record<string, SavedStep>;
  /** The same by the former reading, where there is anything of it. */
  former: SavedGathered | null;
}

/** Names of all that is judged: steps, and steps as far as one rung. */
const named = (gathered: Gathered): [string, StepState][] =>
  gathered.steps.flatMap((state): [string, StepState][] => [
    [state.step.id, state],
    ...state.variants.map((one): [string, StepState] => [`${one.step.id}@${one.rung}`, one]),
  ]);

/** What was gathered as plain data: enough to judge and to go on from, without the asks that show as evidence. */
export function saveGathered(gathered: Gathered): SavedGathered {
  const worked = named(gathered).filter(
    ([, { workedIn, outings, sides }]) =>
      workedIn !== null || outings.length > 0 || sides.some((side) => side.evidence.fresh.freshened),
  );
  return {
    outings: gathered.outings,
    days: { ...gathered.days },
    away: { ...gathered.away },
    former: gathered.former && saveGathered(gathered.former),
    steps: Object.fromEntries(
      worked.map(([name, { workedIn, formerAsks, outings, offers, sides }]) => [
        name,
        {
          workedIn,
          formerAsks,
          outings: [...outings],
          offers: [...offers],
          sides: sides.map(({ holds, steadySince, readySince, checkedOn, evidence }) => ({
            holds,
            steadySince,
            readySince,
            checkedOn,
            evidence: evidence.save(),
          })),
        },
      ]),
    ),
  };
}

/** Takes up again what was saved under the same program and the same standards. */
export function restoreGathered(program: Program, about: HorseAbout, saved: SavedGathered): Gathered {
  const gathered = createGathered(program, about);
  for (const [name, state] of named(gathered)) {
    const known = saved.steps[name];
    if (!known) continue;
    state.workedIn = known.workedIn;
    state.formerAsks = known.formerAsks;
    state.mayTurn = known.workedIn !== null;
    state.outings = [...known.outings];
    state.offers = [...known.offers];
    state.sides.forEach((side, index) => {
      const own = known.sides[index];
      if (!own) return;
      side.holds = own.holds;
      side.steadySince = own.steadySince;
      side.readySince = own.readySince;
      side.checkedOn = own.checkedOn;
      side.evidence = SideEvidence.restore(state.step, program.judge, state.watch, own.evidence);
    });
  }
  gathered.outings = saved.outings;
  gathered.days = { ...saved.days };
  Object.assign(gathered.away, saved.away);
  if (saved.former) layFormerBeside(gathered, restoreGathered(formerReading(program), about, saved.former));
  return gathered;
}
