/** What is wrong with a text that is not JSON, with its line and column where the parser names the place. */
export function jsonMistake(cause: unknown, text: string): string {
  const position = cause instanceof Error ? /position (\d+)/.exec(cause.message)?.[1] : undefined;
  const at = position === undefined ? text.length : Number(position);
  const before = text.slice(0, at).split("\n");
  const found = at >= text.length ? "the end of the text" : JSON.stringify(text.slice(at, at + 12));
  return `line ${before.length}, column ${(before.at(-1)?.length ?? 0) + 1}: expected JSON, found ${found}`;
}
