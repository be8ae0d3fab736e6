/** Words that a starter in Britain or Ireland uses for another one; what a person typed is never changed. */
const BRITISH: readonly (readonly [RegExp, string])[] = [
  [/\bsaddle pads?\b/gi, "numnah"],
  [/\bblankets?\b/gi, "rug"],
  [/\btrailers?\b/gi, "float"],
  [/\brope halters?\b/gi, "rope halter"],
  [/\bweb halters?\b/gi, "headcollar"],
  [/\bcolor\b/gi, "colour"],
];

export type Dialect = "american" | "british";

/** A text of ours in the yard's own words. */
export function inDialect(text: string, words: Dialect): string {
  if (words === "american") return text;
  return BRITISH.reduce(
    (said, [pattern, instead]) =>
      said.replace(pattern, (found) =>
        found[0] === found[0]?.toUpperCase() ? instead.charAt(0).toUpperCase() + instead.slice(1) : instead,
      ),
    text,
  );
}

/** The name of a step or gate in the yard's own words. */
export function nameIn({ name, british }: { name: string; british?: string }, words: Dialect): string {
  return words === "british" ? (british ?? inDialect(name, words)) : name;
}
