import type { HorseId } from "@still-pine/core/record";
import type { StringHorse } from "@still-pine/contract/http";

interface HorseChoiceProps {
  label: string;
  horses: readonly StringHorse[] | undefined;
  value: string;
  /** What is said where none is chosen. */
  none: string;
  onChange: (horse: HorseId) => void;
}

/** One horse of the string, or none. */
export function HorseChoice({ label, horses, value, none, onChange }: HorseChoiceProps) {
  return (
    <label className="grid gap-1 text-sm">
      {label}
      <select className="field w-52 text-base" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="">{none}</option>
        {horses?.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
