import table from "./troubles.json" with { type: "json" };
import type { Trouble } from "./types";

/** The troubles that ship; a test reads them through the shape. */
export const TROUBLES = table as unknown as readonly Trouble[];
