import { useState } from "react";

interface ConflictChooserProps {
  /** Fields by name with how they are called, in the order of the form. */
  labels: Readonly<Record<string, string>>;
  /** As it was when it was opened here. */
  opened: Readonly<Record<string, unknown>>;
  current: Readonly<Record<string, unknown>>;
  yours: Readonly<Record<string, unknown>>;
  /** The fields as chosen, all of them. */
  onChoose: (chosen: Record<string, unknown>) => void;
}

/** Somebody else changed the same row: the fields that differ, side by side, and for each which one stays. */
export function ConflictChooser({ labels, opened, current, yours, onChoose }: ConflictChooserProps) {
  const names = Object.keys(labels);
  const differing = names.filter((name) => String(current[name]) !== String(yours[name]));
  // What was not touched here is not meant to undo what somebody else did.
  const [mine, setMine] = useState<ReadonlySet<string>>(
    () => new Set(differing.filter((name) => String(yours[name]) !== String(opened[name]))),
  );
  const chosen = Object.fromEntries(names.map((name) => [name, mine.has(name) ? yours[name] : current[name]]));
  const choose = (name: string, isMine: boolean): void => {
    const next = new Set(mine);
    if (isMine) next.add(name);
    else next.delete(name);
    setMine(next);
  };
  return (
    <div role="group" aria-label="Choose field by field" className="mt-3 grid gap-3">
      {differing.length === 0 && <p>Both say the same now.</p>}
      {differing.map((name) => (
        <fieldset key={name} className="rounded-lg border border-line p-3">
          <legend className="px-1 font-semibold">{labels[name]}</legend>
          {(
            [
              [false, "as it is now", current[name]],
              [true, "as you typed it", yours[name]],
            ] as const
          ).map(([isMine, whose, value]) => (
            <label key={whose} className="flex min-h-11 items-center gap-3">
              <input
                type="radio"
                name={`choose-${name}`}
                className="size-5 accent-pine"
                checked={mine.has(name) === isMine}
                onChange={() => choose(name, isMine)}
              />
              <span>
                <b>{String(value)}</b> <span className="text-faint">{whose}</span>
              </span>
            </label>
          ))}
        </fieldset>
      ))}
      <button type="button" className="button button-main" onClick={() => onChoose(chosen)}>
        Save these
      </button>
    </div>
  );
}
