import { useEffect, useState } from "react";
import type { LadderTexts } from "@still-pine/core/programs";
import type { StepId } from "@still-pine/core/record";

type Words = typeof import("@still-pine/core/programs/ladder-words");

/** Once they are here they stay. */
let words: Words | null = null;
const NOT_YET: LadderTexts = { rungs: {}, faults: [] };

/** What a person reads of a step's ladder, fetched when a page first asks for it: the pen and its review open without. */
export function useLadderTexts(step: StepId): LadderTexts {
  const [known, setKnown] = useState(words);
  useEffect(() => {
    if (words) return;
    void import("@still-pine/core/programs/ladder-words").then(
      (loaded) => setKnown((words = loaded)),
      // Without a network, where nothing was kept: rungs are shown by their ids.
      () => undefined,
    );
  }, []);
  return known?.ladderTextsOf(step) ?? NOT_YET;
}
