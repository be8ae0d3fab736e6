import type { StepId } from "../record";
import type { Tool } from "../record/vocabulary";
import ladders from "./catalogue/ladders.json" with { type: "json" };
import type { Dose, Ladder, Rung } from "./types";

/** A step's ladder as the catalogue writes it down: what is usual is left out. */
export interface LadderFile {
  rungs: readonly Rung[];
  /** Id of the rung that is the standard, where it is not the last. */
  standard?: string;
  tool?: Tool;
}

/** Ladders of the catalogue's steps; JSON has no literal types, a test holds them to the vocabulary. */
export const LADDERS: ReadonlyMap<StepId, LadderFile> = new Map(
  Object.entries(ladders as unknown as Record<string, LadderFile>),
);

/** The one rung of a step that has no ladder: all of it. */
const WHOLE: Rung = { id: "all" };

/** A ladder of what is written down; the whole step is its one rung where nothing is. */
export function readLadder({ rungs, standard, tool }: LadderFile = { rungs: [WHOLE] }): Ladder {
  const at = standard === undefined ? -1 : rungs.findIndex(({ id }) => id === standard);
  return { rungs, standard: at < 0 ? rungs.length - 1 : at, tool: tool ?? null };
}

/** Whether an amount is less than a dose asks for: below the least, or over the most. */
export const fallsShort = (
  amount: number,
  { amount: wanted, atMost = false }: Pick<Dose, "amount" | "atMost">,
): boolean => (atMost ? amount > wanted : amount < wanted);

/** Whether a rung is measured as a dose is, and falls short of it. */
export const isRungShort = (rung: Rung | undefined, dose: Dose): boolean =>
  rung?.dose !== undefined && rung.at === dose.at && fallsShort(rung.dose, dose);

/** Place of a rung that a need names, by its id or by how much it is; -1 where the ladder has none such. */
export const placeOfRung = ({ rungs }: Pick<Ladder, "rungs">, rung: number | string): number =>
  rungs.findIndex(({ id, dose }) => (typeof rung === "string" ? id === rung : dose === rung));

/** The rung of one step's ladder that stands where a rung stands on another's; the same id where there is none. */
export function rungAtSamePlace(from: StepId, rung: string, to: Pick<Ladder, "rungs">): string {
  return to.rungs[placeOfRung(readLadder(LADDERS.get(from)), rung)]?.id ?? rung;
}

/** A ladder whose standard is the first rung that reaches a dose, where its standard is measured as that is; else as it is. */
export function asFarAsDose(ladder: Ladder, dose: Dose | null): Ladder {
  const { rungs, standard } = ladder;
  const own = rungs[standard];
  if (!dose || own?.dose === undefined || own.at !== dose.at || own.dose === dose.amount) return ladder;
  const place = rungs.findIndex(
    (rung) => rung.dose !== undefined && rung.at === dose.at && !fallsShort(rung.dose, dose),
  );
  return place < 0 ? ladder : { ...ladder, standard: place };
}
