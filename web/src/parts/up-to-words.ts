import { inDialect, type Dialect, type Program } from "@still-pine/core/programs";
import { rungInWords } from "@still-pine/core/programs/ladder-words";
import { gateName, type UpTo } from "@still-pine/core/readiness";
import type { StepId } from "@still-pine/core/record";

/**
 * As far as which rung a step may be worked while a gate within its ladder is shut; null where all of it may.
 *
 * @param all of the horse; a page kept by a former build has none
 */
export function upToInWords(
  all: readonly UpTo[] | undefined,
  step: StepId,
  program: Program,
  words: Dialect,
): string | null {
  const upTo = all?.find((one) => one.step === step);
  if (!upTo) return null;
  return `as far as: ${inDialect(rungInWords(step, upTo.rung), words)}; ${gateName(program, upTo.gate, words)} stands before more`;
}
