import { Plus, X } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { TroubleFields } from "@still-pine/contract/http";
import { nameIn, type Dialect, type Program } from "@still-pine/core/programs";
import { stepName } from "@still-pine/core/readiness";
import { usePutTroubleMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { Modal } from "../../parts/modal";

type Who = TroubleFields["body"][number]["who"];
const WHO: readonly Who[] = ["vet", "dentist", "farrier", "saddle fitter", "you"];

/** A trouble the table does not have: what is seen, the body first, and the steps that lie under it. */
export function AddTrouble({
  program,
  words,
  onAdded,
}: {
  program: Program;
  words: Dialect;
  onAdded: (id: string) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="button mt-2 w-full" onClick={() => setOpen(true)}>
        <Plus size={18} aria-hidden="true" /> Another trouble
      </button>
      {open && (
        <Modal open onOpenChange={setOpen} title="Another trouble">
          <Form
            program={program}
            words={words}
            onAdded={(id) => {
              setOpen(false);
              onAdded(id);
            }}
          />
        </Modal>
      )}
    </>
  );
}

function Form({ program, words, onAdded }: { program: Program; words: Dialect; onAdded: (id: string) => void }) {
  const [name, setName] = useState("");
  const [seen, setSeen] = useState("");
  const [look, setLook] = useState("");
  const [who, setWho] = useState<Who>("vet");
  const [steps, setSteps] = useState<TroubleFields["steps"]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [put, putting] = usePutTroubleMutation();
  const [id] = useState(() => newId());
  const add = async (): Promise<void> => {
    const lacking = !name.trim()
      ? "Say what is seen."
      : !look.trim()
        ? "Say what of his body is to be looked at: it comes first."
        : steps.length === 0
          ? "Choose at least one step that lies under it."
          : steps.some(({ why }) => !why.trim())
            ? "Say of each step why it belongs there."
            : null;
    if (lacking) {
      setTrouble(lacking);
      return;
    }
    const fields: TroubleFields = {
      name: name.trim(),
      seen: seen
        .split(",")
        .map((one) => one.trim())
        .filter(Boolean),
      body: [{ look: look.trim(), who }],
      steps: steps.map(({ step, why }) => ({ step, why: why.trim() })),
    };
    const result = await put({ id, version: 0, fields });
    if (result.error) setTrouble(problemOf(result.error).detail);
    else onAdded(id);
  };
  return (
    <div className="grid gap-3">
      <label className="grid gap-1">
        What is seen
        <input className="field" maxLength={120} value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <label className="grid gap-1">
        In other words, with commas between
        <input className="field" maxLength={600} value={seen} onChange={(event) => setSeen(event.target.value)} />
      </label>
      <div className="grid grid-cols-[1fr_auto] gap-2">
        <label className="grid gap-1">
          The body first: what to look at
          <input className="field" maxLength={300} value={look} onChange={(event) => setLook(event.target.value)} />
        </label>
        <label className="grid gap-1">
          By
          <select className="field w-36" value={who} onChange={(event) => setWho(event.target.value as Who)}>
            {WHO.map((one) => (
              <option key={one} value={one}>
                {one}
              </option>
            ))}
          </select>
        </label>
      </div>
      <fieldset className="grid gap-2">
        <legend className="mb-1">Steps under it, and why each belongs there</legend>
        {steps.map(({ step, why }, index) => (
          <div key={step} className="grid grid-cols-[1fr_auto] items-end gap-2">
            <label className="grid gap-1 text-sm">
              {stepName(program, step, words)}
              <input
                className="field"
                maxLength={300}
                value={why}
                onChange={(event) =>
                  setSteps(steps.map((one, at) => (at === index ? { ...one, why: event.target.value } : one)))
                }
              />
            </label>
            <button
              type="button"
              className="button w-11 px-0"
              aria-label={`Without ${stepName(program, step, words)}`}
              onClick={() => setSteps(steps.filter((one) => one.step !== step))}
            >
              <X size={18} aria-hidden="true" />
            </button>
          </div>
        ))}
        <select
          className="field"
          aria-label="A step under it"
          value=""
          onChange={(event) => setSteps([...steps, { step: event.target.value, why: "" }])}
        >
          <option value="">A step under it …</option>
          {program.steps
            .filter(({ id: step }) => !steps.some((one) => one.step === step))
            .map((step) => (
              <option key={step.id} value={step.id}>
                {nameIn(step, words)}
              </option>
            ))}
        </select>
      </fieldset>
      {trouble && (
        <p role="alert" className="font-semibold text-clay">
          {trouble}
        </p>
      )}
      <button type="button" className="button button-main" disabled={putting.isLoading} onClick={() => void add()}>
        Put it in the table
      </button>
    </div>
  );
}
