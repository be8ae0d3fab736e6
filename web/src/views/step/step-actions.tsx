import { bodyFrom, eventTypeOf, type HorseId } from "@still-pine/core/record";
import { Hand, SlidersHorizontal, StepForward } from "lucide-react";
import { useState } from "react";
import type { YardView } from "@still-pine/contract/http";
import type { Program, Step } from "@still-pine/core/programs";
import { problemOf } from "../../parts/problem";
import { EntryForm } from "../../entries/entry-form";
import { Modal } from "../../parts/modal";
import { ProblemNote } from "../../parts/page-state";
import { useRecord } from "../../writing/use-record";

/** What a person can say of a step: his own standard, a hold, an override; always with the reason. */
const ACTIONS = [
  { type: "standard", label: "Adjust standard", icon: SlidersHorizontal, button: "Adjust the standard", note: "" },
  {
    type: "hold",
    label: "Hold",
    icon: Hand,
    button: "Hold this step",
    note: "It stays held until the hold is struck out. The word beside it goes on saying what the record shows.",
  },
  {
    type: "override",
    label: "Override",
    icon: StepForward,
    button: "Let the next steps start",
    note: "The steps that rest on this one may start. Its word stays what the record shows, and no gate opens by it.",
  },
] as const;

interface StepActionsProps {
  horse: HorseId;
  step: Step;
  program: Program;
  yard: YardView;
}

export function StepActions(props: StepActionsProps) {
  const [open, setOpen] = useState<(typeof ACTIONS)[number] | null>(null);
  return (
    <div className="flex flex-wrap gap-2">
      {ACTIONS.map((action) => (
        <button
          key={action.type}
          type="button"
          className="button button-small min-h-11"
          onClick={() => setOpen(action)}
        >
          <action.icon size={17} aria-hidden="true" /> {action.label}
        </button>
      ))}
      {open && (
        <Modal open onOpenChange={() => setOpen(null)} title={open.label}>
          <Say {...props} action={open} onDone={() => setOpen(null)} />
        </Modal>
      )}
    </div>
  );
}

interface SayProps extends StepActionsProps {
  action: (typeof ACTIONS)[number];
  onDone: () => void;
}

function Say({ horse, step, program, yard, action, onDone }: SayProps) {
  const { record, ...sending } = useRecord();
  const type = eventTypeOf(action.type);
  if (!type) return null;
  const { phase, dose } = step.standard;
  const isOffered = (name: string): boolean =>
    name !== "step" && !(name === "phase" && phase === null) && !(name === "dose" && dose === null);
  const save = async (fields: Record<string, unknown>): Promise<void> => {
    if (await record({ horse, outing: null, body: bodyFrom(type, { ...fields, step: step.id }) })) onDone();
  };
  return (
    <div className="grid gap-4">
      <p className="text-sm">{type.says}</p>
      {action.note && <p className="text-sm text-faint">{action.note}</p>}
      {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
      <EntryForm
        type={{ ...type, fields: type.fields.filter(({ name }) => isOffered(name)) }}
        given={{ step: step.id }}
        program={program}
        yard={yard}
        button={action.button}
        isBusy={sending.isLoading}
        onSave={(fields) => void save(fields)}
      />
    </div>
  );
}
