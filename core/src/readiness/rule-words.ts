import { gatesOf, type Elsewhere, type Program, type Step } from "../programs";
import { barOf, type Bar } from "./bar";
import type { FindingCode } from "./types";
import { percent } from "./words";

const ELSEWHERE_SAYS: Readonly<Record<Elsewhere, string>> = {
  place: "with a second place",
  person: "with a second person",
  settings: "standing and once moving",
  stretch: "in an outing in which he was seen to stretch forward and down",
};

interface RuleWords {
  title: string;
  /** What the rule asks of a step of this program, with its numbers. */
  says(program: Program, step: Step): string;
}

const barOfStep = (program: Program, step: Step): Bar => barOf(gatesOf(program, step.id), program.judge);

const isGateStep = (program: Program, step: Step): boolean => barOfStep(program, step).kind !== "ordinary";

/** Every rule and finding in words, for someone who opens it. The numbers are the program's own. */
export const RULES: Record<FindingCode, RuleWords> = {
  "clean-share": {
    title: "Often enough clean",
    says: (program, step) => {
      const { share, forgetBy, longPer, laterAsks, holdDays, holdMisses } = program.judge;
      if (step.kind !== "moment")
        return `Minutes, not moments: clean on ${holdDays} different days, and no miss among the last ${holdDays}. The word is lost with ${holdMisses} missed among those.`;
      return `Each ask that counts is clean or a miss. From an even start, Beta(1, 1), they make a judgement of the share that comes clean; we must be ${percent(barOfStep(program, step).sure)} sure that it is at least ${percent(share)}. A day's first ask weighs 1, each later one ${laterAsks}: asks of one day hang together. Later outings outweigh older ones slowly: to ${percent(forgetBy)} for every ${longPer} of weight. Remembered series count half.`;
    },
  },
  lately: {
    title: "Lately too",
    says: ({ judge }) =>
      `The last asks alone have to agree when the word is earned: ${percent(judge.latelySure)} sure. Every ask weighs 1 here, and pales to ${percent(judge.forgetBy)} for every ${judge.forgetPer} later ones. Under ${percent(judge.lostUnder)} the word is lost.`,
  },
  "both-sides": {
    title: "Both sides",
    says: () => "Each side is judged by itself, and the weakest is the step's word.",
  },
  "different-days": {
    title: "On different days",
    says: (program, step) =>
      `Asked on at least ${barOfStep(program, step).days} different days${isGateStep(program, step) ? ", because a gate rests on it" : ""}.`,
  },
  "first-asks": {
    title: "First asks of the days",
    says: ({ judge }) =>
      `Before somebody sits on him the first asks of the days are a record of their own: ${percent(judge.firstSure)} sure, which four clean ones are from nothing. Each pales to ${percent(judge.firstBy)} with a day; under ${percent(judge.firstLost)} the word is lost.`,
  },
  wobble: {
    title: "A wobble",
    says: () =>
      "One miss, one missed first ask or one tight outing takes no word that was earned. It asks for a clean, quiet first ask next time.",
  },
  "cold-asks": {
    title: "Cold asks",
    says: ({ judge }) =>
      `The first ask of an outing shows what stayed. The last ${judge.colds} of them must be clean when the word is earned; the only one, where there was only one. The word is lost with ${judge.coldsLost} missed running.`,
  },
  relaxed: {
    title: "Relaxed",
    says: ({ judge }) =>
      `Nothing tight or over, no mishap, and no sign of shutting down, in the last ${judge.recent} outings of this side when the word is earned. It is lost by that in ${judge.tightLost} of them, and by over or a mishap in the last.`,
  },
  "not-proven-relaxed": {
    title: "Not proven relaxed",
    says: () =>
      "Where stillness is the answer, fear can look like it. A sign of ease has to be seen, after he was last tight.",
  },
  light: {
    title: "Light",
    says: ({ judge }, { standard }) =>
      `The usual phase of his answers in the last ${judge.recent} outings is at most ${standard.phase ?? "–"}.`,
  },
  "force-creep": {
    title: "Force creep",
    says: ({ judge }) =>
      `The mean phase rose in each of ${judge.creepOutings} outings running, by at least ${judge.creepRise} in all. A warning, never a bar.`,
  },
  elsewhere: {
    title: "Elsewhere",
    says: (_program, { elsewhere }) =>
      `Once clean on each side ${elsewhere.map((what) => ELSEWHERE_SAYS[what]).join(", and ")}.`,
  },
  fresh: {
    title: "Fresh",
    says: (program, step) =>
      `Time changes no weight; it only sets when a cold check is due: ${program.judge.freshPerDay} days for each day it was shown clean, at most ${program.judge.freshAtMost}${isGateStep(program, step) ? `, and ${program.judge.gateFresh} days while a gate that asks for it lies ahead` : ""}. A clean ask of what rests on it freshens it too.`,
  },
  "cold-check-due": {
    title: "Check soon",
    says: ({ judge }) => `A check that falls due within ${judge.soonDays} days is named beforehand.`,
  },
  "rests-on": {
    title: "What it rests on",
    says: () =>
      "What it rests on must be steady when it becomes steady. A piece that lacks only its second person counts here; a gate still asks for that.",
  },
  "gate-shut": {
    title: "A gate is shut",
    says: () => "Nothing beyond a gate is proposed before all that the gate asks for is steady.",
  },
  "needs-slipped": {
    title: "A piece has slipped",
    says: () => "It keeps its word, and gates stay shut until the piece is mended.",
  },
  "side-gap": {
    title: "One side behind",
    says: ({ judge }) =>
      `Named from ${percent(judge.gapAtLeast)} between the shares, with ${judge.gapAsks} asks on each.`,
  },
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
