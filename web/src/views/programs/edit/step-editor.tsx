import {
  inDialect,
  nameIn,
  phaseWordsOf,
  type Dialect,
  type Need,
  type Program,
  type ProgramFile,
  type Step,
} from "@still-pine/core/programs";
import { MOODS, PHASES, type Mood, type Phase } from "@still-pine/core/record";
import { MOOD_WORDS } from "../../../marks/feel-square";
import { plain } from "../../../parts/choice-words";
import { useLadderTexts } from "../../../parts/use-ladder-texts";
import { setGuarded, setNeeds, setStandard, toggled } from "./changes";
import { NeedEditor } from "./need-editor";

interface StepEditorProps {
  step: Step;
  file: ProgramFile;
  program: Program;
  words: Dialect;
  onChange: (next: (file: ProgramFile) => ProgramFile) => void;
}

/** What one step rests on, and what counts as clean of it. */
export function StepEditor({ step, file, program, words, onChange }: StepEditorProps) {
  const { id, needs, standard, ladder } = step;
  const { rungs: rungTexts } = useLadderTexts(id);
  const set = (next: readonly Need[]): void => onChange((now) => setNeeds(now, id, next));
  const isOwn = file.ownSteps?.some((one) => one.id === id) === true;
  const others = program.steps.filter((one) => one.id !== id);
  const options = others.map((one) => (
    <option key={one.id} value={one.id}>
      {nameIn(one, words)}
    </option>
  ));
  return (
    <div className="grid gap-3 border-t border-line bg-paper px-4 py-3">
      <div>
        <h3 className="font-bold">Rests on</h3>
        <ul className="grid gap-1">
          {needs.map((need, index) => (
            <NeedEditor
              key={JSON.stringify(need)}
              need={need}
              program={program}
              words={words}
              options={options}
              onChange={(next) => set(needs.flatMap((one, at) => (at === index ? (next ?? []) : one)))}
            />
          ))}
        </ul>
        <select
          className="field mt-1 w-auto"
          aria-label={`${nameIn(step, words)} rests also on`}
          value=""
          onChange={(event) => set([...needs, { anyOf: [[{ step: event.target.value }]] }])}
        >
          <option value="">and also on …</option>
          {options}
        </select>
        {isOwn ? (
          <label className="mt-1 flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5 shrink-0 accent-pine"
              checked={step.guarded}
              onChange={({ target }) => onChange((now) => setGuarded(now, id, target.checked))}
            />
            It guards a person: all of this has to be steady before it is begun, good for today is not enough
          </label>
        ) : (
          <p className="mt-1 text-sm text-faint">
            {step.guarded
              ? "It guards a person: all of this has to be steady before it is begun. That stays so in every program."
              : "What is good for today is enough to try it."}
          </p>
        )}
      </div>
      <div className="flex flex-wrap gap-3">
        {standard.phase !== null && (
          <label className="grid gap-1 text-sm">
            Phase at most
            <select
              className="field w-40"
              value={standard.phase}
              onChange={(event) =>
                onChange((now) => setStandard(now, id, { phase: Number(event.target.value) as Phase }))
              }
            >
              {PHASES.map((phase) => (
                <option key={phase} value={phase}>
                  {phase} {phaseWordsOf(program)[phase]}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="grid gap-1 text-sm">
          Mood at most
          <select
            className="field w-40"
            value={standard.mood}
            onChange={(event) => onChange((now) => setStandard(now, id, { mood: Number(event.target.value) as Mood }))}
          >
            {MOODS.map((mood) => (
              <option key={mood} value={mood}>
                {mood} {MOOD_WORDS[mood]}
              </option>
            ))}
          </select>
        </label>
        {standard.dose && standard.dose.unit !== "rung" && (
          <label className="grid gap-1 text-sm">
            {standard.dose.atMost ? "At most" : "At least"}, {standard.dose.unit} {standard.dose.at}
            <input
              type="number"
              className="field w-32"
              min={0.5}
              step="any"
              value={standard.dose.amount}
              onChange={(event) => {
                const dose = Number(event.target.value);
                if (dose > 0) onChange((now) => setStandard(now, id, { dose }));
              }}
            />
          </label>
        )}
        {ladder.rungs.length > 1 && ladder.rungs[ladder.standard]?.dose === undefined && (
          <label className="grid gap-1 text-sm">
            As far as
            <select
              className="field w-56"
              value={ladder.rungs[ladder.standard]?.id}
              onChange={(event) => onChange((now) => setStandard(now, id, { rung: event.target.value }))}
            >
              {ladder.rungs.map((rung) => (
                <option key={rung.id} value={rung.id}>
                  {inDialect(rungTexts[rung.id] ?? plain(rung.id), words)}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="grid gap-1 text-sm">
          Begun within, seconds
          <input
            type="number"
            className="field w-36"
            min={0.5}
            max={60}
            step="any"
            placeholder="not asked"
            value={standard.within ?? ""}
            onChange={(event) => {
              const within = Number(event.target.value);
              onChange((now) => setStandard(now, id, within > 0 ? { within } : { within: undefined }));
            }}
          />
        </label>
        {standard.within !== undefined && (
          <label className="flex min-h-11 items-center gap-2 self-end">
            <input
              type="checkbox"
              className="size-5"
              checked={standard.lateSpoils ?? false}
              onChange={(event) => onChange((now) => setStandard(now, id, { lateSpoils: event.target.checked }))}
            />
            A late answer is not clean
          </label>
        )}
      </div>
      <div className="flex flex-wrap gap-x-5">
        {(
          [
            ["optional", "Beside the road: nobody waits for it"],
            ["ends", "Nothing needs to rest on it"],
            ["stop", "Part of the stop before the first ride"],
          ] as const
        ).map(([list, says]) => (
          <label key={list} className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={list === "ends" ? step.end : (file[list] ?? []).includes(id)}
              onChange={() => onChange((now) => ({ ...now, [list]: toggled(now[list], id) }))}
            />
            {says}
          </label>
        ))}
      </div>
    </div>
  );
}
