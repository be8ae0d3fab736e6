import { useSyncExternalStore } from "react";

const WIDE = "(min-width: 64rem)";

/** Whether there is room for tables: a laptop. */
export function useIsWide(): boolean {
  return useSyncExternalStore(
    (onChange) => {
      const query = window.matchMedia(WIDE);
      query.addEventListener("change", onChange);
      return () => query.removeEventListener("change", onChange);
    },
    () => window.matchMedia(WIDE).matches,
  );
}
