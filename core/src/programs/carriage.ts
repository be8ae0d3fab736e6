import type { BodyOf, StepId } from "../record";
import carriage from "./catalogue/carriage.json" with { type: "json" };
import type { Step } from "./types";

type Frame = BodyOf<"frame">["frame"];

/** Of what spoils each step that which is seen in how he goes; a test holds it to the faults of its ladder. */
const SPOILED_BY: Readonly<Record<"hollow" | "behind-the-vertical" | "unasked-canter", readonly StepId[]>> = carriage;

/** Stages in which a step that goes somewhere is ridden. */
const RIDDEN: readonly string[] = ["riding", "schooling"];

/** Whether how he goes and carries himself means something for a step: he travels, on the line, loose or ridden. */
export const isTravelled = ({ side, ends, stage }: Pick<Step, "side" | "ends" | "stage">): boolean =>
  ends === "move" && (side === "travel" || (side === "none" && RIDDEN.includes(stage)));

/** What of his frame is said by one press: that he stretches, and what spoils this step. */
export const framesOf = ({ id }: Pick<Step, "id">): readonly Frame[] => [
  "stretches",
  ...(["hollow", "behind-the-vertical"] as const).filter((frame) => SPOILED_BY[frame].includes(id)),
];

/** Whether a canter that was not asked for is among what spoils a step: one of a slower gait. */
export const mayFallIntoCanter = ({ id }: Pick<Step, "id">): boolean => SPOILED_BY["unasked-canter"].includes(id);

/** How he is worked in a step that he travels in, where that is plain from its stage. */
export const wayOfWork = ({ stage }: Pick<Step, "stage">): BodyOf<"gait">["work"] =>
  RIDDEN.includes(stage) ? "ridden" : stage === "line" ? "line" : undefined;
