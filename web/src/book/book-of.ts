import { ProgramBook, SHIPPED, type ProgramFile } from "@still-pine/core/programs";

const books = new WeakMap<readonly ProgramFile[], ProgramBook>();

/** The book of a yard with these programs of its own; the same one for the same list. */
export function bookOf(files: readonly ProgramFile[] = []): ProgramBook {
  if (files.length === 0) return SHIPPED;
  const before = books.get(files);
  if (before) return before;
  const book = new ProgramBook(files);
  books.set(files, book);
  return book;
}
