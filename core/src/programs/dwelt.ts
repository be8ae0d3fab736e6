import type { StepId } from "../record";
import dwelt from "./catalogue/dwelt.json" with { type: "json" };
import type { Step } from "./types";

const DWELT: readonly StepId[] = dwelt;

/** Whether standing with him, and stepping away before he leaves, is what a step is about: how long he stood shows something of it. */
export const isDwelt = ({ id }: Pick<Step, "id">): boolean => DWELT.includes(id);
