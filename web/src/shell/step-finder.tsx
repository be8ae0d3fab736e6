import type { HorseId } from "@still-pine/core/record";
import { Command } from "cmdk";
import { useNavigate } from "react-router";
import { loosePenStart, nameIn, type Dialect } from "@still-pine/core/programs";
import { textsOf } from "@still-pine/core/programs/texts";
import { STAGE_WORDS } from "@still-pine/core/readiness/words";
import { useProgramFor } from "../book/use-book";
import { useStringQuery } from "../api";
import { StatusMark } from "../marks/hoofprint";
import { printOf } from "../marks/prints";
import { Modal } from "../parts/modal";
import { rankStep } from "./rank-step";

interface StepFinderProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  /** The horse one is with; without one a step opens for the horse chosen then. */
  horse: HorseId | undefined;
}

/** Finds any step by its name or by any word the trade has for it, from anywhere; and horses by their names. */
export function StepFinder({ open, onOpenChange, horse: id }: StepFinderProps) {
  const programFor = useProgramFor();
  const navigate = useNavigate();
  const { data } = useStringQuery();
  const horse = data?.horses.find((one) => one.id === id) ?? data?.horses.find((one) => one.inWork);
  const words: Dialect = data?.yard.words ?? "american";
  const program = horse ? programFor(horse) : loosePenStart;
  const go = (to: string): void => {
    onOpenChange(false);
    void navigate(to);
  };
  return (
    <Modal open={open} onOpenChange={onOpenChange} title={`Find a step${horse ? ` for ${horse.name}` : ""}`} atTop>
      <Command label="Find a step" filter={(value, search, keywords) => rankStep(value, search, keywords)}>
        <Command.Input className="field" placeholder="a step, or any word for it" autoFocus />
        <Command.List className="mt-2 max-h-[60dvh] overflow-y-auto">
          <Command.Empty className="p-3 text-faint">No step goes by that word here.</Command.Empty>
          <Command.Group
            heading="Steps"
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-faint"
          >
            {program.steps.map((step) => (
              <Command.Item
                key={step.id}
                value={nameIn(step, words)}
                keywords={[step.name, step.id, ...(textsOf(step.id, program.catalogue)?.synonyms ?? [])]}
                className="flex min-h-11 cursor-pointer items-center gap-2 rounded-lg px-2 data-[selected=true]:bg-moss"
                onSelect={() => horse && go(`/horses/${encodeURIComponent(horse.id)}/steps/${step.id}`)}
              >
                {horse && <StatusMark status={printOf(horse.trail, step).status} />}
                <b>{nameIn(step, words)}</b>
                <span className="ml-auto truncate text-xs text-faint">
                  {textsOf(step.id, program.catalogue)?.synonyms.slice(0, 3).join(", ")} · {STAGE_WORDS[step.stage]}
                </span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group
            heading="Horses"
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-faint"
          >
            {data?.horses.map((one) => (
              <Command.Item
                key={one.id}
                value={`${one.name} ${one.id}`}
                keywords={[one.name]}
                className="flex min-h-11 cursor-pointer items-center gap-2 rounded-lg px-2 data-[selected=true]:bg-moss"
                onSelect={() => go(`/horses/${encodeURIComponent(one.id)}`)}
              >
                <span className="font-serif">{one.name}</span>
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Modal>
  );
}
