/** What to do today? The record so far in, a brief for the next outing out. Days of the yard, minutes and seconds as named. */
export * from "./types";
export { writeBrief, type BriefFacts } from "./brief";
export { isShownUpTo, rungsToBegin, rungsUpTo } from "./rung-to-begin";
