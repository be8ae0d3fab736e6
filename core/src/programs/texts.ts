import type { StepId } from "../record";

/** What a person reads of the steps, apart from the graph: only those who show it load it. */
import first from "./catalogue/texts-first-to-halter.json" with { type: "json" };
import second from "./catalogue/texts-used-to-line.json" with { type: "json" };
import third from "./catalogue/texts-bit-to-schooling.json" with { type: "json" };
import type { StepTexts } from "./types";

const TEXTS: Readonly<Record<string, StepTexts>> = { ...first, ...second, ...third };

/** The texts of a step; undefined for a step of somebody's own program. */
export function textsOf(stepId: StepId): StepTexts | undefined {
  return Object.hasOwn(TEXTS, stepId) ? TEXTS[stepId] : undefined;
}
