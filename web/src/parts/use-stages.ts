import { startTransition, useEffect, useState } from "react";
import { useNavigationType } from "react-router";

/**
 * How many parts of a large page are there already, the first at once and one more after each: drawn in pieces, so that the page
 * answers meanwhile. Whoever comes back to a page finds all of it, and the place in it where they were.
 */
export function useStages(parts: number): number {
  const [shown, setShown] = useState(1);
  const isBack = useNavigationType() === "POP";
  const isWhole = isBack || shown >= parts;
  useEffect(() => {
    if (isWhole) return;
    const next = setTimeout(() => startTransition(() => setShown(shown + 1)));
    return () => clearTimeout(next);
  }, [shown, isWhole]);
  return isWhole ? parts : shown;
}
