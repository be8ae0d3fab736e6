import { createSlice, type Draft, type PayloadAction } from "@reduxjs/toolkit";
import type { ProgramFile } from "@still-pine/core/programs";

/** The yard's own programs, as they came with its last answer. The type of the store names it. @public */
export interface OwnPrograms {
  files: readonly ProgramFile[];
}

const initialState: OwnPrograms = { files: [] };

const slice = createSlice({
  name: "programs",
  initialState,
  reducers: {
    programsCame: (state, { payload }: PayloadAction<readonly ProgramFile[]>) => {
      const names = (files: readonly ProgramFile[]): string =>
        files.map(({ id, version }) => `${id} ${version}`).join();
      // A version never changes: what is here already stays, and what was worked out of it.
      if (names(state.files) !== names(payload)) state.files = payload as Draft<OwnPrograms["files"]>;
    },
  },
});

export const { programsCame } = slice.actions;
export const ownPrograms = slice.reducer;
