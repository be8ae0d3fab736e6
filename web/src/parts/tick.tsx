interface TickProps {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** One thing that is so or is not, with its words beside it. */
export function Tick({ label, checked, onChange }: TickProps) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input
        type="checkbox"
        className="size-5 shrink-0 accent-pine"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}
