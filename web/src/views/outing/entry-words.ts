import type {
  AskEvent,
  CorrectionEvent,
  MishapEvent,
  NoteEvent,
  RecordEvent,
  SeriesEvent,
  SignEvent,
} from "@still-pine/core/record";
import type { Program } from "@still-pine/core/programs";
import { sideInWords, stepName } from "@still-pine/core/readiness/words";
import { askInWords } from "../step/step-page";

/** One entry of an outing in a line. */
export function entryInWords(event: RecordEvent, program: Program): string {
  switch (event.type) {
    case "ask":
    case "series": {
      const ask = event as AskEvent | SeriesEvent;
      const side = sideInWords(ask.side);
      return `${stepName(program, ask.step)}${side ? `, ${side}` : ""}: ${askInWords(ask)}`;
    }
    case "sign":
      return `Sign: ${(event as SignEvent).sign.replaceAll("-", " ")}`;
    case "note":
      return `“${(event as NoteEvent).text}”`;
    case "mishap": {
      const { kind, severity, personHurt, after } = event as MishapEvent;
      return `Mishap: ${kind.replaceAll("-", " ")}, severity ${severity}${personHurt ? ", a person hurt" : ""}${after ? `; ${after}` : ""}`;
    }
    default:
      return `${event.type} (kept, not known here)`;
  }
}

const FIELD_ORDER = ["step", "side", "answer", "phase", "mood", "count", "clean", "first", "worst"];

/** What a correction did: "struck out", "phase to 2, mood to 1", "undid the correction". */
export function changesInWords(correction: CorrectionEvent, ofCorrection: boolean): string {
  if (correction.void) return ofCorrection ? "undid that" : "struck out";
  const place = (field: string): number =>
    FIELD_ORDER.includes(field) ? FIELD_ORDER.indexOf(field) : FIELD_ORDER.length;
  return Object.entries(correction.with ?? {})
    .toSorted(([a], [b]) => place(a) - place(b))
    .map(([field, value]) => `${field} to ${String(value)}`)
    .join(", ");
}
