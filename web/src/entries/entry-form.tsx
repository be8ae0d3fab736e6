import type { EventType, Field } from "@still-pine/core/record";
import { useState, type ReactNode } from "react";
import type { YardView } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { TapeHint } from "./tape-hint";
import { EntryFields } from "./entry-fields";
import { changesBetween, readForm, toForm, wholeErrors, type FormErrors, type FormValues } from "./form-values";

interface EntryFormProps {
  type: EventType;
  /** Fields besides the type's own, such as when it was. */
  more?: readonly Field[];
  /** The event that is changed; none for a new one. */
  before?: Record<string, unknown>;
  /** Fields that are known already and not asked for. */
  given?: Record<string, unknown>;
  program: Program;
  yard: YardView;
  button: string;
  isBusy?: boolean;
  /** All fields of a new event; only the changed ones of one that is corrected. */
  onSave: (fields: Record<string, unknown>) => void;
  children?: ReactNode;
}

/** A form for any type of event, made from its catalogue. */
export function EntryForm({
  type,
  more = [],
  before,
  given = {},
  program,
  yard,
  button,
  isBusy,
  onSave,
  children,
}: EntryFormProps) {
  const fields = [...type.fields, ...more];
  const [shown] = useState<FormValues>(() => (before ? toForm(fields, before, yard) : {}));
  const [values, setValues] = useState<FormValues>(shown);
  const [errors, setErrors] = useState<FormErrors>({});
  const save = (): void => {
    const read = readForm(fields, values, yard);
    const found = read.ok ? wholeErrors(type, { ...given, ...read.fields }, program) : read.errors;
    setErrors(found);
    if (!read.ok || Object.keys(found).length > 0) return;
    onSave(before ? changesBetween(fields, before, shown, values, read.fields) : read.fields);
    if (!before) setValues({});
  };
  const stray = Object.entries(errors).filter(([name]) => !fields.some((field) => field.name === name));
  return (
    <form
      className="grid gap-4"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <EntryFields
        fields={fields}
        values={values}
        errors={errors}
        program={program}
        yard={yard}
        onChange={(name, value) => setValues((now) => ({ ...now, [name]: value }))}
      />
      {type.type === "weight" && (
        <TapeHint values={values} yard={yard} onTake={(taken) => setValues((now) => ({ ...now, ...taken }))} />
      )}
      {Object.keys(errors).length > 0 && (
        <p role="alert" className="font-semibold text-clay">
          {stray.length > 0
            ? stray.map(([, error]) => error).join(" ")
            : "Something above is missing or not as expected."}
        </p>
      )}
      {children}
      <button type="submit" className="button button-main" disabled={isBusy}>
        {button}
      </button>
    </form>
  );
}
