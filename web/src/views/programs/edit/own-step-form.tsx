import { Plus } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import {
  ENDS,
  SIDE_KINDS,
  STAGES,
  type Ends,
  type ProgramFile,
  type SideKind,
  type Stage,
  type StepFile,
} from "@still-pine/core/programs";
import { STAGE_WORDS } from "@still-pine/core/readiness";
import { Modal } from "../../../parts/modal";
import { addOwnStep } from "./changes";

const SIDE_WORDS: Record<SideKind, string> = {
  handler: "the side the handler is on",
  bend: "the way he bends",
  travel: "the way he travels",
  leg: "each leg",
  none: "none",
};
const ENDS_SHORT: Record<Ends, string> = {
  move: "the feet move",
  stop: "the feet stop",
  give: "he gives",
  look: "he looks",
};

interface OwnStepFormProps {
  onChange: (next: (file: ProgramFile) => ProgramFile) => void;
}

/** A step that the catalogue does not have. */
export function OwnStepForm({ onChange }: OwnStepFormProps) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [stage, setStage] = useState<Stage>("halter");
  const [side, setSide] = useState<SideKind>("handler");
  const [ends, setEnds] = useState<Ends>("give");
  const add = (): void => {
    const step: StepFile = {
      id: `own-${newId()}`,
      name: name.trim(),
      stage,
      side,
      ends,
      phase: 1,
      mood: 1,
      needs: [],
      end: true,
    };
    onChange((now) => addOwnStep(now, step));
    setName("");
    setOpen(false);
  };
  return (
    <>
      <button type="button" className="button" onClick={() => setOpen(true)}>
        <Plus size={18} aria-hidden="true" /> A step of your own
      </button>
      {open && (
        <Modal open onOpenChange={setOpen} title="A step of your own">
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (name.trim()) add();
            }}
          >
            <label className="grid gap-1">
              What it is called
              <input
                className="field"
                required
                maxLength={120}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            </label>
            <label className="grid gap-1">
              Stage
              <select className="field" value={stage} onChange={(event) => setStage(event.target.value as Stage)}>
                {STAGES.map((one) => (
                  <option key={one} value={one}>
                    {STAGE_WORDS[one]}
                  </option>
                ))}
              </select>
            </label>
            <label className="grid gap-1">
              Its sides
              <select className="field" value={side} onChange={(event) => setSide(event.target.value as SideKind)}>
                {SIDE_KINDS.map((one) => (
                  <option key={one} value={one}>
                    {SIDE_WORDS[one]}
                  </option>
                ))}
              </select>
            </label>
            <label className="grid gap-1">
              The pressure ends when
              <select className="field" value={ends} onChange={(event) => setEnds(event.target.value as Ends)}>
                {ENDS.map((one) => (
                  <option key={one} value={one}>
                    {ENDS_SHORT[one]}
                  </option>
                ))}
              </select>
            </label>
            <p className="text-sm text-faint">
              It comes to the end of the road and rests on nothing yet. A step in which somebody sits on him has to rest
              on the first ride's gate.
            </p>
            <button type="submit" className="button button-main">
              Put it on the road
            </button>
          </form>
        </Modal>
      )}
    </>
  );
}
