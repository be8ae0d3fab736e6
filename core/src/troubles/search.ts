import MiniSearch from "minisearch";
import type { Trouble } from "./types";

/** Short words that stand in nearly every sentence somebody would type. */
const EMPTY = new Set(
  "a an and are as at be by for from he him his i if in into is it me my not of off on or out over she the to up when will with won't wont does doesn't doesnt mare gelding pony horse".split(
    " ",
  ),
);

/**
 * Troubles that what a person typed may mean, the likeliest first; all of them, in their order, where nothing was typed. Slips of
 * the pen and beginnings of words are understood.
 */
export function findTroubles(troubles: readonly Trouble[], typed: string): readonly Trouble[] {
  const wanted = typed.trim();
  if (wanted === "") return troubles;
  const search = new MiniSearch<{ id: string; name: string; seen: string; about: string }>({
    fields: ["name", "seen", "about"],
    processTerm: (term) => {
      const word = stem(term.toLowerCase());
      return EMPTY.has(word) ? null : word;
    },
    searchOptions: {
      prefix: (term) => term.length > 2,
      fuzzy: (term) => (term.length > 4 ? 0.2 : false),
      boost: { name: 2 },
    },
  });
  search.addAll(
    troubles.map(({ id, name, seen, steps, body }) => ({
      id,
      name,
      seen: seen.join(" "),
      about: [...steps.map(({ why }) => why), ...body.map(({ look }) => look)].join(" "),
    })),
  );
  const byId = new Map(troubles.map((one) => [one.id, one]));
  return search.search(wanted).flatMap(({ id }) => byId.get(String(id)) ?? []);
}

/** "kicks", "kicking", "kicked": one word. */
function stem(word: string): string {
  const bare = word.replace(/ies$/, "y").replace(/(?:ing|ed|es|s)$/, "");
  return bare.length >= 3 ? bare : word;
}
