import type { OutingSummary } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness/words";

/** "38 min in the round pen, 24 asks: body rub, halter on and off". */
export function outingInWords(outing: OutingSummary, program: Program): string {
  const minutes = Math.round((Date.parse(outing.endedAt) - Date.parse(outing.startedAt)) / 60_000);
  const steps = outing.steps.map((step) => stepName(program, step).toLowerCase()).join(", ");
  const mishaps = outing.mishaps === 0 ? "" : ` · ${outing.mishaps} ${outing.mishaps === 1 ? "mishap" : "mishaps"}`;
  return `${minutes} min${outing.place ? `, ${outing.place.toLowerCase()}` : ""} · ${outing.asks} asks${steps ? `: ${steps}` : ""}${mishaps}`;
}
