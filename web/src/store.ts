import { configureStore } from "@reduxjs/toolkit";
import { setupListeners } from "@reduxjs/toolkit/query";
import { reach } from "./outbox/reach";
import { api } from "./api";
import { ownPrograms } from "./book/slice";
import { sending } from "./outbox/slice";
import { keepSettings, penSettings } from "./pen/settings";

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, penSettings, programs: ownPrograms, reach, sending },
  middleware: (defaults) => defaults().concat(api.middleware),
});
export type RootState = ReturnType<typeof store.getState>;

setupListeners(store.dispatch);

let kept = store.getState().penSettings;
store.subscribe(() => {
  const { penSettings: now } = store.getState();
  if (now !== kept) keepSettings((kept = now));
});
