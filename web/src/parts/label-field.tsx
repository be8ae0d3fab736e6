import { Field } from "./field";

interface LabelFieldProps {
  id: string;
  label: string;
  value: string;
  /** Labels that were used before, offered again. */
  known: readonly string[];
  error?: string | undefined;
  onChange: (value: string) => void;
}

/** A place or a person by its label. */
export function LabelField({ id, label, value, known, error, onChange }: LabelFieldProps) {
  return (
    <Field id={id} label={label} error={error}>
      <input
        id={id}
        list={`${id}-known`}
        maxLength={120}
        autoComplete="off"
        className="field"
        value={value}
        aria-describedby={`${id}-note`}
        aria-invalid={error !== undefined}
        onChange={(event) => onChange(event.target.value)}
      />
      <datalist id={`${id}-known`}>
        {known.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </Field>
  );
}
