import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** What a page keeps in its address, and a way to change some of it; a field that is null or empty goes. */
export function useAddress(): [URLSearchParams, (changes: Readonly<Record<string, string | null>>) => void] {
  const [fields, setFields] = useSearchParams();
  const change = useCallback(
    (changes: Readonly<Record<string, string | null>>): void => {
      // The address itself: two changes may come before the page was drawn once.
      const now = new URLSearchParams(window.location.search);
      for (const [name, value] of Object.entries(changes))
        if (value) now.set(name, value);
        else now.delete(name);
      setFields(now, { replace: true });
    },
    [setFields],
  );
  return [fields, change];
}
