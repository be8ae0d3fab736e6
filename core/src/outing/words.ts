import type { StepId } from "../record";
import type { CoachSettings, Program, SideKey, Ways } from "../programs";
import { sideInWords, stepName } from "../readiness/words";
import type { Advice, Reason, Verb } from "./types";

export const VERB_WORDS: Record<Verb, string> = {
  "go-on": "Go on",
  stay: "Stay",
  "go-back": "Go back",
  leave: "Leave it",
  finish: "Finish easy",
};

const STUCK: Record<CoachSettings["stuck"], string> = {
  angle: "Another angle: a step to the side, rhythm, a wait. Not more force.",
  smaller: "Make it smaller.",
  wait: "Hold it there and wait.",
  more: "A little more, then a tap.",
  aim: "Give him something to aim at.",
};

const FRIGHT: Record<CoachSettings["fright"], string> = {
  "keep-on": "Keep on at that level until he is still, then stop; or go farther off.",
  "keep-hand": "Keep the hand there, a small turn, rub.",
  "when-still": "Step away only when he stands.",
  smaller: "Smaller, and let him follow it.",
  "touch-stays": "The touch stays until the legs stay still.",
  again: "Go past it again, quietly.",
};

/** After a good one: what tells him so. */
const CLEAN: Record<Ways["reward"], string> = {
  rest: "Good. Let it go, and rest.",
  rub: "Good. Rub him.",
  leave: "Good. Go away from him.",
  "mark-food": "Good. Mark, then feed.",
  scratch: "Good. Let it go, and scratch the withers.",
  "walk-break": "Good. Let him walk.",
};

/** After one that missed: how to ask again. */
const MISSED: Record<Ways["pressure"], string> = {
  phases: "The same again, not more.",
  rhythm: "The same rhythm again, not firmer.",
  nearness: "Wait where you are; come no nearer.",
  none: "A smaller piece of it; add nothing.",
  gentle: "The same again, no stronger.",
  scale: "The same scale again, from the cue.",
  tap: "The voice first, then the leg; the tap last.",
};

const CAUSES: Record<
  Exclude<
    Reason,
    | "stuck"
    | "fright-now"
    | "fright"
    | "clean"
    | "missed"
    | "start"
    | "gate"
    | "past-gate"
    | "behind-gate"
    | "opens"
    | "base-first"
  >,
  (advice: Advice, side: string) => string
> = {
  "person-hurt": () => "The person first.",
  mishap: () => "That could have hurt. Something he knows, then out.",
  "shut-down": () => "He has gone inside. Rest; a vet's eye if it lasts.",
  "easy-done": () => "That was the good one. Out.",
  tired: () => "He tires. One he knows, then out.",
  frights: () => "Two big frights. One he knows, then out.",
  cap: ({ need }) => `${need} minutes: the cap. One he knows, then out.`,
  falling: () => "He grows tighter all along. One he knows, then out.",
  enough: () => "Enough for today. One he knows, then out.",
  line: () => "Today's line is reached.",
  "line-side": (_advice, side) => `Enough here. Now one good one: ${side}.`,
  better: () => "Better than last time.",
  best: () => "The best so far.",
  spurts: ({ have }) => `Taken up ${have} times, and good.`,
  over: () => "Over. Smaller, earlier, or elsewhere.",
  "two-tight": () => "Tight twice. Smaller.",
  bolt: () => "A bolt is no answer. Smaller.",
  scare: () => "A scare. Less of it.",
  "two-against": () => "Against twice. A smaller piece.",
  rising: () => "It takes more each time. A smaller piece, from the least.",
  "too-much": () => "More than this school uses. A smaller piece.",
  "end-good": () => "Smaller, until one is good; end on that.",
  reacts: () => "Light but tight. Until it is quiet.",
  "not-quiet": () => "Until he lets down.",
  close: () => "That was close. One more, then leave it.",
  tried: () => "Right idea. Reward it; the same again.",
  dull: () => "Heavy and loose. Tired, ill, sore? Look first.",
  heavy: () => "It took more. From the least again.",
  lighter: () => "Lighter than the one before. Pay it, and rest.",
  lucky: () => "Test it: once more, as light.",
  "two-increases": () => "Two things grew at once. Take one back.",
  "check-holds": () => "Shown. On to the next.",
  "check-hole": () => "Not there. Leave it; that is worth knowing.",
  "check-side": (_advice, side) => `Now the ${side}, as often.`,
  "check-off": () => "Not to be asked now. On to the next.",
  "check-again": () => "Once more, the same. Then leave it.",
  "check-twice": () => "Once more: a first may be luck.",
  "check-start": () => "Ask once, as light as he knows it. No lesson.",
  "check-done": () => "All that can be asked was asked. Something easy, then out.",
  anticipates: () => "He starts before the cue. Wait; vary side and order.",
  "calm-first": ({ have = 0, need = 0 }) => `Quiet answers first: ${need - have} more.`,
  "after-over": () => "It scared him today. No more of it than this.",
  new: () => "New to him. Do not build on it today.",
  "other-side": (_advice, side) => `The ${side} has had less.`,
};

/** A reason as one short sentence, in the words of the program's school. */
export function adviceInWords(advice: Advice, program: Program): string {
  const { coach, ways, gates } = program;
  const { reason } = advice;
  const step = stepName(program, advice.step ?? "");
  const gate = gates.find(({ id }) => id === advice.gate)?.name ?? "The next gate";
  switch (reason) {
    case "gate":
      return `${gate} stands before more of it.${advice.side ? ` Now the ${sideInWords(advice.side)}.` : ""}`;
    case "past-gate":
      return `${gate} is shut: no more than this.`;
    case "behind-gate":
      return `${gate} is shut, and this lies behind it.`;
    case "opens":
      return `Good for today. Open now: ${step}.`;
    case "base-first":
      return advice.evidence.length > 0
        ? `${step} was missed today: back to it first.`
        : `First ${step}, until it is good today.`;
    case "stuck":
      return STUCK[coach.stuck];
    case "fright-now":
      return FRIGHT[coach.fright];
    case "clean":
      return CLEAN[ways.reward];
    case "missed":
      return MISSED[ways.pressure];
    case "start":
      return ways.twoEyes ? "Two eyes on you, then the least." : "Start with the least.";
    case "fright":
      return "A big fright. Smaller, or farther off.";
    default:
      return CAUSES[reason](advice, advice.side ? sideInWords(advice.side) : "other side");
  }
}

/** "Lateral flexion, near side". */
export function whereInWords(program: Program, step: StepId, side: SideKey): string {
  const where = sideInWords(side);
  return `${stepName(program, step)}${where ? `, ${where}` : ""}`;
}
