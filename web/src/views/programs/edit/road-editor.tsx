import type { StepId } from "@still-pine/core/record";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { clsx } from "clsx";
import { GripVertical, X } from "lucide-react";
import { nameIn, type Dialect, type Program, type ProgramFile, type Step } from "@still-pine/core/programs";
import { STAGE_WORDS, stepName } from "@still-pine/core/readiness";
import { needInWords } from "../../../parts/need-words";
import { addStep, dropStep, moveStep, offRoad } from "./changes";
import { OwnStepForm } from "./own-step-form";
import { StepEditor } from "./step-editor";

interface RoadEditorProps {
  file: ProgramFile;
  program: Program;
  words: Dialect;
  chosen: string | null;
  onChoose: (step: StepId | null) => void;
  onChange: (next: (file: ProgramFile) => ProgramFile) => void;
}

/** The road as a list that is re-ordered by mouse or by keyboard; one step at a time is opened and changed. */
export function RoadEditor(props: RoadEditorProps) {
  const { file, program, words, onChange } = props;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = program.steps.map(({ id }) => id);
  const end = ({ active, over }: DragEndEvent): void => {
    if (over && active.id !== over.id) onChange((now) => moveStep(now, String(active.id), String(over.id)));
  };
  const named = (id: UniqueIdentifier): string => stepName(program, String(id), words);
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${named(active.id)} is taken up.`,
    onDragOver: ({ active, over }) =>
      over && over.id !== active.id ? `${named(active.id)} goes to the place of ${named(over.id)}.` : undefined,
    onDragEnd: ({ active }) => `${named(active.id)} is put down.`,
    onDragCancel: ({ active }) => `${named(active.id)} stays where it was.`,
  };
  return (
    <section aria-label="The road">
      <h2 className="mb-1 text-xl">The road, {program.steps.length} steps</h2>
      <p className="mb-2 text-sm text-faint">
        Drag by the handle, or with the keyboard: Space takes a step up, the arrows move it, Space puts it down.
      </p>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={{ announcements }}
        onDragEnd={end}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className="overflow-hidden rounded-xl border border-line bg-sheet">
            {program.steps.map((step) => (
              <Row key={step.id} {...props} step={step} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <div className="mt-3 flex flex-wrap gap-2">
        <select
          aria-label="Another step of the catalogue"
          className="field w-auto"
          value=""
          onChange={(event) => onChange((now) => addStep(now, event.target.value))}
        >
          <option value="">Another step of the catalogue …</option>
          {offRoad(file).map((step) => (
            <option key={step.id} value={step.id}>
              {nameIn(step, words)}
            </option>
          ))}
        </select>
        <OwnStepForm onChange={onChange} />
      </div>
    </section>
  );
}

function Row({ step, file, program, words, chosen, onChoose, onChange }: RoadEditorProps & { step: Step }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: step.id });
  const name = nameIn(step, words);
  const isOpen = chosen === step.id;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={clsx(
        "border-b border-line/60 bg-sheet last:border-b-0",
        isDragging && "relative z-10 border-2 border-pine",
      )}
    >
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-label={`Move ${name}`}
          className="flex size-11 shrink-0 cursor-grab touch-none items-center justify-center text-faint"
          {...attributes}
          {...listeners}
        >
          <GripVertical size={18} aria-hidden="true" />
        </button>
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={() => onChoose(isOpen ? null : step.id)}
          className="flex min-h-11 min-w-0 flex-1 cursor-pointer flex-wrap content-center items-baseline gap-x-3 py-1 text-left hover:underline"
        >
          <b>{name}</b>
          <span className="text-sm text-faint">
            {STAGE_WORDS[step.stage]}
            {program.optional.includes(step.id) && " · beside the road"}
            {step.needs.length > 0 && ` · on ${step.needs.map((need) => needInWords(need, program, words)).join(", ")}`}
          </span>
        </button>
        <button
          type="button"
          aria-label={`Take ${name} from the road`}
          className="flex size-11 shrink-0 cursor-pointer items-center justify-center hover:text-clay"
          onClick={() => onChange((now) => dropStep(now, step.id))}
        >
          <X size={18} aria-hidden="true" />
        </button>
      </div>
      {isOpen && <StepEditor step={step} file={file} program={program} words={words} onChange={onChange} />}
    </li>
  );
}
