import {
  BEGINS,
  FIRST_MOUNTS,
  FIRST_RIDES_IN,
  HEADGEARS,
  LEADS,
  PRESSURES,
  REWARDS,
  type Program,
  type ProgramFile,
} from "@still-pine/core/programs";
import { facetsOf } from "@still-pine/core/programs/facets";

interface SettingsEditorProps {
  file: ProgramFile;
  program: Program;
  onChange: (next: (file: ProgramFile) => ProgramFile) => void;
}

type Value = string | number | boolean | null;
type Choices = readonly Value[];

const NUMBERS = (from: number, to: number, by: number): number[] =>
  Array.from({ length: Math.floor((to - from) / by) + 1 }, (_, n) => from + n * by);

/** What can be chosen of each setting; what it means is said beside it in the sentence the program's page has. */
const WAYS: readonly [name: keyof Program["ways"], choices: Choices][] = [
  ["pressure", PRESSURES],
  ["pressureMost", [1, 2, 3, 4]],
  ["reward", REWARDS],
  ["twoEyes", [true, false]],
  ["quarters", ["never", "not-minded"]],
  ["begin", BEGINS],
  ["lead", [...LEADS, null]],
  ["headgear", HEADGEARS],
  ["firstMount", [...FIRST_MOUNTS, null]],
  ["firstRidesIn", [...FIRST_RIDES_IN, null]],
  ["contactWeeks", [...NUMBERS(0, 12, 1), null]],
  ["canterMonths", [...NUMBERS(36, 60, 6), null]],
  ["ridingMonths", [...NUMBERS(36, 60, 6), null]],
];
const COACH: readonly [name: keyof Program["coach"], choices: Choices][] = [
  ["stuck", ["angle", "smaller", "wait", "more", "aim"]],
  ["fright", ["keep-on", "keep-hand", "when-still", "smaller", "touch-stays", "again"]],
  ["firstDay", ["no-more", "build"]],
  ["standing", ["grows", "stays"]],
  ["spurtSeconds", [30, 60, 90, 120, 180, 300, null]],
  ["spurtsMost", [1, 2, 3, 4, 5, 8, null]],
  ["stickyShare", [1, 1.5, 2, 3]],
  ["spareAsks", [1, 2, 3, 5]],
  ["pieces", [3, 4, 5, 6, 7, 8, 10]],
  ["newPieces", [0, 1, 2, 3, 4, 5]],
];

const said = (value: Value): string =>
  value === null ? "none" : value === true ? "yes" : value === false ? "no" : String(value).replaceAll("-", " ");

/** How the program goes about things: each setting with its sentence as it stands. */
export function SettingsEditor({ program, onChange }: SettingsEditorProps) {
  const facets = new Map(facetsOf(program).map((facet) => [facet.id, facet]));
  const row = (group: "ways" | "coach", name: string, choices: Choices, value: Value) => {
    const facet = facets.get(name);
    const all = choices.includes(value) ? choices : [value, ...choices];
    return (
      <label key={name} className="grid gap-1 border-t border-line pt-2 text-sm">
        <span className="font-bold">{facet?.question}</span>
        <select
          className="field"
          value={JSON.stringify(value)}
          onChange={(event) =>
            onChange((now) => ({ ...now, [group]: { ...now[group], [name]: JSON.parse(event.target.value) as Value } }))
          }
        >
          {all.map((one) => (
            <option key={JSON.stringify(one)} value={JSON.stringify(one)}>
              {said(one)}
            </option>
          ))}
        </select>
        <span className="text-faint">{facet?.says}</span>
      </label>
    );
  };
  return (
    <section aria-label="How it goes about it" className="card grid gap-3">
      <h2 className="text-xl">How it goes about it</h2>
      {WAYS.map(([name, choices]) => row("ways", name, choices, program.ways[name]))}
      {COACH.map(([name, choices]) => row("coach", name, choices, program.coach[name]))}
    </section>
  );
}
