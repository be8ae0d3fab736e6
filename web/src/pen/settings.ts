import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { DEFAULT_KEYS, type PenAction } from "./keys";

/** How this device records. Kept in this browser; every one of them can be left as it is. */
export interface PenSettings {
  /** A tap is the default: a swipe starts by accident on the pad, and a phone on the rail cannot be turned. */
  side: "tap" | "swipe" | "turn";
  coach: "word" | "word-buzz" | "off";
  buzz: boolean;
  speech: boolean;
  /** A second equal tap within a quarter of a second is the same one. */
  onceOnly: boolean;
  keys: boolean;
  keyMap: Record<string, PenAction>;
  /** The simulated remote is shown. */
  remote: boolean;
  /** The rule about the phone in the hand has been read. */
  phoneRuleRead: boolean;
}

const KEY = "still-pine.pen-settings";

const DEFAULT_SETTINGS: PenSettings = {
  side: "tap",
  coach: "word",
  buzz: true,
  speech: false,
  onceOnly: true,
  keys: true,
  keyMap: DEFAULT_KEYS,
  remote: false,
  phoneRuleRead: false,
};

function read(): PenSettings {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<PenSettings> | null;
    return { ...DEFAULT_SETTINGS, ...kept };
  } catch {
    return DEFAULT_SETTINGS;
  }
}

const slice = createSlice({
  name: "penSettings",
  initialState: read,
  reducers: {
    penSettingsChanged: (state, { payload }: PayloadAction<Partial<PenSettings>>) => ({ ...state, ...payload }),
  },
});

export const { penSettingsChanged } = slice.actions;
export const penSettings = slice.reducer;

/** Keeps the settings; a browser that refuses keeps them until the page is closed. */
export function keepSettings(settings: PenSettings): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(settings));
  } catch {
    // Refused: they hold for this page.
  }
}
