import { measureInWords, type UnitSystem } from "@still-pine/core/body";
import {
  fieldOf,
  typedOf,
  type BodyOf,
  type CorrectionEvent,
  type EventBody,
  type Fault,
  type RecordEvent,
  eventTypeOf,
  type Field,
} from "@still-pine/core/record";
import { phaseWordsOf, type Program } from "@still-pine/core/programs";
import { FAULT_WORDS } from "@still-pine/core/programs/fault-words";
import { rungInWords } from "@still-pine/core/programs/ladder-words";
import { gateName, sideInWords, stepName } from "@still-pine/core/readiness/words";
import { MOOD_WORDS } from "../marks/feel-square";
import { choiceInWords } from "../parts/choice-words";

/** What is told of: an entry, or what is still to become one. */
type Told = RecordEvent | EventBody;

/** One entry in a line. Measures in the yard's units, or as they were typed. */
export function entryInWords(event: Told, program: Program, units: UnitSystem = "metric"): string {
  const says = (name: string): string => fieldInWords(event, name, program, units);
  switch (event.type) {
    case "ask":
    case "series": {
      const side = sideInWords(event.side);
      const more = event.type === "ask" ? askDetails(event, program, units) : "";
      return `${stepName(program, event.step)}${side ? `, ${side}` : ""}: ${askInWords(event, program)}${more}`;
    }
    case "note":
      return `“${event.text}”`;
    case "mishap": {
      const { kind, severity, personHurt, after } = event;
      return `Mishap: ${kind.replaceAll("-", " ")}, severity ${severity}${personHurt ? ", a person hurt" : ""}${after ? `; ${after}` : ""}`;
    }
    case "startle":
      return `Startled at ${event.thing ?? "something"}: ${says("size").replace(/^\d /, "")}${rest(event, ["thing", "size"], program, units)}`;
    case "enough":
      return `Enough for that day: ${says("why")}`;
    case "finish-line":
      return `Finish line, ${says("step")}: ${says("count")} ${event.worth === "tried" ? "tries or better" : "clean"}${rest(event, ["step", "count", "worth"], program, units)}`;
    case "next-time": {
      const steps = (event.steps ?? []).map((step) => stepName(program, step));
      const words = event.text === undefined ? "" : `“${event.text}”`;
      return `Next time: ${[steps.join(", "), words].filter(Boolean).join(" ")}`;
    }
    case "check-up":
      return `Check-up of ${event.steps?.length ?? 0} steps, about ${event.expected ?? "?"} asks expected`;
    case "clock-moved":
      return `The device's clock was set by ${says("bySeconds")}; the outing's times went on evenly`;
    case "offer":
      return `Offered unasked: ${says("step")}${rest(event, ["step"], program, units)}`;
    case "against-gate":
      return `Against the gate ${gateName(program, event.gate)}: ${says("step")}${event.reason === undefined ? "" : `, because “${event.reason}”`}`;
    case "dwell":
      return `Stood ${says("seconds")}${rest(event, ["seconds"], program, units)}`;
    case "side-change":
      return `Changed to the ${event.to} side`;
    case "media":
      return mediaInWords(event);
    case "care":
      return `Care: ${says("kind")}${rest(event, ["kind"], program, units)}`;
    case "cue":
      return `Cue: ${event.cue} means ${event.meaning}${rest(event, ["cue", "meaning"], program, units)}`;
    default: {
      const type = eventTypeOf(event.type);
      return type
        ? `${type.name}${rest(event, [], program, units).replace(/^, /, ": ")}`
        : `${event.type} (kept, not known here)`;
    }
  }
}

/** "gave at a hint, quiet"; "6 remembered, 5 clean, usually at a hint, quiet". */
export function askInWords(event: BodyOf<"ask"> | BodyOf<"series">, program: Program): string {
  const feel = [
    event.phase === undefined ? null : `phase ${event.phase} (${phaseWordsOf(program)[event.phase]})`,
    event.mood === undefined ? null : MOOD_WORDS[event.mood],
  ];
  const feelings = feel.filter(Boolean).join(", ");
  const what =
    event.type === "ask"
      ? event.answer
      : `${event.count} from memory, ${event.clean} clean, first ${event.first}, worst ${event.worst}`;
  const after = event.type === "ask" && event.after === "bolted" ? ", then bolted" : "";
  const rung = event.rung === undefined || !knows(event, 2) ? "" : ` · ${rungInWords(event.step, event.rung)}`;
  return `${what}${feelings ? ` · ${feelings}` : ""}${rung}${after}`;
}

const SAID_OF_ASK = ["step", "side", "answer", "phase", "mood", "rung", "watch"];

function askDetails(event: BodyOf<"ask">, program: Program, units: UnitSystem): string {
  const said = event.after === "bolted" ? [...SAID_OF_ASK, "after"] : SAID_OF_ASK;
  return rest(event, said, program, units).replace(/^, /, " · ");
}

/** "Photo", with its words where it has some. */
function mediaInWords({ kind, text }: BodyOf<"media">): string {
  const what = kind === "clip" ? "Clip" : kind === "voice" ? "Voice note" : "Photo";
  return text === undefined ? what : `${what}: “${text}”`;
}

/** Whether an event's shape knows a field that came with a version; what is still to become an event does. */
const knows = (event: Told, since = 1): boolean =>
  fieldOf(event, "id") === undefined || Number(fieldOf(event, "v") ?? 1) >= since;

/** Everything of an event that was not said yet: "he was held until quiet, 20 s to recover". */
function rest(event: Told, said: readonly string[], program: Program, units: UnitSystem): string {
  const fields = eventTypeOf(event.type)?.fields ?? [];
  return fields
    .filter(({ name, since }) => !said.includes(name) && fieldOf(event, name) !== undefined && knows(event, since))
    .map((field) => `, ${labelled(field, fieldInWords(event, field.name, program, units))}`)
    .join("");
}

/** A choice of words speaks for itself; a number, a text or a yes needs to say what it is. */
function labelled({ is, label, name }: Field, words: string): string {
  if (name === "side" || name === "step") return words;
  if (is.kind === "yes-no") return words === "yes" ? label.toLowerCase() : `not ${label.toLowerCase()}`;
  if (is.kind === "choice" && is.values.every((value) => typeof value === "string")) return words;
  if (name === "text") return `“${words}”`;
  return `${label.toLowerCase()} ${words}`;
}

/** One field of an event as a person reads it. */
function fieldInWords(event: Told, name: string, program: Program, units: UnitSystem): string {
  const field = eventTypeOf(event.type)?.fields.find((one) => one.name === name);
  const value = fieldOf(event, name);
  const typed = typedOf(event)?.[name];
  const step = String(fieldOf(event, "step"));
  return field ? valueInWords(field, value, typed, program, units, step) : String(value);
}

/** A value of a field as a person reads it. @param step what a rung is one of */
export function valueInWords(
  { is, name }: Field,
  value: unknown,
  typed: unknown,
  program: Program,
  units: UnitSystem,
  step = "",
): string {
  if (value === null || value === undefined) return "nothing";
  switch (is.kind) {
    case "measure":
      return typeof typed === "string" ? typed : measureInWords(Number(value), is.quantity, units);
    case "choice":
      if (name === "side") return sideInWords(value as "near") || "no side";
      if (name === "fault") return FAULT_WORDS[value as Fault];
      return choiceInWords(name, value as string | number, program);
    case "yes-no":
      return value === true ? "yes" : "no";
    case "step":
      return stepName(program, String(value));
    case "rung":
      return rungInWords(step, String(value));
    case "texts":
      return Array.isArray(value) ? value.join(", ") : String(value);
    case "whole":
    case "number":
      return `${String(value)}${is.unit ? ` ${is.unit}` : ""}`;
    case "instant":
      return String(value).slice(0, 16).replace("T", " ");
    default:
      return typeof value === "object" ? JSON.stringify(value) : String(value);
  }
}

const FIELD_ORDER = ["step", "side", "answer", "phase", "mood", "count", "clean", "first", "worst"];

/** What a correction did: "struck out", "phase to 2, mood to 1", "undid that". */
export function changesInWords(correction: CorrectionEvent, ofCorrection: boolean): string {
  if (correction.void) {
    const why = fieldOf(correction, "text");
    return `${ofCorrection ? "undid that" : "struck out"}${typeof why === "string" ? ` (${why})` : ""}`;
  }
  const place = (field: string): number =>
    FIELD_ORDER.includes(field) ? FIELD_ORDER.indexOf(field) : FIELD_ORDER.length;
  const typed = (correction.with?.["typed"] ?? {}) as Record<string, unknown>;
  return Object.entries(correction.with ?? {})
    .filter(([field]) => field !== "typed")
    .toSorted(([a], [b]) => place(a) - place(b))
    .map(([field, value]) => `${field} to ${shown(typed[field] ?? value)}`)
    .join(", ");
}

const shown = (value: unknown): string =>
  value === null
    ? "nothing"
    : Array.isArray(value)
      ? value.join(", ")
      : typeof value === "object"
        ? JSON.stringify(value)
        : String(value);
