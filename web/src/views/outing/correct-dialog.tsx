import { useState } from "react";
import type { EntryView } from "@still-pine/contract/http";
import { ANSWERS, MISHAPS, MOODS, PHASES, SEVERITIES, SIGNS, type RecordEvent } from "@still-pine/core/record";
import { sidesOf, type Program } from "@still-pine/core/programs";
import { MOOD_WORDS, PHASE_WORDS } from "../../marks/feel-square";
import { Field } from "../../parts/field";
import { Modal } from "../../parts/modal";

interface Choice {
  field: string;
  label: string;
  /** Absent for free text. */
  options?: { value: string | number | boolean; label: string }[];
  isNumber?: boolean;
}

const plain = (values: readonly (string | number)[]): Choice["options"] =>
  values.map((value) => ({ value, label: String(value).replaceAll("-", " ") }));

/** The fields of an entry that may have been written wrongly. */
function choicesFor(event: RecordEvent, program: Program): Choice[] {
  const step = program.steps.find((one) => one.id === (event as { step?: string }).step);
  const steps: Choice = {
    field: "step",
    label: "Step",
    options: program.steps.map(({ id, name }) => ({ value: id, label: name })),
  };
  const sides: Choice[] =
    step && sidesOf(step).length > 1
      ? [
          {
            field: "side",
            label: "Side",
            options: [
              { value: "near", label: "near side" },
              { value: "off", label: "off side" },
            ],
          },
        ]
      : [];
  const feel: Choice[] = [
    ...(step?.standard.phase === null
      ? []
      : [
          {
            field: "phase",
            label: "Phase",
            options: PHASES.map((value) => ({ value, label: `${value} ${PHASE_WORDS[value]}` })),
          },
        ]),
    {
      field: "mood",
      label: "Mood",
      options: MOODS.map((value) => ({ value, label: `${value} ${MOOD_WORDS[value]}` })),
    },
  ];
  switch (event.type) {
    case "ask":
      return [steps, ...sides, { field: "answer", label: "Answer", options: plain(ANSWERS) }, ...feel];
    case "series":
      return [
        steps,
        ...sides,
        { field: "count", label: "How many", isNumber: true },
        { field: "clean", label: "Clean", isNumber: true },
        { field: "first", label: "First", options: plain(ANSWERS) },
        { field: "worst", label: "Worst", options: plain(ANSWERS) },
        ...feel,
      ];
    case "sign":
      return [{ field: "sign", label: "Sign", options: plain(SIGNS) }];
    case "note":
      return [{ field: "text", label: "Note" }];
    case "mishap":
      return [
        { field: "kind", label: "Kind", options: plain(MISHAPS) },
        { field: "severity", label: "Severity", options: plain(SEVERITIES) },
        {
          field: "personHurt",
          label: "A person hurt",
          options: [
            { value: false, label: "no" },
            { value: true, label: "yes" },
          ],
        },
        { field: "after", label: "What led to it" },
      ];
    default:
      return [];
  }
}

interface CorrectDialogProps {
  entry: EntryView;
  program: Program;
  onClose: () => void;
  onSave: (changed: Record<string, unknown>) => void;
}

/** Changes fields of an entry; what stood there before stays in the outing's history. */
export function CorrectDialog({ entry, program, onClose, onSave }: CorrectDialogProps) {
  const [values, setValues] = useState<Record<string, unknown>>(() => ({ ...entry.current }));
  const choices = choicesFor({ ...entry.current, ...values } as RecordEvent, program);
  const changed = Object.fromEntries(
    choices.flatMap(({ field }) =>
      values[field] !== (entry.current as Record<string, unknown>)[field] ? [[field, values[field]]] : [],
    ),
  );
  const set = (choice: Choice, text: string): void => {
    const option = choice.options?.find((one) => String(one.value) === text);
    const value = option ? option.value : choice.isNumber ? Number(text) : text;
    setValues({ ...values, [choice.field]: value });
  };
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} title="Correct the entry">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onSave(changed);
        }}
      >
        {choices.map((choice) => {
          const id = `correct-${choice.field}`;
          const value = values[choice.field];
          return (
            <Field key={choice.field} id={id} label={choice.label}>
              {choice.options ? (
                <select
                  id={id}
                  className="field"
                  value={value === undefined ? "" : String(value)}
                  onChange={(event) => set(choice, event.target.value)}
                >
                  {value === undefined && <option value="">not said</option>}
                  {choice.options.map((option) => (
                    <option key={String(option.value)} value={String(option.value)}>
                      {option.label}
                    </option>
                  ))}
                </select>
              ) : (
                <input
                  id={id}
                  className="field"
                  type={choice.isNumber ? "number" : "text"}
                  min={0}
                  value={value === undefined ? "" : String(value)}
                  onChange={(event) => set(choice, event.target.value)}
                />
              )}
            </Field>
          );
        })}
        <p className="text-sm text-faint">What was written before stays in the history.</p>
        <button type="submit" className="button button-main" disabled={Object.keys(changed).length === 0}>
          Save the correction
        </button>
      </form>
    </Modal>
  );
}
