import type { StepId } from "../record";
import { GOINGS, HEADGEARS, MANNERS, REACHES, RESTRAINTS, SETTINGS, STANDS, TOOLS, ZONES } from "../record/vocabulary";
import chips from "./catalogue/chips.json" with { type: "json" };
import { CHIPS, type Chip, type Step } from "./types";

/** JSON has no literal types; a test holds it to the chips there are and to the steps of the catalogue. */
const STEPS_WITH = chips as Readonly<Record<Chip, readonly StepId[]>>;

/** What else than side and rung the asks of a step say, in the order in which it stands over the pad. */
export const chipsOf = ({ id, elsewhere }: Pick<Step, "id" | "elsewhere">): readonly Chip[] =>
  CHIPS.filter((chip) => STEPS_WITH[chip].includes(id) || (chip === "setting" && elsewhere.includes("settings")));

/** What each chip can say, the usual first. */
export const CHIP_VALUES = {
  setting: SETTINGS,
  gait: GOINGS,
  part: ZONES,
  tool: TOOLS,
  manner: MANNERS,
  stands: STANDS,
  reach: REACHES,
  restraint: RESTRAINTS,
  headgear: HEADGEARS,
} as const satisfies Record<Chip, readonly string[]>;

/** What a chip can say. */
export type ChipValue<Name extends Chip = Chip> = (typeof CHIP_VALUES)[Name][number];
