import type { Day } from "../record";
import type { Program } from "../programs";
import type { HorseAbout } from "./about";

/** What a horse's verdicts of one day are given by. */
export interface Judging {
  /** With this horse's own standards in it. */
  program: Program;
  about: HorseAbout;
  today: Day;
}
