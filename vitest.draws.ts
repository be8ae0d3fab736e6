import fc from "fast-check";

/** What tests draw at random is drawn alike in every run; with SEED=another number they look elsewhere. */
fc.configureGlobal({ seed: Number(process.env["SEED"] ?? 20_261_130) });
