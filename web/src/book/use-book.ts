import { useCallback } from "react";
import { useSelector } from "react-redux";
import type { Program, ProgramBook } from "@still-pine/core/programs";
import type { StringHorse } from "@still-pine/contract/http";
import { bookOf } from "./book-of";
import type { RootState } from "../store";

/** All programs horses of this yard can go by. */
export const useBook = (): ProgramBook => useSelector(({ programs }: RootState) => bookOf(programs.files));

/** The program a horse is judged by; an unknown one where it has not come here. */
export type ProgramFor = (horse: Pick<StringHorse, "program">) => Program;

export function useProgramFor(): ProgramFor {
  const book = useBook();
  return useCallback(({ program }) => book.goneBy(program), [book]);
}
