import { isAsk, type RecordEvent } from "@still-pine/core/record";
import { phaseWordsOf, type Dialect, type Program } from "@still-pine/core/programs";
import { sideInWords, stepName } from "@still-pine/core/readiness/words";
import { FRIGHT_WORDS, plain } from "../entries/choice-words";
import { MOOD_WORDS } from "../marks/feel-square";

type Fields = RecordEvent & Record<string, unknown>;

/** What was recorded, as short as it can be said: "Gave · hint · quiet". @param program whose words for the phases are meant */
export function shortly(event: RecordEvent, program: Program): string {
  const said = event as Fields;
  if (isAsk(event)) {
    const { answer, phase, mood, waitSeconds } = event;
    const feel = [
      phase === undefined ? null : phaseWordsOf(program)[phase],
      mood === undefined ? null : MOOD_WORDS[mood],
    ];
    const waited = waitSeconds === undefined ? null : `after ${waitSeconds} s`;
    return [capital(answer), ...feel, waited].filter(Boolean).join(" · ");
  }
  switch (event.type) {
    case "sign":
      return `Sign: ${plain(String(said["sign"]))}`;
    case "startle": {
      const quiet = said["recoverSeconds"];
      const size = FRIGHT_WORDS[said["size"] as keyof typeof FRIGHT_WORDS];
      return `Fright: ${size}${quiet === undefined ? "" : `, quiet after ${String(quiet)} s`}`;
    }
    case "mishap":
      return said["personHurt"] === true ? "Mishap: a person hurt" : "Mishap";
    case "tired":
      return `Tired: ${plain(String(said["seen"]))}`;
    case "offer":
      return "Offered unasked";
    case "dwell":
      return `Stood ${String(said["seconds"])} s`;
    case "enough":
      return `Enough: ${plain(String(said["why"]))}`;
    case "media":
      return said["kind"] === "voice" ? "Voice note" : "Photo";
    default:
      return capital(plain(event.type));
  }
}

/** The same with its step and side: "Lateral flexion, near side: gave · hint · quiet". */
export function withPlace(event: RecordEvent, program: Program, words: Dialect): string {
  const { step, side } = event as { step?: string; side?: "near" };
  if (step === undefined) return shortly(event, program);
  const where = sideInWords(side);
  return `${stepName(program, step, words)}${where ? `, ${where}` : ""}: ${uncapital(shortly(event, program))}`;
}

/** Seconds as a clock shows them: "1:05". */
export const clockOf = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const uncapital = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
