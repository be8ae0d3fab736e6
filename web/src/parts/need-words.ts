import type { StepId } from "@still-pine/core/record";
import {
  findStep,
  inDialect,
  placeOfRung,
  type Dialect,
  type Need,
  type NeedRef,
  type Program,
} from "@still-pine/core/programs";
import { rungInWords } from "@still-pine/core/programs/ladder-words";
import { stepName } from "@still-pine/core/readiness";

/** How far a need wants its step, and shown how, as it stands after the name: " (as far as half open, moving too)"; nothing where it wants it steady and no more. */
export function howFar({ step, rung, setting, parts, gait }: NeedRef, program: Program, words: Dialect): string {
  const said = [
    rung === undefined ? null : `as far as ${inDialect(rungName(step, rung, program), words)}`,
    setting === "moving" ? "moving too" : setting,
    parts ? `at the ${parts.map((part) => part.replaceAll("-", " ")).join(" and ")}` : null,
    gait ? `in ${gait}` : null,
  ].filter(Boolean);
  return said.length > 0 ? ` (${said.join(", ")})` : "";
}

function rungName(step: StepId, rung: number | string, program: Program): string {
  if (typeof rung === "string") return rungInWords(step, rung);
  // So many rungs of a dose that is counted in them: the rung of the ladder that is as much.
  const { ladder, rungs = [] } = findStep(program, step) ?? {};
  const place = ladder ? placeOfRung(ladder, rung) : -1;
  const id = ladder?.rungs[place]?.id;
  return id === undefined ? (rungs[rung - 1] ?? String(rung)) : rungInWords(step, id);
}

/** A step that is needed, and how far: "Flag (as far as half open)". */
const refInWords = (ref: NeedRef, program: Program, words: Dialect): string =>
  stepName(program, ref.step, words) + howFar(ref, program, words);

/** A way of a need: all of its steps. */
export const wayInWords = (way: readonly NeedRef[], program: Program, words: Dialect): string =>
  way.map((ref) => refInWords(ref, program, words)).join(" with ");

/** A need in words, whichever way it may be met. */
export const needInWords = ({ anyOf }: Need, program: Program, words: Dialect): string =>
  anyOf.map((way) => wayInWords(way, program, words)).join(" or ");
