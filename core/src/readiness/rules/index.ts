/** The rules a verdict rests on, one file a rule, numbered as in docs/judge.md: each with its words. */
export { lately, oftenEnough } from "./1-often-enough";
export { bothSides, bothSidesWords, sideGapWords } from "./2-both-sides";
export { coldAsks, differentDays, firstAsks } from "./3-different-days";
export { provenRelaxed, relaxed } from "./4-relaxed";
export { light } from "./5-light";
export { elsewhereFindings, elsewhereOf, elsewhereWords, meetsElsewhere } from "./6-elsewhere";
export { checkSoonWords, freshness, freshWords } from "./7-fresh";
export { needsSlippedWords, restsOn, restsOnWords } from "./8-rests-on";
export { round, type RuleWords } from "./side-rule";
export { holdsOnItsOwn, sideFindings, whyNotEarned, wobbleOf, wobbleWords } from "./side-rules";
