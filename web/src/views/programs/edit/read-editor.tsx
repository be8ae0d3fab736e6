import type { SchoolTexts } from "@still-pine/core/programs";

const EMPTY: SchoolTexts = { forWhom: "", holdsTo: "", why: "", critics: "", firstOuting: [], weeks: [] };

const PARTS = [
  ["forWhom", "For which horse"],
  ["holdsTo", "What it holds to"],
  ["why", "Why"],
  ["critics", "What is said against it"],
] as const;

interface ReadEditorProps {
  texts: SchoolTexts | undefined;
  onChange: (texts: SchoolTexts) => void;
}

/** What a person reads of the program, in one's own words. */
export function ReadEditor({ texts = EMPTY, onChange }: ReadEditorProps) {
  return (
    <details className="mb-4">
      <summary className="min-h-9 cursor-pointer py-1 text-pine">What a person reads of it</summary>
      <div className="grid gap-3 pt-2 md:grid-cols-2">
        {PARTS.map(([name, title]) => (
          <label key={name} className="grid gap-1 text-sm">
            {title}
            <textarea
              className="field"
              rows={3}
              maxLength={2000}
              value={texts[name]}
              onChange={(event) => onChange({ ...texts, [name]: event.target.value })}
            />
          </label>
        ))}
        <Lines
          title="The first outing: minutes, and what"
          head="minutes"
          lines={texts.firstOuting.map(({ minutes, what }) => [String(minutes), what])}
          onChange={(lines) =>
            onChange({
              ...texts,
              firstOuting: lines.map(([minutes, what]) => ({
                minutes: Math.min(120, Math.max(1, Math.round(Number(minutes)) || 1)),
                what,
              })),
            })
          }
        />
        <Lines
          title="The weeks, and what"
          head="weeks"
          lines={texts.weeks.map(({ weeks, what }) => [weeks, what])}
          onChange={(lines) =>
            onChange({ ...texts, weeks: lines.map(([weeks, what]) => ({ weeks: weeks || "?", what })) })
          }
        />
      </div>
    </details>
  );
}

interface LinesProps {
  title: string;
  head: string;
  lines: readonly (readonly [string, string])[];
  onChange: (lines: readonly (readonly [string, string])[]) => void;
}

function Lines({ title, head, lines, onChange }: LinesProps) {
  const set = (at: number, line: readonly [string, string]): void =>
    onChange(lines.map((one, index) => (index === at ? line : one)));
  return (
    <fieldset className="grid content-start gap-1 text-sm">
      <legend>{title}</legend>
      {lines.map(([first, what], index) => (
        // A line has no name of its own; its place is what it is.
        <div key={index} className="grid grid-cols-[5rem_1fr_auto] gap-1">
          <input
            className="field"
            aria-label={`${title}, line ${index + 1}: ${head}`}
            maxLength={30}
            value={first}
            onChange={(event) => set(index, [event.target.value, what])}
          />
          <input
            className="field"
            aria-label={`${title}, line ${index + 1}`}
            maxLength={2000}
            value={what}
            onChange={(event) => set(index, [first, event.target.value])}
          />
          <button
            type="button"
            className="button w-11 px-0"
            aria-label={`${title}: without line ${index + 1}`}
            onClick={() => onChange(lines.filter((_one, at) => at !== index))}
          >
            −
          </button>
        </div>
      ))}
      <button
        type="button"
        className="button button-small justify-self-start"
        onClick={() => onChange([...lines, ["1", ""]])}
      >
        Another line
      </button>
    </fieldset>
  );
}
