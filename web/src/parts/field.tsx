import type { ReactNode } from "react";

interface FieldProps {
  id: string;
  label: string;
  hint?: string;
  error?: string | undefined;
  children: ReactNode;
}

/** A labelled field with its hint and, beside it, what is wrong with it. Give the control `id` and `aria-describedby={id-note}`. */
export function Field({ id, label, hint, error, children }: FieldProps) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {children}
      <p id={`${id}-note`} className={error ? "mt-1 font-semibold text-clay" : "mt-1 text-sm text-faint empty:hidden"}>
        {error ?? hint}
      </p>
    </div>
  );
}
