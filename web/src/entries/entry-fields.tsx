import { useId } from "react";
import { unitName } from "@still-pine/core/body";
import type { Fault, Field as FieldSpec } from "@still-pine/core/record";
import { findStep, type LadderTexts, type Program } from "@still-pine/core/programs";
import { chipsOf } from "@still-pine/core/programs/chips";
import { FAULT_WORDS } from "@still-pine/core/programs/fault-words";
import type { YardView } from "@still-pine/contract/http";
import { Field } from "../parts/field";
import { choiceInWords, GEAR, inDialect, plain } from "../parts/choice-words";
import { useLadderTexts } from "../parts/use-ladder-texts";
import type { FormErrors, FormValues } from "./form-values";

interface EntryFieldsProps {
  fields: readonly FieldSpec[];
  values: FormValues;
  errors: FormErrors;
  program: Program;
  yard: YardView;
  onChange: (name: string, value: string) => void;
}

/** The fields of an event, each with the control that fits what it takes. */
export function EntryFields({ fields, values, errors, program, yard, onChange }: EntryFieldsProps) {
  const prefix = useId();
  const step = values["step"] ?? "";
  const texts = useLadderTexts(step);
  return (
    <div className="grid grid-cols-1 gap-3 sm:grid-cols-2">
      {fields
        .filter((field) => isAsked(field, values, program))
        .map((field) => {
          const id = `${prefix}${field.name}`;
          const isWide = field.is.kind === "text" || field.is.kind === "texts";
          return (
            <div key={field.name} className={isWide ? "sm:col-span-2" : undefined}>
              <Field
                id={id}
                label={inDialect(`${field.label}${unitOf(field, yard)}`, yard.words)}
                hint={hintOf(field)}
                error={errors[field.name]}
              >
                <Control
                  id={id}
                  field={field}
                  value={values[field.name] ?? ""}
                  isWrong={errors[field.name] !== undefined}
                  program={program}
                  ladder={rungsOf(step, program, texts)}
                  yard={yard}
                  onChange={(value) => onChange(field.name, value)}
                />
              </Field>
            </div>
          );
        })}
    </div>
  );
}

const unitOf = ({ is, label }: FieldSpec, { units }: YardView): string => {
  if (is.kind === "measure") return ` (${unitName(is.quantity, units)})`;
  return is.kind === "number" && is.unit === "s" && !label.includes("econds") ? " (seconds)" : "";
};

const hintOf = ({ is, says }: FieldSpec): string | undefined => {
  if (is.kind === "texts") return "With commas between.";
  // Sentences for whoever reads files use the names of fields; a form says it by its choices.
  return is.kind === "measure" || is.kind === "choice" || is.kind === "step" || says.includes("`")
    ? undefined
    : says || undefined;
};

interface ControlProps {
  id: string;
  field: FieldSpec;
  value: string;
  isWrong: boolean;
  program: Program;
  /** Rungs of the step that is chosen, by their ids. */
  ladder: readonly (readonly [id: string, words: string])[];
  yard: YardView;
  onChange: (value: string) => void;
}

function Control({ id, field, value, isWrong, program, ladder, yard, onChange }: ControlProps) {
  const { is, name, needed } = field;
  const common = { id, className: "field", "aria-describedby": `${id}-note`, "aria-invalid": isWrong, value };
  const options = optionsOf(field, program, ladder, yard);
  if (options)
    return (
      <select {...common} onChange={(event) => onChange(event.target.value)}>
        {(!needed || value === "") && <option value="">{needed ? "choose …" : "not said"}</option>}
        {value !== "" && !options.some((option) => option.value === value) && <option value={value}>{value}</option>}
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    );
  if (is.kind === "text" && is.long)
    return <textarea {...common} className="field py-2" rows={4} onChange={(event) => onChange(event.target.value)} />;
  const known =
    is.kind === "label"
      ? is.of === "place"
        ? yard.places
        : yard.people
      : name === "gear"
        ? gearOf(value, yard)
        : null;
  const type = is.kind === "day" ? "date" : is.kind === "instant" ? "datetime-local" : "text";
  const isNumber = is.kind === "whole" || is.kind === "number" || is.kind === "measure";
  return (
    <>
      <input
        {...common}
        type={type}
        inputMode={isNumber ? "decimal" : undefined}
        autoComplete="off"
        list={known ? `${id}-known` : undefined}
        onChange={(event) => onChange(event.target.value)}
      />
      {known && (
        <datalist id={`${id}-known`}>
          {known.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </>
  );
}

/** Gear that may follow what is typed already. */
function gearOf(value: string, { words }: YardView): string[] {
  const before = value.includes(",") ? `${value.slice(0, value.lastIndexOf(","))}, ` : "";
  return GEAR.map((one) => `${before}${inDialect(one, words)}`);
}

/** How an ask was put is asked only where it means something for its step, or where it was said. */
function isAsked({ name, since, is }: FieldSpec, values: FormValues, program: Program): boolean {
  if (since === undefined || (values[name] ?? "") !== "") return true;
  const step = findStep(program, values["step"] ?? "");
  if (is.kind === "rung") return (step?.ladder.rungs.length ?? 0) > 1;
  return name === "purpose" || (step !== undefined && chipsOf(step).some((chip) => chip === name));
}

const rungsOf = (step: string, program: Program, { rungs }: LadderTexts): [string, string][] =>
  (findStep(program, step)?.ladder.rungs ?? []).map(({ id }) => [id, rungs[id] ?? plain(id)]);

function optionsOf({ is, name }: FieldSpec, program: Program, ladder: ControlProps["ladder"], { words }: YardView) {
  switch (is.kind) {
    case "choice":
      return is.values.map((value) => ({
        value: String(value),
        label: inDialect(name === "fault" ? FAULT_WORDS[value as Fault] : choiceInWords(name, value, program), words),
      }));
    case "yes-no":
      return [
        { value: "true", label: "yes" },
        { value: "false", label: "no" },
      ];
    case "rung":
      return ladder.map(([value, label]) => ({ value, label: inDialect(label, words) }));
    case "step":
      return program.steps.map((step) => ({ value: step.id, label: inDialect(step.name, words) }));
    default:
      return null;
  }
}
