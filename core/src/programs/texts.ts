import type { StepId } from "../record";

/** What a person reads of the steps, apart from the graph: only those who show it load it. */
import first from "./catalogue/texts-first-to-halter.json" with { type: "json" };
import second from "./catalogue/texts-used-to-line.json" with { type: "json" };
import third from "./catalogue/texts-bit-to-schooling.json" with { type: "json" };
import ofFirstEdition from "./catalogue/texts-first-edition.json" with { type: "json" };
import { FIRST_EDITION, NEWEST_EDITION } from "./editions";
import type { StepTexts } from "./types";

const TEXTS: Readonly<Record<string, StepTexts>> = { ...first, ...second, ...third };
/** Steps that were more in the first edition than they are now. */
const OF_FIRST_EDITION: Readonly<Record<string, StepTexts>> = { ...TEXTS, ...ofFirstEdition };

/** The texts of a step in an edition of the catalogue; undefined for a step of somebody's own program. */
export function textsOf(stepId: StepId, edition: number = NEWEST_EDITION): StepTexts | undefined {
  const texts = edition === FIRST_EDITION ? OF_FIRST_EDITION : TEXTS;
  return Object.hasOwn(texts, stepId) ? texts[stepId] : undefined;
}
