import { phaseWordsOf, type Program, type Standard, type Step } from "@still-pine/core/programs";
import { MOOD_WORDS } from "../../marks/feel-square";

/** A step's standard as a sentence, in a program's words. */
export function standardInWords(standard: Standard, step: Pick<Step, "kind" | "rungs">, program: Program): string {
  const { phase, mood, dose } = standard;
  const parts = [
    phase === null ? null : `phase at most ${phase} (${phaseWordsOf(program)[phase]})`,
    `mood at most ${mood} (${MOOD_WORDS[mood]})`,
    dose && doseInWords(dose, step),
    standard.withoutTool ? "without a tool" : null,
    standard.within === undefined ? null : `begun within ${standard.within} s of the cue`,
    step.kind === "hold" ? "held" : step.kind === "outing" ? "by whole outings" : null,
  ];
  const text = parts.filter(Boolean).join(", ");
  return `${text[0]?.toUpperCase()}${text.slice(1)}.`;
}

function doseInWords(
  { amount, unit, at, atMost }: NonNullable<Standard["dose"]>,
  { rungs }: Pick<Step, "rungs">,
): string {
  if (unit === "rung") return `as far as ${rungs[amount - 1] ?? `rung ${amount}`}`;
  const one = amount === 1 && unit.endsWith("s") ? unit.slice(0, -1) : unit;
  return `${atMost ? "within " : ""}${amount} ${one}${at ? ` ${at}` : ""}`;
}
