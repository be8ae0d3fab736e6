import { X } from "lucide-react";
import {
  findStep,
  inDialect,
  placeOfRung,
  type Dialect,
  type Need,
  type NeedRef,
  type Program,
} from "@still-pine/core/programs";
import { chipsOf } from "@still-pine/core/programs/chips";
import { rungInWords } from "@still-pine/core/programs/ladder-words";
import { stepName } from "@still-pine/core/readiness";
import { SETTINGS } from "@still-pine/core/record";
import { howFar, needInWords, wayInWords } from "../../../parts/need-words";

interface NeedEditorProps {
  need: Need;
  program: Program;
  words: Dialect;
  /** The steps that may stand in for what is needed. */
  options: React.ReactNode;
  /** @param next null: rests on it no more */
  onChange: (next: Need | null) => void;
}

/** One thing a step rests on: which steps serve, and how far each of them has to be. */
export function NeedEditor({ need, program, words, options, onChange }: NeedEditorProps) {
  const { anyOf } = need;
  const setRef = (at: number, place: number, next: NeedRef): void =>
    onChange({
      anyOf: anyOf.map((way, index) => (index === at ? way.map((ref, n) => (n === place ? next : ref)) : way)),
    });
  const name = needInWords(need, program, words);
  return (
    <li className="flex flex-wrap items-center gap-2">
      {anyOf.map((way, at) =>
        way.map((ref, place) => (
          <span key={`${at} ${ref.step}`} className="flex flex-wrap items-center gap-2">
            <span>
              {place > 0 ? "with " : at > 0 ? "or " : ""}
              {stepName(program, ref.step, words)}
              {leftOver(ref, program, words)}
            </span>
            <HowFar of={ref} program={program} words={words} onChange={(next) => setRef(at, place, next)} />
          </span>
        )),
      )}
      <select
        className="field min-h-9 w-auto text-sm"
        aria-label={`Or, instead of ${wayInWords(anyOf[0] ?? [], program, words)}`}
        value=""
        onChange={(event) => onChange({ anyOf: [...anyOf, [{ step: event.target.value }]] })}
      >
        <option value="">or …</option>
        {options}
      </select>
      <button
        type="button"
        className="flex size-9 cursor-pointer items-center justify-center hover:text-clay"
        aria-label={`Rests no more on ${name}`}
        onClick={() => onChange(null)}
      >
        <X size={16} aria-hidden="true" />
      </button>
    </li>
  );
}

/** What a need asks of a step that no choice beside its name says. */
function leftOver(of: NeedRef, program: Program, words: Dialect): string {
  if (!findStep(program, of.step)) return howFar(of, program, words);
  const { rung: _rung, setting: _setting, ...rest } = of;
  return howFar(rest, program, words);
}

interface HowFarProps {
  of: NeedRef;
  program: Program;
  words: Dialect;
  onChange: (next: NeedRef) => void;
}

/** As far as which rung a step has to be steady, and how he has to go; of what the step has not, only what the need says of it. */
function HowFar({ of, program, words, onChange }: HowFarProps) {
  const step = findStep(program, of.step);
  if (!step) return null;
  const { rung, setting, ...rest } = of;
  const { rungs, standard } = step.ladder;
  // One that the ladder does not have is shown as it is written: the checks say what is wrong with it.
  const said = rung === undefined ? undefined : (rungs[placeOfRung(step.ladder, rung)]?.id ?? String(rung));
  const below = rungs.slice(0, standard).map(({ id }) => id);
  const choices = said === undefined || below.includes(said) ? below : [...below, said];
  const name = stepName(program, of.step, words);
  return (
    <>
      {choices.length > 0 && (
        <select
          className="field min-h-9 w-auto text-sm"
          aria-label={`${name}: as far as`}
          value={said ?? ""}
          onChange={({ target: { value } }) =>
            onChange({ ...rest, ...(setting ? { setting } : {}), ...(value ? { rung: value } : {}) })
          }
        >
          <option value="">all of it</option>
          {choices.map((id) => (
            <option key={id} value={id}>
              as far as {inDialect(rungInWords(of.step, id), words)}
            </option>
          ))}
        </select>
      )}
      {(setting !== undefined || chipsOf(step).includes("setting")) && (
        <select
          className="field min-h-9 w-auto text-sm"
          aria-label={`${name}: how he goes`}
          value={setting ?? ""}
          onChange={({ target: { value } }) => {
            const wanted = SETTINGS.find((one) => one === value);
            onChange({ ...rest, ...(rung === undefined ? {} : { rung }), ...(wanted ? { setting: wanted } : {}) });
          }}
        >
          <option value="">however he goes</option>
          {SETTINGS.map((one) => (
            <option key={one} value={one}>
              {one} too
            </option>
          ))}
        </select>
      )}
    </>
  );
}
