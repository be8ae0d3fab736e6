/** How well a step goes by a search, on [0, 1]: its name before its other words, a beginning before a middle; 0 where it does not. */
export function rankStep(name: string, search: string, words: readonly string[] = []): number {
  const wanted = search.trim().toLowerCase();
  if (wanted === "") return 1;
  return Math.max(rankText(name, wanted), ...words.map((word) => 0.9 * rankText(word, wanted)), 0);
}

function rankText(text: string, wanted: string): number {
  const own = text.toLowerCase();
  if (own === wanted) return 1;
  if (own.startsWith(wanted)) return 0.9;
  if (own.split(/[\s-]+/).some((word) => word.startsWith(wanted))) return 0.8;
  if (own.includes(wanted)) return 0.6;
  // All words of a longer search, in any order.
  const parts = wanted.split(/\s+/);
  return parts.length > 1 && parts.every((part) => own.includes(part)) ? 0.5 : 0;
}
