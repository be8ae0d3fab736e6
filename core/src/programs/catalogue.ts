import gates from "./catalogue/gates.json" with { type: "json" };
import fresh from "./catalogue/steps-second-edition.json" with { type: "json" };
import steps from "./catalogue/steps.json" with { type: "json" };
import { FIRST_EDITION, NEWEST_EDITION, nextCatalogue } from "./editions";
import type { Catalogue, GateFile, StepFile } from "./file-types";

/** JSON has no literal types; a test reads all of it through the contract's schema. */
const FIRST: Catalogue = {
  steps: steps as unknown as readonly StepFile[],
  gates: gates as unknown as readonly GateFile[],
};

/** All steps and gates there are, in the newest edition. */
export const CATALOGUE: Catalogue = nextCatalogue(NEWEST_EDITION, FIRST, fresh as unknown as readonly StepFile[]);

/** All steps and gates of an edition; of the first where none is named. */
export const catalogueOf = (edition = FIRST_EDITION): Catalogue => (edition === FIRST_EDITION ? FIRST : CATALOGUE);
