import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** Whether pages are answered by the server or by this device alone, and whether this device is let in. */
export interface Reach {
  /** When what is shown was fetched; null while the server answers. */
  aloneSince: string | null;
  /** What was recorded here bears on verdicts this device cannot judge anew by itself. */
  isBehind: boolean;
  /** Why the server does not let this device in. */
  why: string | null;
  /** The browser cleared what lay here: the key is there, everything else is gone. */
  isCleared: boolean;
  /** A new version waits to be let in. */
  hasNewVersion: boolean;
}

const initialState: Reach = { aloneSince: null, isBehind: false, why: null, isCleared: false, hasNewVersion: false };

const slice = createSlice({
  name: "reach",
  initialState,
  reducers: {
    serverAnswered: (state) => {
      state.aloneSince = null;
      state.isBehind = false;
      state.why = null;
    },
    deviceAnswered: (state, { payload }: PayloadAction<{ fetchedAt: string; isBehind: boolean }>) => {
      state.aloneSince = payload.fetchedAt;
      state.isBehind ||= payload.isBehind;
    },
    notLetIn: (state, { payload }: PayloadAction<string>) => {
      state.why = payload;
    },
    storageCleared: (state) => {
      state.isCleared = true;
    },
    newVersionCame: (state) => {
      state.hasNewVersion = true;
    },
  },
});

export const { serverAnswered, deviceAnswered, notLetIn, storageCleared, newVersionCame } = slice.actions;
export const reach = slice.reducer;
