/**
 * Text cells that a spreadsheet would run as a formula. They get an apostrophe in front, which makes them plain text there; on
 * import it is taken off again. A text that has such an apostrophe already gets another one, so that every text comes back
 * as it was. Source of the signs: OWASP, "CSV Injection".
 */
const RUNS = /^'*[=+\-@\t\r\n＝＋－＠]/;

/** A text cell that no spreadsheet runs. */
export const harmless = (text: string): string => (RUNS.test(text) ? `'${text}` : text);

/** The text that `harmless` made a cell of. */
export const asWritten = (cell: string): string => (cell.startsWith("'") && RUNS.test(cell) ? cell.slice(1) : cell);
