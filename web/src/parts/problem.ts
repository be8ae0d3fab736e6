import type { Problem } from "@still-pine/contract/http";

const NO_ANSWER: Problem = {
  type: "about:blank",
  title: "No answer",
  status: 0,
  detail: "The server does not answer. Nothing you typed is lost; see that Still Pine runs and try again.",
};

/** The server's problem details behind a failed request, or a plain line where there is none. */
export function problemOf(error: unknown): Problem {
  const data = (error as { data?: unknown } | null)?.data;
  if (typeof data === "object" && data !== null && "detail" in data) return data as Problem;
  return NO_ANSWER;
}
