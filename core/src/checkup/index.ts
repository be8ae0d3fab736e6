/**
 * What of a road holds, of a horse of unknown past, one back from a rest, or one to be re-trained? Tests, not lessons: each step once
 * or twice a side, in an order that is safe and takes few asks, stopping where it fails. Asks are counted, shares lie between 0 and
 * 1. The order's rule is Still Pine's own and stated beside it; that a check-up comes before work is common practice, no published
 * source.
 */
export * from "./types";
export { expectedAsks } from "./order";
export { planCheckUp, stagesSoFar } from "./plan";
export { checkUpOf, type CheckUpResult } from "./result";
