import {
  AFTERS,
  ANSWERS,
  CARES,
  CATCHES,
  COMPANIES,
  EDGES,
  ENOUGH,
  FAULTS,
  FOOTINGS,
  FRAMES,
  GAITS,
  HELD_OR_GONE,
  KEPT,
  LINE_WORTHS,
  MEDIA_KINDS,
  MISHAPS,
  MOODS,
  PARTS,
  PHASES,
  PLACES_ABOUT,
  SETTINGS,
  SEVERITIES,
  SIGNS,
  TIRED,
  TOOLS,
  WEATHERS,
  WEIGHED_BY,
} from "@still-pine/core/record";
import {
  choice,
  direction,
  dose,
  HOUR_SECONDS,
  maybe,
  measure,
  mood,
  needed,
  phase,
  seconds,
  side,
  step,
  whole,
  words,
  work,
  yesNo,
  zone,
  type EventType,
  type Field,
  type Short,
} from "./fields";

/**
 * Every type of event with its fields and their limits, in one place: the schemas, the JSON Schema, the tables of
 * docs/record-format.md and the forms of the screens are all made from this.
 */

/** What is said of a whole outing; the head of an outing in a file has the same fields. */
export const HEAD_FIELDS: readonly Field[] = (
  [
    ["place", "Place", { kind: "label", of: "place" }, "The same label is the same place."],
    ["handler", "Handler", { kind: "label", of: "person" }, "Who handles; the same label is the same person."],
    ["helper", "Helper", { kind: "label", of: "person" }, "Who helps."],
    ["gear", "Gear", { kind: "texts", most: 20, each: 60 }],
    ["weather", "Weather", choice(WEATHERS)],
    ["temperatureC", "Temperature", measure("temperature", -60, 60)],
    ["footing", "Footing", choice(FOOTINGS)],
    ["caught", "Caught", choice(CATCHES)],
    ["caughtSeconds", "Seconds to catch", { kind: "number", least: 0, most: 6 * HOUR_SECONDS, unit: "s" }],
    ["stabledHours", "Hours stabled", { kind: "number", least: 0, most: 10_000, unit: "h" }, "Before he was fetched."],
    ["company", "Company", choice(COMPANIES)],
    ["onlookers", "Onlookers", yesNo],
    ["inSeason", "In season", yesNo],
    ["geldedWeeks", "Weeks since gelding", whole(0, 520, "weeks")],
    ["feedChanged", "Feed changed", yesNo],
    ["sore", "Sore", yesNo],
    ["fresh", "Fresh", yesNo],
    ["workingMinutes", "Minutes at most with the feet working", whole(1, 600)],
    ["inHandMinutes", "Minutes at most in hand", whole(1, 600)],
    ["capReason", "Why other minutes than for his age", words],
  ] satisfies Short[]
).map(maybe);

/** What an outing was worked under, so that the verdict of that day can be shown; written by the application. */
export const PROGRAM_FIELDS: readonly Field[] = (
  [
    ["program", "Program", { kind: "id" }, "The program the outing was worked under."],
    ["programVersion", "Program's version", whole(1, 10_000)],
  ] satisfies Short[]
).map(maybe);

const make = (
  type: string,
  name: string,
  of: EventType["of"],
  says: string,
  fields: readonly Field[],
  byHand = true,
): EventType => ({ type, name, of, says, fields, byHand });

/** In the order of how often they are made. */
export const EVENT_TYPES: readonly EventType[] = [
  make("ask", "Ask", "outing", "One cue and its answer.", [
    needed(step),
    maybe(side),
    maybe(phase),
    needed(["answer", "Answer", choice(ANSWERS), "`neutral` counts for nothing."]),
    maybe(mood),
    maybe(["part", "Part", choice(PARTS), "Which leg, or which zone of the hide."]),
    maybe(["setting", "Setting", choice(SETTINGS)]),
    maybe(["tool", "Tool", choice(TOOLS)]),
    maybe(["fault", "Fault", choice(FAULTS)]),
    maybe(["waitSeconds", "Wait", seconds(HOUR_SECONDS), "From the cue to the first right movement."]),
    maybe(["asked", "Dose asked", dose, "In the step's unit; the step's standard dose when absent."]),
    maybe(["dose", "Dose got", dose, "In the step's unit; the step's standard dose when absent."]),
    maybe(["kept", "Kept it up", choice(KEPT)]),
    maybe(["helps", "Helps", whole(0, 500), "Bumps or taps it took."]),
    maybe(["after", "After the release", choice(AFTERS), "A bolt is no answer."]),
  ]),
  make("series", "Series", "outing", "Several asks remembered as one entry; phase and mood are the usual ones.", [
    needed(step),
    maybe(side),
    maybe(["part", "Part", choice(PARTS), "Which leg, where the step is asked leg by leg."]),
    needed(["count", "How many", whole(1, 500)]),
    needed(["clean", "Clean", whole(0, 500), "At most `count`."]),
    needed(["first", "First", choice(ANSWERS), "The first one's answer."]),
    needed(["worst", "Worst", choice(ANSWERS), "The worst one's answer."]),
    maybe(phase),
    maybe(mood),
  ]),
  make("sign", "Sign", "outing", "A sign of ease or of strain.", [needed(["sign", "Sign", choice(SIGNS)])]),
  make("note", "Note", "either", "Words.", [needed(["text", "Note", { kind: "text", most: 10_000, long: true }])]),
  make("startle", "Startle", "outing", "He took fright at something.", [
    maybe(["thing", "At what", { kind: "text", most: 200 }]),
    needed(["size", "How big", choice([1, 2, 3, 4]), "1 a flinch, 2 a step, 3 a jump, 4 away."]),
    maybe(["recoverSeconds", "Seconds to recover", seconds(HOUR_SECONDS)]),
    maybe(["held", "The thing was", choice(HELD_OR_GONE), "Held until quiet, or gone at the fright."]),
    maybe(zone),
    maybe(side),
  ]),
  make("offer", "Offer", "outing", "He did it unasked.", [needed(step), maybe(side)]),
  make("dwell", "Dwell", "outing", "The handler stepped in and away: how long he stood before being left.", [
    needed(["seconds", "Seconds stood", seconds(HOUR_SECONDS)]),
    maybe(["where", "Where you stood", choice(PLACES_ABOUT)]),
    maybe(side),
    maybe(["reachM", "Distance", measure("distance", 0, 100)]),
  ]),
  make("gait", "Gait", "outing", "What he went in, on the line, loose or ridden.", [
    needed(["gait", "Gait", choice(GAITS)]),
    maybe(direction),
    maybe(work),
    maybe(["circleM", "Circle across", measure("distance", 1, 200), "Diameter."]),
    maybe(["seconds", "Seconds", seconds(6 * HOUR_SECONDS)]),
    maybe(["unasked", "Not asked for", yesNo]),
  ]),
  make("frame", "Frame", "outing", "How he carried himself, on the line or ridden.", [
    needed(["frame", "Frame", choice(FRAMES)]),
    maybe(direction),
    maybe(work),
    maybe(["count", "How often", whole(1, 500)]),
  ]),
  make("spurt", "Spurt", "outing", "A spurt of work on one thing began or ended.", [
    needed(["edge", "Start or end", choice(EDGES)]),
    maybe(step),
    maybe(side),
  ]),
  make("side-change", "Change of side", "outing", "The handler went to the other side.", [
    needed(["to", "To", choice(["near", "off"])]),
    maybe(["part", "Leg", choice(["fore", "hind"])]),
  ]),
  make("tired", "Tired", "outing", "A sign of tiring.", [needed(["seen", "What was seen", choice(TIRED)])]),
  make("mishap", "Mishap", "outing", "Something went wrong.", [
    needed(["kind", "What happened", choice(MISHAPS)]),
    needed(["severity", "How bad", choice(SEVERITIES), "1 a scare, 2 could have hurt, 3 hurt, 4 grave."]),
    needed(["personHurt", "A person hurt", yesNo]),
    maybe(["after", "What led to it", words]),
    maybe(["toTell", "Still to tell", yesNo, "Noted by one tap; until it is told it counts as bad."]),
  ]),
  make("enough", "Enough", "outing", "Time to end, and not for the horse's sake.", [
    needed(["why", "Why", choice(ENOUGH)]),
  ]),
  make(
    "finish-line",
    "Finish line",
    "outing",
    "What counted as enough of one step that day, said before it; the last one that stands counts.",
    [
      needed(step),
      needed(["count", "How many", whole(1, 50), "On every side."]),
      maybe(["worth", "Of what worth", choice(LINE_WORTHS), "`clean` when absent."]),
      maybe(["phase", "Phase at most", choice(PHASES), "The standard's when absent."]),
      maybe(["dose", "Dose at least", dose, "The standard's when absent."]),
    ],
    false,
  ),
  make(
    "check-up",
    "Check-up",
    "outing",
    "This outing is a check-up: tests, not lessons. What comes clean in it counts for going on, never for a gate.",
    [
      maybe(["steps", "Steps", { kind: "texts", most: 300, each: 80 }, "Step ids to test, in their order."]),
      maybe(["spared", "Spared", { kind: "texts", most: 300, each: 80 }, "Step ids that needed no test."]),
      maybe([
        "held",
        "Held before",
        { kind: "texts", most: 300, each: 80 },
        "Step ids of these that had been steady: a clean one above settles them.",
      ]),
      maybe(["expected", "Asks expected", { kind: "number", least: 0, most: 10_000 }]),
    ],
    false,
  ),
  make("next-time", "Next time", "outing", "What to start with in the next outing.", [
    maybe(["steps", "Steps", { kind: "texts", most: 6, each: 80 }, "Step ids, in their order."]),
    maybe(["text", "Words", words]),
  ]),
  make(
    "clock-moved",
    "Clock moved",
    "outing",
    "The device's clock was set in the middle of it; its times go on by the clock it began with.",
    [needed(["bySeconds", "By seconds", { kind: "number", least: -1e9, most: 1e9, unit: "s" }, "Negative: back."])],
    false,
  ),
  make(
    "head",
    "Outing's head",
    "outing",
    "Says the outing's head anew, field by field; the last one that stands counts.",
    [
      maybe(["startedAt", "Started", { kind: "instant" }]),
      maybe(["endedAt", "Ended", { kind: "instant" }]),
      ...HEAD_FIELDS,
    ],
  ),
  make(
    "outing-start",
    "Outing began",
    "outing",
    "A file may leave it out: the outing's head says the same.",
    [...HEAD_FIELDS, ...PROGRAM_FIELDS],
    false,
  ),
  make(
    "outing-end",
    "Outing ended",
    "outing",
    "A file may leave it out: the outing's head says the same.",
    [maybe(["unended", "Left open", yesNo, "Nobody ended it: closed by itself after two hours without an entry."])],
    false,
  ),
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
    maybe(["programVersion", "Version", whole(1, 10_000)]),
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
  make(
    "media",
    "Photo, clip or voice",
    "either",
    "A photo, clip or voice note lies beside the record.",
    [
      needed(["media", "File", { kind: "id" }, "Id of the file; in an archive it is `media/ID.ext`."]),
      needed(["kind", "Kind", choice(MEDIA_KINDS)]),
      maybe(["text", "Words", words]),
    ],
    false,
  ),
  make(
    "clock-skew",
    "Clock measured",
    "outing",
    "How far a device's clock was behind; added to what that device says.",
    [
      needed(["of", "Device", { kind: "id" }]),
      needed([
        "behindSeconds",
        "Seconds behind",
        { kind: "number", least: -1e9, most: 1e9, unit: "s" },
        "Negative: ahead.",
      ]),
    ],
    false,
  ),
  make(
    "correction",
    "Correction",
    "either",
    "Voids or changes an earlier event, which stays in the record.",
    [
      needed(["replaces", "Event", { kind: "id" }, "Id of the event it corrects; may be a correction."]),
      maybe(["void", "Void", { kind: "true" }, "The event does not count."]),
      maybe(["with", "With", { kind: "fields" }, "Changed fields of the event; null takes a field away."]),
    ],
    false,
  ),
];

const byType = new Map(EVENT_TYPES.map((one) => [one.type, one]));

export function eventTypeOf(type: unknown): EventType | undefined {
  return typeof type === "string" ? byType.get(type) : undefined;
}
