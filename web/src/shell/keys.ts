import { useEffect } from "react";

const KEY = "still-pine.single-keys";

/** Single-key shortcuts can be switched off (WCAG 2.1.4). */
export const singleKeysOn = (): boolean => localStorage.getItem(KEY) !== "off";
export const setSingleKeys = (on: boolean): void =>
  on ? localStorage.removeItem(KEY) : localStorage.setItem(KEY, "off");

/** Calls `onKey` for a key pressed outside of fields and dialogs, without Ctrl, Alt or Meta. */
export function useSingleKeys(onKey: (key: string) => void): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement | null;
      const isTyping = target?.closest("input, textarea, select, [contenteditable], [role=dialog], [role=menu]");
      if (isTyping || event.ctrlKey || event.altKey || event.metaKey || event.defaultPrevented) return;
      if (singleKeysOn() || event.key === "?") onKey(event.key);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [onKey]);
}
