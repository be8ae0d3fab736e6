import fc from "fast-check";

/**
 * What tests draw at random is drawn alike in every run; with SEED=another number they look elsewhere, and with DRAWS=another number those
 * that leave open how often draw more.
 */
fc.configureGlobal({
  seed: Number(process.env["SEED"] ?? 20_261_130),
  ...(process.env["DRAWS"] ? { numRuns: Number(process.env["DRAWS"]) } : {}),
});
