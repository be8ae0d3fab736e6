/** The rules a verdict rests on, one file a rule, numbered as in docs/judge.md. */
export { bothSides } from "./2-both-sides";
export { elsewhereFindings, elsewhereOf, meetsElsewhere } from "./6-elsewhere";
export { freshness } from "./7-fresh";
export { restsOn } from "./8-rests-on";
export { round } from "./side-rule";
export { holdsOnItsOwn, sideFindings, whyNotEarned, wobbleOf } from "./side-rules";
