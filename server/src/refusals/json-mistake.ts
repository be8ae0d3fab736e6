import { visit } from "jsonc-parser";

/** What is wrong with a text that is not JSON, with its line and column. */
export function jsonMistake(text: string): string {
  let at = text.length;
  visit(text, { onError: (_code, offset) => (at = Math.min(at, offset)) }, { disallowComments: true });
  const before = text.slice(0, at).split("\n");
  const found =
    text.slice(at).trim() === "" ? "the end of the text" : JSON.stringify(text.slice(at, at + 12).split("\n")[0]);
  return `line ${before.length}, column ${(before.at(-1)?.length ?? 0) + 1}: expected JSON, found ${found}`;
}
