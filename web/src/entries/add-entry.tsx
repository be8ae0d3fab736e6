import { bodyFrom, EVENT_TYPES, type EventType, type HorseId } from "@still-pine/core/record";
import { Plus } from "lucide-react";
import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import type { YardView } from "@still-pine/contract/http";
import type { Program } from "@still-pine/core/programs";
import { problemOf } from "../parts/problem";
import { Modal } from "../parts/modal";
import { ProblemNote } from "../parts/page-state";
import { EntryForm } from "./entry-form";
import { WHEN } from "./entry-item";
import { useRecord } from "../writing/use-record";

/** Types a person may enter of a horse or in an outing, the common ones first. */
export const typesOf = (of: "outing" | "horse"): EventType[] =>
  EVENT_TYPES.filter((type) => type.byHand && (type.of === of || type.of === "either"));

const COMMON: Record<"outing" | "horse", readonly string[]> = {
  outing: ["ask", "series", "sign", "note", "mishap"],
  horse: ["weight", "care", "note", "height", "condition"],
};

interface AddEntryProps {
  horse: HorseId;
  /** With the instant an added entry is given unless it says otherwise; null for the horse itself. */
  outing: { id: string; at: string } | null;
  /** Whose steps and words are meant: the horse's. */
  program: Program;
  yard: YardView;
  label: string;
}

/** Adds an entry of any type: the common ones one press away, the rare ones behind "more". */
export function AddEntry({ horse, outing, program, yard, label }: AddEntryProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="button" onClick={() => setOpen(true)}>
        <Plus size={18} aria-hidden="true" /> {label}
      </button>
      {open && (
        <Modal open onOpenChange={setOpen} title={label}>
          <NewEntry horse={horse} outing={outing} program={program} yard={yard} onDone={() => setOpen(false)} />
        </Modal>
      )}
    </>
  );
}

function NewEntry({ horse, outing, program, yard, onDone }: Omit<AddEntryProps, "label"> & { onDone: () => void }) {
  const of = outing ? "outing" : "horse";
  const types = typesOf(of);
  const [type, setType] = useState<EventType | undefined>(types.find((one) => one.type === COMMON[of][0]));
  const { record, ...sending } = useRecord();
  if (!type) return null;
  const save = async (fields: Record<string, unknown>): Promise<void> => {
    const { at: when = outing?.at, ...said } = fields;
    const at = typeof when === "string" ? { at: when } : {};
    if (await record({ horse, outing: outing?.id ?? null, body: bodyFrom(type, said), ...at })) onDone();
  };
  return (
    <div className="grid gap-4">
      <TypeChoice types={types} common={COMMON[of]} value={type} onChange={setType} />
      <p className="text-sm text-faint">{type.says}</p>
      {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
      <EntryForm
        key={type.type}
        type={type}
        more={[
          { ...WHEN, needed: false, says: outing ? "At the end of the outing when left open." : "Now when left open." },
        ]}
        program={program}
        yard={yard}
        button={`Add: ${type.name.toLowerCase()}`}
        isBusy={sending.isLoading}
        onSave={(fields) => void save(fields)}
      />
    </div>
  );
}

interface TypeChoiceProps {
  types: readonly EventType[];
  common: readonly string[];
  value: EventType;
  onChange: (type: EventType) => void;
}

/** Which type of entry: the common ones as chips, the others in a list behind "more". */
export function TypeChoice({ types, common, value, onChange }: TypeChoiceProps) {
  const choose = (wanted: string): void => {
    const found = types.find((type) => type.type === wanted);
    if (found) onChange(found);
  };
  const shown = common.flatMap((name) => types.find((type) => type.type === name) ?? []);
  const rare = types.filter((type) => !common.includes(type.type));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <ToggleGroup.Root
        type="single"
        value={value.type}
        aria-label="What to enter"
        className="flex flex-wrap gap-2"
        onValueChange={choose}
      >
        {shown.map((type) => (
          <ToggleGroup.Item key={type.type} value={type.type} className="chip">
            {type.name}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {rare.length > 0 && (
        <select
          aria-label="More kinds"
          className="field w-auto"
          value={common.includes(value.type) ? "" : value.type}
          onChange={(event) => choose(event.target.value)}
        >
          <option value="">more …</option>
          {rare.map((type) => (
            <option key={type.type} value={type.type}>
              {type.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
