import type { PrintView } from "@still-pine/contract/http";
import { sidesOf, STAGES, type Program, type Stage, type Step } from "@still-pine/core/programs";
import { STAGE_WORDS, type Status } from "@still-pine/core/readiness/words";

/** The print of a step; steps that were never asked are not in a trail. */
export function printOf(trail: readonly PrintView[], step: Step): PrintView {
  return (
    trail.find((one) => one.step === step.id) ?? {
      step: step.id,
      status: "untried",
      sides: Object.fromEntries(sidesOf(step).map((side) => [side, { status: "untried" as const, sure: 0 }])),
    }
  );
}

/** All prints of one stage as one print, and in words. */
export interface StagePrint {
  stage: Stage;
  print: PrintView;
  steady: number;
  of: number;
  words: string;
}

/** From nothing steady to all of it, as the fill of a half print counts it. */
const EMPTY = 0.25;
const FULL = 0.8;

/** The trail by stage: each print fills as its steps grow steady; steps beside the road count only once they were asked. */
export function stagePrints(trail: readonly PrintView[], program: Program): StagePrint[] {
  const byStep = new Map(trail.map((one) => [one.step, one]));
  return STAGES.flatMap((stage) => {
    const steps = program.steps.filter(
      (step) => step.stage === stage && (!program.optional.includes(step.id) || byStep.has(step.id)),
    );
    if (steps.length === 0) return [];
    const prints = steps.map((step) => printOf(trail, step));
    const count = (word: Status): number => prints.filter(({ status }) => status === word).length;
    const steady = count("steady");
    const others = (["slipped", "rusty", "coming", "begun"] as const).filter((word) => count(word) > 0);
    const status: Status = steady === prints.length ? "steady" : (others[0] ?? (steady > 0 ? "coming" : "untried"));
    const half = (isHalf: (side: string) => boolean) => ({
      status,
      sure: EMPTY + (FULL - EMPTY) * shareSteady(prints, isHalf),
    });
    const words = `${STAGE_WORDS[stage]}: ${steady} of ${prints.length} steady${others.map((word) => `, ${count(word)} ${word}`).join("")}`;
    return [
      {
        stage,
        steady,
        of: prints.length,
        words,
        print: {
          step: stage,
          status,
          sides: { near: half((side) => !side.startsWith("off")), off: half((side) => !side.startsWith("near")) },
        },
      },
    ];
  });
}

function shareSteady(prints: readonly PrintView[], isHalf: (side: string) => boolean): number {
  const sides = prints.flatMap((print) => Object.entries(print.sides).filter(([side]) => isHalf(side)));
  return (
    sides.filter(([, one]) => one.status === "steady" || one.status === "rusty").length / Math.max(1, sides.length)
  );
}
