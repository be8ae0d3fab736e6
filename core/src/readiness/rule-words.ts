import type { Program } from "../programs";
import type { FindingCode } from "./findings";
import { percent } from "./percent";
import {
  bothSidesWords,
  checkSoonWords,
  coldAsks,
  differentDays,
  elsewhereWords,
  firstAsks,
  freshWords,
  lately,
  light,
  needsSlippedWords,
  oftenEnough,
  provenRelaxed,
  relaxed,
  restsOnWords,
  sideGapWords,
  wobbleWords,
  type RuleWords,
} from "./rules";

/** Every rule and finding in words, for someone who opens it. The numbers are the program's own. */
export const RULES: Record<FindingCode, RuleWords> = {
  "clean-share": oftenEnough,
  lately,
  "both-sides": bothSidesWords,
  "different-days": differentDays,
  "first-asks": firstAsks,
  wobble: wobbleWords,
  "cold-asks": coldAsks,
  relaxed,
  "not-proven-relaxed": provenRelaxed,
  light,
  "force-creep": {
    title: "Force creep",
    says: ({ judge }) =>
      `The mean phase rose in each of ${judge.creepOutings} outings running, by at least ${judge.creepRise} in all. A warning, never a bar.`,
  },
  elsewhere: elsewhereWords,
  fresh: freshWords,
  "cold-check-due": checkSoonWords,
  "rests-on": restsOnWords,
  "gate-shut": {
    title: "A gate is shut",
    says: () => "Nothing beyond a gate is proposed before all that the gate asks for is steady.",
  },
  "needs-slipped": needsSlippedWords,
  "side-gap": sideGapWords,
  reacts: { title: "Reacts", says: (program) => cornerInWords(program, "light and tight") },
  dull: { title: "Dull", says: (program) => cornerInWords(program, "heavy and loose") },
  braced: { title: "Braced", says: (program) => cornerInWords(program, "heavy and tight") },
  "shut-down": {
    title: "Shut down",
    says: () => "Does not look about, no blinking or chewing, no interest: such a horse cannot answer.",
  },
  lucky: {
    title: "Not tested yet",
    says: () =>
      "A good answer right after none or against is rewarded like any other, and counts when the next one, as light or lighter, is clean too.",
  },
  unsaid: {
    title: "Rung not said",
    says: () => "What nobody said is never taken for the whole: such an entry counts for the smallest rung.",
  },
  spoiled: {
    title: "Spoiled",
    says: () =>
      "He gave it, with a fault or a bolt after the release. How well is part of the answer: it counts as a miss.",
  },
  late: {
    title: "Late",
    says: (_program, { standard: { within = 0, lateSpoils = false } }) =>
      `Of the answers that were timed in the last outings more than half took longer than ${within} s from the cue to the first right movement. ${lateSpoils ? "A late one is not clean." : "It is said, and spoils nothing."}`,
  },
  anticipates: {
    title: "Anticipates",
    says: ({ judge }) => `Named from ${judge.offersAtLeast} offers within the last ${judge.recent} outings.`,
  },
  overridden: {
    title: "Overridden",
    says: () => "A person lets the next steps start. It changes no word and opens no gate.",
  },
  held: { title: "Held", says: () => "A hold lies over the word until the person takes it away." },
};

function cornerInWords({ judge }: Program, corner: string): string {
  return `At least ${judge.cornerAtLeast} answers ${corner} in the last ${judge.recent} outings, and ${percent(judge.cornerShare)} of all.`;
}
