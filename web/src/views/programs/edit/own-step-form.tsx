import { Plus } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import {
  ENDS,
  SIDE_KINDS,
  STAGES,
  STEP_MARKS,
  type Ends,
  type ProgramFile,
  type SideKind,
  type Stage,
  type StepFile,
  type StepMark,
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

/** What a person reads of a mark: the first words finish "In it …". */
const MARK_WORDS: Record<StepMark, string> = {
  weight: "the first weight comes onto his back",
  "onto-him": "somebody gets onto him",
  "first-ridden": "he is ridden for the first time",
  bridled: "he wears the bridle he is ridden in",
  "mount-place": "he stands where he is mounted",
  "lined-up": "he brings himself to where he is mounted",
  "canter-line": "he canters on the line",
  "canter-ridden": "he canters under a rider",
  "bit-carried": "he carries the bit",
  "bit-asks": "the bit asks something of him",
  led: "he is led",
  "long-reins": "he goes on long reins",
  girthed: "something comes about his girth",
  flexion: "he bends his neck to one side",
  "stop-bend": "he stops by a bend and a step over",
  "stop-line": "he halts on the line",
  "stop-reins": "he halts on long reins",
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
  const [marks, setMarks] = useState<StepMark[]>([]);
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
      ...(marks.length > 0 ? { marks } : {}),
    };
    onChange((now) => addOwnStep(now, step));
    setName("");
    setMarks([]);
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
            <details>
              <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine">
                What the rules have to know of it{marks.length > 0 ? `: ${marks.length} said` : ""}
              </summary>
              <p className="text-sm text-faint">Ages, weeks and what a gate asks for follow from these. In it …</p>
              <ul className="grid gap-x-4 sm:grid-cols-2">
                {STEP_MARKS.map((mark) => (
                  <li key={mark}>
                    <label className="flex min-h-11 items-center gap-2">
                      <input
                        type="checkbox"
                        className="size-5 shrink-0 accent-pine"
                        checked={marks.includes(mark)}
                        onChange={({ target }) =>
                          setMarks((now) => (target.checked ? [...now, mark] : now.filter((one) => one !== mark)))
                        }
                      />
                      {MARK_WORDS[mark]}
                    </label>
                  </li>
                ))}
              </ul>
            </details>
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
