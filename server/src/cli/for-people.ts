import { findStep, type Program } from "@still-pine/core/programs";
import {
  actionsToSay,
  findingInWords,
  openSummary,
  RULES,
  sideInWords,
  STATUS_MEANS,
  STATUS_WORDS,
  stepName,
  type CountedAsk,
  type Judgement,
  type SideKey,
} from "@still-pine/core/readiness";

/** Verdicts as people read them, on a terminal. */

/** Why a step has its word, by which rules, from which asks, and the least that would open it. @param asks those it was made from */
export function explainInWords(
  judgement: Judgement,
  program: Program,
  horse: string,
  asks: readonly CountedAsk[],
): string {
  const step = findStep(program, judgement.step);
  const lines = [
    `${horse}: ${stepName(program, judgement.step)} is ${STATUS_WORDS[judgement.status].toLowerCase()} (${STATUS_MEANS[judgement.status]})${judgement.held ? ", and held" : ""}.`,
  ];
  const { toOpen } = judgement;
  if (toOpen.length > 0)
    lines.push("", "The least that would make it steady:", ...actionsToSay(toOpen).map(({ text }) => `  - ${text}`));
  const findings = judgement.findings.toSorted((a, b) => Number(a.met) - Number(b.met));
  if (findings.length > 0) lines.push("", "Why:");
  for (const finding of findings) {
    const { title, says } = RULES[finding.code];
    lines.push(`  ${finding.met ? "met" : "NOT"}  ${title}. ${findingInWords(finding, program)}`);
    if (step && !finding.met) lines.push(`       The rule: ${says(program, step)}`);
    const shown = asks.filter(({ event }) => finding.evidence.includes(event.id));
    if (shown.length > 0 && !finding.met) lines.push(`       From: ${shown.map(askInShort).join("; ")}`);
  }
  return lines.join("\n");
}

function askInShort({ event, day, side, worth }: CountedAsk): string {
  const where = sideInWords(side);
  const said = event.type === "series" ? `${event.clean} of ${event.count} remembered` : event.answer;
  return `${day}${where ? ` ${where}` : ""} ${said}${worth === "clean" || worth === "series" ? "" : `, ${worth}`}`;
}

const WIDTHS = [34, 10, 30] as const;

/** A table of the steps that were asked: word, sides, and the least that would open each. */
export function tableOf(judgements: readonly Judgement[], program: Program): string {
  const rows = judgements
    .filter(({ status }) => status !== "untried")
    .map(({ step, status, held, sides, toOpen }) => [
      stepName(program, step),
      `${STATUS_WORDS[status]}${held ? "*" : ""}`,
      sidesInShort(sides),
      openSummary(toOpen, program),
    ]);
  const all = [["Step", "Word", "Sides", "The least that would make it steady"], ...rows];
  const lines = all.map((row) =>
    row
      .map((cell, index) => cell.padEnd(WIDTHS[index] ?? 0))
      .join("  ")
      .trimEnd(),
  );
  const untried = judgements.length - rows.length;
  if (untried > 0 && judgements.length > 1) lines.push("", `${untried} more steps were never asked.`);
  return lines.join("\n");
}

function sidesInShort(sides: Judgement["sides"]): string {
  return Object.entries(sides)
    .filter(([side]) => side !== "none")
    .map(([side, one]) => `${sideInWords(side as SideKey).replace(" side", "")} ${one.status}`)
    .join(", ");
}
