import { isAsk, type RecordEvent, type Side } from "@still-pine/core/record";
import { phaseWordsOf, type Dialect, type Program } from "@still-pine/core/programs";
import { sideInWords, stepName } from "@still-pine/core/readiness/words";
import { FRIGHT_WORDS, plain } from "../parts/choice-words";
import { MOOD_WORDS } from "../marks/feel-square";

/** What was recorded, as short as it can be said: "Gave · hint · quiet". @param program whose words for the phases are meant */
export function shortly(event: RecordEvent, program: Program): string {
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
      return `Sign: ${plain(event.sign)}`;
    case "startle": {
      const { size, recoverSeconds: quiet } = event;
      return `Fright: ${FRIGHT_WORDS[size]}${quiet === undefined ? "" : `, quiet after ${quiet} s`}`;
    }
    case "mishap":
      return event.personHurt ? "Mishap: a person hurt" : "Mishap";
    case "tired":
      return `Tired: ${plain(event.seen)}`;
    case "against-gate":
      return "Against a gate";
    case "offer":
      return "Offered unasked";
    case "watch":
      return "The watch runs: a press ends it";
    case "gait": {
      const { gait, unasked, back, direction } = event;
      const how = back === "brought" ? ", brought back" : back === "himself" ? ", came back himself" : "";
      return `${capital(gait)}${unasked ? ", not asked for" : ""}${how}${onRein(direction)}`;
    }
    case "frame":
      return `${capital(plain(event.frame))}${onRein(event.direction)}`;
    case "dwell":
      return `Stood ${event.seconds} s`;
    case "enough":
      return `Enough: ${plain(event.why)}`;
    case "media":
      return event.kind === "voice" ? "Voice note" : "Photo";
    default:
      return capital(plain(event.type));
  }
}

/** The same with its step and side: "Lateral flexion, near side: gave · hint · quiet". */
export function withPlace(event: RecordEvent, program: Program, words: Dialect): string {
  if (!("step" in event) || typeof event.step !== "string") return shortly(event, program);
  const { step } = event;
  const where = "side" in event ? sideInWords(event.side as Side | undefined) : "";
  return `${stepName(program, step, words)}${where ? `, ${where}` : ""}: ${uncapital(shortly(event, program))}`;
}

/** Seconds as a clock shows them: "1:05". */
export const clockOf = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;

const onRein = (direction: "near" | "off" | undefined): string =>
  direction === undefined ? "" : direction === "near" ? ", left rein" : ", right rein";

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const uncapital = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
