import { SAFEGUARD } from "./index";
import { nameIn, type Dialect } from "./dialect";
import { findStep, type ProgramProblem } from "./graph";
import type { Program } from "./types";

/** What is wrong with a program as a person who writes it reads it: steps and gates by their names. */
export function programProblemInWords(
  { path, expected, found }: ProgramProblem,
  program: Program,
  words: Dialect,
): string {
  const nameOf = (id: string): string | undefined => {
    const step = findStep(program, id) ?? findStep(SAFEGUARD, id);
    return step && nameIn(step, words);
  };
  const gateName = (id: string): string => {
    const gate = [...program.gates, ...SAFEGUARD.gates].find((one) => one.id === id);
    return gate ? nameIn(gate, words) : id;
  };
  const quoted = (id: string): string => {
    const name = nameOf(id);
    return name ? `“${name}”` : id;
  };
  const inGates = (text: string): string =>
    text.replaceAll(/\bgate ([a-z]+(?:-[a-z]+)*)/g, (_all, id: string) => `gate “${gateName(id)}”`);
  const HYPHENED = /[a-z0-9]+(?:-[a-z0-9]+)+/g;
  // Ids of one word are words of the sentence too: only where one can stand are they taken for a step.
  const inSentence = (text: string): string =>
    inGates(text)
      .replaceAll(HYPHENED, quoted)
      .replaceAll(/^[a-z]+(?=, (?:a|which) )|(?<=asks of )[a-z]+|(?<=to rest on )[a-z]+/g, quoted);
  const inList = (text: string): string => inGates(text).replaceAll(/[a-z0-9]+(?:-[a-z0-9]+)*/g, quoted);
  const [list, index] = path;
  const at =
    list === "steps" && typeof index === "number"
      ? nameIn(program.steps[index] ?? { name: "A step" }, words)
      : list === "gates" && typeof index === "number"
        ? `The gate ${nameIn(program.gates[index] ?? { name: "" }, words)}`
        : list === "stop"
          ? "The stop"
          : list === "judge"
            ? "The judge's numbers"
            : "The road";
  if (expected === "a step of this program") return `${at} asks for ${quoted(found)}, which is not on the road.`;
  if (path.at(-1) === "end") return `Nothing rests on ${at}: say so, or let something rest on it.`;
  return `${at}: wanted ${inSentence(expected)}; found: ${inList(found)}.`;
}
