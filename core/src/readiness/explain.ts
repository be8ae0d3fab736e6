import type { AskEvent, Day, FoldedRecord, SeriesEvent, OutingId, StepId } from "../record";
import type { Gathered } from "./gather";
import { round } from "./rules";
import type { SideKey } from "./types";

/** One ask or series of a step as the judge counted it. */
export interface CountedAsk {
  event: AskEvent | SeriesEvent;
  side: SideKey;
  outing: OutingId;
  day: Day;
  /** `lucky`: not proven yet; `failed-lucky`: its test failed; `series`: remembered, at half weight. */
  worth: "clean" | "miss" | "neutral" | "practice" | "lucky" | "failed-lucky" | "series";
  cold: boolean;
  /** What it still weighs now, clean and not. */
  clean: number;
  not: number;
}

/** The asks one step's verdict was made from, latest outing first. Gather with the step as `wholeHistory`. Empty for an unknown step. */
export function explainStep(folded: FoldedRecord, gathered: Gathered, stepId: StepId): CountedAsk[] {
  const state = gathered.steps.find((one) => one.step.id === stepId);
  if (!state) return [];
  const asks = state.sides.flatMap((side) =>
    side.evidence.entries.flatMap((entry): CountedAsk[] => {
      const outing = folded.outings[entry.outing];
      if (!outing) return [];
      const keep = side.evidence.keptOf(entry.outing);
      return [
        {
          event: entry.event,
          side: side.side,
          outing: outing.id,
          day: outing.day,
          worth: entry.worth,
          cold: entry.cold,
          clean: round(entry.clean * keep),
          not: round(entry.not * keep),
        },
      ];
    }),
  );
  const place = new Map(folded.outings.map((outing, index) => [outing.id, index]));
  return asks.toSorted((a, b) => (place.get(b.outing) ?? 0) - (place.get(a.outing) ?? 0));
}
