import type { EventBody, StepId } from "@still-pine/core/record";
import { Route } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { StringHorse, UnderView } from "@still-pine/contract/http";
import { type Dialect, type Program } from "@still-pine/core/programs";
import { STATUS_WORDS, stepName } from "@still-pine/core/readiness";
import { useBook } from "../../book/use-book";
import { problemOf } from "../../parts/problem";
import { WhatBecame } from "./what-became";
import { Modal } from "../../parts/modal";
import { useRecord } from "../../writing/use-record";
import { ProblemNote } from "../../parts/page-state";

type Move = UnderView["programs"][number]["move"];

interface MoveHorseProps {
  horse: StringHorse;
  program: Program;
  move: Move;
  /** Steps he holds now; they need not be waited for there. */
  held: readonly string[];
  words: Dialect;
}

/** What a move to a program would count, miss and add, shown before; then the move itself, kept as an entry of the horse. */
export function MoveHorse(props: MoveHorseProps) {
  const [open, setOpen] = useState(false);
  const { horse, program } = props;
  return (
    <>
      <button type="button" className="button mt-auto" onClick={() => setOpen(true)}>
        <Route size={18} aria-hidden="true" />{" "}
        {isNewVersion(props) ? `Take this version for ${horse.name} …` : `Move ${horse.name} to it …`}
      </button>
      {open && (
        <Modal
          open
          onOpenChange={setOpen}
          title={`${horse.name} to ${program.name}${isNewVersion(props) ? `, version ${program.version}` : ""}`}
        >
          <Ask {...props} />
        </Modal>
      )}
    </>
  );
}

/** Whether he goes by this program already, in a former version. */
const isNewVersion = ({ horse, program }: MoveHorseProps): boolean => horse.program.id === program.id;

function Ask(props: MoveHorseProps) {
  const { horse, program, move, held, words } = props;
  const book = useBook();
  const { record, ...sending } = useRecord();
  const [reason, setReason] = useState("");
  const navigate = useNavigate();
  const former = book.goneBy(horse.program);
  const name = (step: StepId): string => stepName(program, step, words);
  const names = (steps: readonly string[]): string => steps.map(name).join(", ");
  const go = async (): Promise<void> => {
    const body: EventBody = {
      type: "program",
      program: program.id,
      programVersion: program.version,
      ...(reason.trim() ? { reason: reason.trim() } : {}),
      ...(held.length > 0 ? { counted: held } : {}),
      ...(move.gaps.length > 0 ? { gaps: move.gaps.map(({ step }) => step) } : {}),
      ...(move.fresh.length > 0 ? { fresh: move.fresh } : {}),
    };
    if (await record({ horse: horse.id, outing: null, body })) void navigate(`/horses/${encodeURIComponent(horse.id)}`);
  };
  return (
    <div className="grid gap-3">
      <p>
        Everything he has shown goes with him and is read anew. Nothing is lost, and{" "}
        {isNewVersion(props)
          ? "who strikes this entry out on the horse's page puts him back on the former version."
          : "he may move back."}
      </p>
      <dl className="grid gap-2">
        <WhatBecame from={former} to={program} words={words} />
        <Line title={`Counts there: ${move.counts.length}`} text={names(move.counts)} />
        <Line
          title={`Asks for more there: ${move.asksMore.length}`}
          text={move.asksMore
            .map(({ step, status }) => `${name(step)} (${STATUS_WORDS[status].toLowerCase()})`)
            .join(", ")}
        />
        <Line
          title={`A gap now, under what he does: ${move.gaps.length}`}
          text={move.gaps.map(({ step, status }) => `${name(step)} (${STATUS_WORDS[status].toLowerCase()})`).join(", ")}
        />
        <Line title={`New on that road: ${move.fresh.length}`} text={names(move.fresh)} />
        <Line
          title={`Left behind, kept in his record: ${move.leaves.length}`}
          text={move.leaves.map((step) => stepName(former, step, words)).join(", ")}
        />
      </dl>
      <label className="grid gap-1">
        Why (may stay empty)
        <input className="field" maxLength={2000} value={reason} onChange={(event) => setReason(event.target.value)} />
      </label>
      {sending.error && <ProblemNote problem={problemOf(sending.error)} />}
      <button type="button" className="button button-main" disabled={sending.isLoading} onClick={() => void go()}>
        {isNewVersion(props) ? `Take it for ${horse.name}` : `Move ${horse.name} to ${program.name}`}
      </button>
    </div>
  );
}

function Line({ title, text }: { title: string; text: string }) {
  return (
    <div>
      <dt className="font-bold">{title}</dt>
      {text && <dd className="max-h-28 overflow-y-auto text-sm text-faint">{text}</dd>}
    </div>
  );
}
