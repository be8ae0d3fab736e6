import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import type { Trouble } from "./sender";

/** How sending stands. */
export interface SendState {
  /** Entries that lie on this device only. */
  waiting: number;
  /** Entries and pictures the server refused. */
  refused: number;
  /** Pictures, clips and voice notes that wait. */
  media: number;
  trouble: Trouble | null;
  /** When everything was last on the server. */
  sentAt: string | null;
  isLasting: boolean;
  /** Most of the room the browser gives is used. */
  isShort: boolean;
}

const SENT_AT = "still-pine.sent-at";

function readSentAt(): string | null {
  try {
    return localStorage.getItem(SENT_AT);
  } catch {
    return null;
  }
}

/** Remembers the moment for the next page; a browser that refuses tells it on this page alone. */
export function keepSentAt(at: string): void {
  try {
    localStorage.setItem(SENT_AT, at);
  } catch {
    // Refused.
  }
}

const slice = createSlice({
  name: "sending",
  initialState: (): SendState => ({
    waiting: 0,
    refused: 0,
    media: 0,
    trouble: null,
    sentAt: readSentAt(),
    isLasting: true,
    isShort: false,
  }),
  reducers: {
    sendingChanged: (state, { payload }: PayloadAction<Partial<SendState>>) => {
      Object.assign(state, payload);
    },
  },
});

export const { sendingChanged } = slice.actions;
export const sending = slice.reducer;
