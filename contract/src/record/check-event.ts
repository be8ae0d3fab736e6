import { asEvent, eventTypeOf, type EventOf, type RecordEvent } from "@still-pine/core/record";
import { sidesOf, stepsFor, type Program } from "@still-pine/core/programs";
import { readShape } from "./events";
import { pathInWords, problemsFrom, shown, type InputProblem } from "./problems";

type Path = readonly PropertyKey[];

/**
 * Reads one event of a record: its shape by its type, then what the step asks of it. Unknown types and fields pass.
 *
 * @param path where the event stands, for messages
 * @param isNew written just now, not in a file that may be old
 * @returns the event, or all that is wrong with it
 */
export function parseEvent(
  input: unknown,
  path: Path,
  program: Program,
  isNew = false,
): { event: RecordEvent; problems?: undefined } | { event?: undefined; problems: InputProblem[] } {
  const parsed = readShape(input);
  if (!parsed.success) return { problems: problemsFrom(parsed.error, input, path) };
  const event = asEvent(parsed.data);
  const problems = [...checkAgainstStep(event, path, program), ...(isNew ? lackingNow(event, path) : [])];
  return problems.length > 0 ? { problems } : { event };
}

function lackingNow(event: RecordEvent, path: Path): InputProblem[] {
  const said = new Map<string, unknown>(Object.entries(event));
  return (eventTypeOf(event.type)?.fields ?? [])
    .filter(({ name, neededNow }) => neededNow && (said.get(name) ?? "") === "")
    .map(({ name, label }) => ({
      path: pathInWords([...path, name]),
      expected: `${label.charAt(0).toLowerCase()}${label.slice(1)}`,
      found: shown(said.get(name)),
    }));
}

/** What the shape alone does not say: the side a step needs, the phase and mood a `gave` needs, a count that adds up. */
function checkAgainstStep(input: RecordEvent, path: Path, program: Program): InputProblem[] {
  if (input.type === "standard") return checkStandard(input, path, program);
  if (input.type !== "ask" && input.type !== "series") return checkItself(input, path);
  const event = input;
  const problems: InputProblem[] = [];
  const add = (field: string, expected: string, found: unknown): void => {
    problems.push({ path: pathInWords([...path, field]), expected, found: shown(found) });
  };
  if (event.type === "series" && event.clean > event.count)
    add("clean", `at most the count, ${event.count}`, event.clean);
  const [step] = stepsFor(program, event.step);
  if (!step) return problems;
  if (sidesOf(step).length > 1 && event.side !== "near" && event.side !== "off")
    add("side", `near or off, because ${step.id} is asked on two sides`, event.side);
  const gave = event.type === "series" ? event.clean > 0 : event.answer === "gave";
  if (!gave) return problems;
  if (event.mood === undefined) add("mood", "a mood from 0 to 4 with an answer that gave", undefined);
  if (step.standard.phase !== null && event.phase === undefined)
    add("phase", `a phase from 0 to 4, because ${step.id} is judged by it`, undefined);
  return problems;
}

/** Types of which at least one of some fields must be there. */
const ONE_OF: ReadonlyMap<unknown, readonly string[]> = new Map([
  ["weight", ["weightKg", "girthCm"]],
  ["standard", ["phase", "mood", "dose"]],
]);

/** An adjusted standard has to be one this step can have. Steps nobody knows are kept. */
function checkStandard(event: EventOf<"standard">, path: Path, program: Program): InputProblem[] {
  const problems = checkItself(event, path);
  const [step] = stepsFor(program, event.step);
  if (!step) return problems;
  const { phase, dose } = step.standard;
  const add = (field: "phase" | "dose", expected: string): void => {
    problems.push({ path: pathInWords([...path, field]), expected, found: shown(event[field]) });
  };
  if (event.phase !== undefined && phase === null) add("phase", `no phase, because ${step.id} is not judged by one`);
  if (event.dose !== undefined && dose === null) add("dose", `no dose, because ${step.id} has none`);
  else if (event.dose === 0) add("dose", `a dose of more than 0 ${dose?.unit ?? ""}`.trim());
  else if (dose?.unit === "rung" && event.dose !== undefined && !step.rungs[event.dose - 1])
    add("dose", `a rung from 1 to ${step.rungs.length} of ${step.id}`);
  return problems;
}

function checkItself(event: RecordEvent, path: Path): InputProblem[] {
  const wanted = ONE_OF.get(event.type);
  const said: object = event;
  if (wanted && !wanted.some((field) => field in said))
    return [{ path: pathInWords(path), expected: `at least one of ${wanted.join(", ")}`, found: "none of them" }];
  if (event.type !== "head") return [];
  const { startedAt, endedAt } = event;
  if (startedAt && endedAt && Date.parse(endedAt) < Date.parse(startedAt))
    return [
      {
        path: pathInWords([...path, "endedAt"]),
        expected: `an end not before the start, ${startedAt}`,
        found: shown(endedAt),
      },
    ];
  return [];
}
