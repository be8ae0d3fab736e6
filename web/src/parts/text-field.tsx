import type { InputHTMLAttributes } from "react";
import { Field } from "./field";

interface TextFieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, "onChange" | "value" | "id"> {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
}

/** One line of text with its label. */
export function TextField({ id, label, value, onChange, className = "", ...input }: TextFieldProps) {
  return (
    <Field id={id} label={label}>
      <input
        id={id}
        className={`field ${className}`}
        value={value}
        aria-describedby={`${id}-note`}
        onChange={(event) => onChange(event.target.value)}
        {...input}
      />
    </Field>
  );
}
