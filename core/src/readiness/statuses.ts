export type Status = "untried" | "begun" | "coming" | "slipped" | "rusty" | "steady";

/** Weakest first; a step's word is that of its weaker side. */
export const STATUSES = [
  "untried",
  "begun",
  "coming",
  "slipped",
  "rusty",
  "steady",
] as const satisfies readonly Status[];
