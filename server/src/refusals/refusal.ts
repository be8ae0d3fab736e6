import type { InputProblem } from "@still-pine/contract/record";

/** Why something is refused; `http` has a status for each. */
export type Why = "unreadable" | "not-there" | "conflict" | "too-large" | "refused" | "busy";

/** What reads and stores refuses, in plain sentences that name what to change. It knows nothing of HTTP. */
export class Refusal extends Error {
  constructor(
    readonly why: Why,
    readonly title: string,
    detail: string,
    readonly extra: { errors?: InputProblem[]; [key: string]: unknown } = {},
    options?: ErrorOptions,
  ) {
    super(detail, options);
  }
}
