import { CARES, MOODS, PHASES, WEIGHED_BY } from "../vocabulary";
import { choice, dose, make, maybe, measure, needed, step, whole, words } from "./fields";

/** What is said of the horse himself. */
export const HORSE_EVENTS = [
  make("weight", "Weight and girth", "horse", "What he weighs, or his girth.", [
    maybe(["weightKg", "Weight", measure("mass", 5, 2000)]),
    maybe(["girthCm", "Girth", measure("length", 20, 350)]),
    maybe(["lengthCm", "Length", measure("length", 20, 350), "Point of shoulder to point of buttock."]),
    maybe(["means", "Weighed by", choice(WEIGHED_BY)]),
  ]),
  make("height", "Height", "horse", "At the withers, and at the croup while he grows.", [
    needed(["heightCm", "Withers", measure("height", 30, 250)]),
    maybe(["croupCm", "Croup", measure("height", 30, 250)]),
  ]),
  make("condition", "Condition", "horse", "Body condition from 1 (poor) to 9 (fat), after Henneke and others 1983.", [
    needed(["score", "Score", { kind: "number", least: 1, most: 9 }]),
    maybe(["text", "Words", words]),
  ]),
  make("care", "Care given", "horse", "Feet, teeth, worming, vaccination, saddle fit, vet.", [
    needed(["kind", "What", choice(CARES)]),
    maybe(["text", "What was done", words]),
    maybe(["dueOn", "Next due", { kind: "day" }]),
  ]),
  make("rest", "Rest", "horse", "Taken out of work.", [
    maybe(["reason", "Reason", words]),
    maybe(["until", "Look again on", { kind: "day" }]),
  ]),
  make("return", "Return", "horse", "Back in work.", [maybe(["text", "Words", words])]),
  make("program", "Program chosen", "horse", "From here on this program judges; the last one decides.", [
    needed(["program", "Program", { kind: "id" }]),
    maybe([
      "programVersion",
      "Version",
      whole(1, 10_000),
      "He goes by its edition of the catalogue. Absent: by the one his record came with.",
    ]),
    maybe(["reason", "Reason", words]),
    maybe([
      "counted",
      "Counted on",
      { kind: "texts", most: 300, each: 80 },
      "Step ids he held on that day: here they need not wait for what they rest on.",
    ]),
    maybe([
      "gaps",
      "Gaps",
      { kind: "texts", most: 300, each: 80 },
      "Step ids that lay under what he did and were not there.",
    ]),
    maybe(["fresh", "New", { kind: "texts", most: 300, each: 80 }, "Step ids the former road did not have."]),
  ]),
  make("standard", "Standard adjusted", "horse", "This horse's own standard of a step.", [
    needed(step),
    maybe(["phase", "Phase at most", choice(PHASES)]),
    maybe(["mood", "Mood at most", choice(MOODS)]),
    maybe(["dose", "Dose at least", dose]),
    needed(["reason", "Reason", words]),
  ]),
  make(
    "in-full",
    "Asked in full",
    "horse",
    "The asks of a step up to now that could not say their rung were made as far as its standard, with no tool where it has to come without.",
    [needed(step)],
    { byHand: false },
  ),
  make("override", "Override", "horse", "Lets the next steps start although this one is not steady; never a gate.", [
    needed(step),
    needed(["reason", "Reason", words]),
  ]),
  make("hold", "Hold", "horse", "Held by a person until struck out: a step, or the whole horse.", [
    maybe(step),
    needed(["reason", "Reason", words]),
    { ...maybe(["by", "Who holds it", { kind: "label", of: "person" }]), neededNow: true },
    maybe(["until", "Look again on", { kind: "day" }]),
  ]),
  make("cue", "Cue", "horse", "A line of the cue sheet: which cue means what.", [
    needed(["cue", "Cue", { kind: "text", most: 200 }]),
    needed(["meaning", "Means", { kind: "text", most: 200 }]),
    maybe(step),
    maybe(["phase", "How light", choice(PHASES)]),
    maybe(["taughtBy", "Taught by", { kind: "label", of: "person" }]),
  ]),
] as const;
