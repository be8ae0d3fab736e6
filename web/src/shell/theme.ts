/** Daylight, dusk, or as the system says; kept in this browser. */
export type Theme = "system" | "day" | "dusk";
const KEY = "still-pine.theme";

const prefersDusk = (): MediaQueryList => window.matchMedia("(prefers-color-scheme: dark)");

export function readTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  return kept === "day" || kept === "dusk" ? kept : "system";
}

export function isDusk(theme: Theme): boolean {
  return theme === "dusk" || (theme === "system" && prefersDusk().matches);
}

export function applyTheme(theme: Theme): void {
  if (theme === "system") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, theme);
  document.documentElement.dataset["theme"] = isDusk(theme) ? "dusk" : "day";
}

/** Follows the system while it decides. Returns how to stop. */
export function followSystem(): () => void {
  const query = prefersDusk();
  const follow = (): void => applyTheme(readTheme());
  query.addEventListener("change", follow);
  return () => query.removeEventListener("change", follow);
}
