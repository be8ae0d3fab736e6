import { clsx } from "clsx";
import { Popover } from "radix-ui";
import { Link } from "react-router";
import type { HorseView } from "@still-pine/contract/http";
import { nameIn, STAGES, type Dialect, type Gate, type Program, type Step } from "@still-pine/core/programs";
import { STAGE_WORDS, stepName, type GateJudgement } from "@still-pine/core/readiness";
import { Hoofprint, StatusMark } from "../../marks/hoofprint";
import { printOf } from "../../marks/prints";

/** Reasons of steps where work is now, beside those that could only be begun. */
const WORKED: ReadonlySet<string> = new Set(["slipped", "gate", "longest"]);

/** A horse's road as far as so many stages: every step as a print, stage by stage, the gates standing across it, and the edge where work is now. */
export function Road({ view, program, stages }: { view: HorseView; program: Program; stages: number }) {
  const { horse, yard, next, judgements } = view;
  const edge = new Set(next.work.filter(({ reason }) => WORKED.has(reason)).map(({ step }) => step));
  const held = new Set(judgements.filter((one) => one.held).map(({ step }) => step));
  const standing = gatesBefore(program);
  return (
    <section aria-label="The road" className="card px-3 py-2">
      <ol className="flex flex-wrap gap-x-5 gap-y-1">
        {STAGES.slice(0, stages).map((stage) => {
          const steps = program.steps.filter(
            (step) =>
              step.stage === stage &&
              (!program.optional.includes(step.id) || horse.trail.some((print) => print.step === step.id)),
          );
          if (steps.length === 0) return null;
          return (
            <li key={stage} id={stage} className="scroll-mt-24 target:bg-moss">
              <h2 className="font-sans text-xs font-semibold text-faint">{STAGE_WORDS[stage]}</h2>
              <ol className="flex flex-wrap items-center">
                {steps.flatMap((step, index) => [
                  ...(standing.get(step.id) ?? []).map((gate) => (
                    <li key={gate.id}>
                      <GateMark gate={gate} view={view} program={program} />
                    </li>
                  )),
                  <li key={step.id} className={index % 2 ? "pt-1.5" : "pb-1.5"}>
                    <Print
                      step={step}
                      horse={horse}
                      words={yard.words}
                      isEdge={edge.has(step.id)}
                      isHeld={held.has(step.id)}
                    />
                  </li>,
                ])}
              </ol>
            </li>
          );
        })}
      </ol>
      <p className="mt-1 text-xs text-faint">
        Outlined in green: where work is now. A gate shows how much of what it asks for is steady; body, care and the
        day itself come on top.
      </p>
    </section>
  );
}

interface PrintProps {
  step: Step;
  horse: HorseView["horse"];
  words: Dialect;
  isEdge: boolean;
  isHeld: boolean;
}

function Print({ step, horse, words, isEdge, isHeld }: PrintProps) {
  const name = nameIn(step, words);
  const print = printOf(horse.trail, step);
  return (
    <Link
      to={`/horses/${encodeURIComponent(horse.id)}/steps/${step.id}`}
      // A hundred stops would bar the keyboard's way; untried steps are in the table below and on the map too.
      tabIndex={print.status === "untried" && !isEdge ? -1 : undefined}
      className={clsx("block rounded-md p-0.5", isEdge && "ring-2 ring-pine")}
      title={`${name}${isEdge ? ", work is here" : ""}`}
    >
      <Hoofprint
        print={isHeld ? { ...print, held: true } : print}
        name={isEdge ? `${name}, work is here` : name}
        size={24}
      />
    </Link>
  );
}

/** Gates by the step they stand before: the first of the road that they guard, or after the last they ask for. */
function gatesBefore(program: Program): Map<string, Gate[]> {
  const before = new Map<string, Gate[]>();
  const order = program.steps.map(({ id }) => id);
  for (const gate of program.gates) {
    const guarded = order.find((id) => gate.before.includes(id) && !program.optional.includes(id)) ?? gate.before[0];
    const asked = gate.needs.at(-1)?.anyOf[0]?.[0]?.step;
    const at = guarded ?? order[order.indexOf(asked ?? "") + 1];
    if (at !== undefined) before.set(at, [...(before.get(at) ?? []), gate]);
  }
  return before;
}

interface GateMarkProps {
  gate: Gate;
  view: HorseView;
  program: Program;
}

/** A gate across the road; pressed, it says what it asks for. */
function GateMark({ gate, view, program }: GateMarkProps) {
  const judged = view.gates.find((one) => one.gate === gate.id);
  if (!judged) return null;
  const { words } = view.yard;
  const have = judged.needs.filter(({ met }) => met).length;
  const name = nameIn(gate, words);
  const state = judged.behind ? "behind him" : `${have} of ${judged.needs.length} steady`;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="mx-1 flex min-h-9 cursor-pointer items-center gap-1 rounded-md border border-line px-1 text-xs hover:border-pine"
        aria-label={
          judged.behind ? `Gate: ${name}, ${state}` : `${have}/${judged.needs.length} Gate: ${name}, ${state}`
        }
        title={`${name}: ${state}`}
      >
        <GateDrawing isBehind={judged.behind} isMet={judged.met} />
        {!judged.behind && (
          <b>
            {have}/{judged.needs.length}
          </b>
        )}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-10 w-72 rounded-xl border border-line bg-sheet p-3 text-sm shadow-lg"
        >
          <h3 className="font-serif text-lg">{name}</h3>
          <p className="mb-1 text-faint">{state}</p>
          <GateNeeds judged={judged} view={view} program={program} />
          {!judged.behind && (
            <p className="mt-2 text-xs text-faint">
              Steps alone open no gate: body, care, helper and the horse's state on the day are asked besides.
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function GateNeeds({
  judged,
  view: { horse, yard },
  program,
}: {
  judged: GateJudgement;
  view: HorseView;
  program: Program;
}) {
  return (
    <ul>
      {judged.needs.map((need) => (
        <li key={need.anyOf.join()} className="flex items-baseline gap-1.5">
          <StatusMark status={need.status} />
          <span>
            {need.anyOf.map((way, index) => (
              <span key={way}>
                {index > 0 && " or "}
                <Link className="link" to={`/horses/${encodeURIComponent(horse.id)}/steps/${way.split(" and ")[0]}`}>
                  {way
                    .split(" and ")
                    .map((step) => stepName(program, step, yard.words))
                    .join(" and ")}
                </Link>
              </span>
            ))}
            {need.status === "steady" && !need.met && " (not all of it shown)"}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** A field gate between two posts: shut, ready to be looked at, or swung open behind him. */
function GateDrawing({ isBehind, isMet }: { isBehind: boolean; isMet: boolean }) {
  return (
    <svg
      viewBox="0 0 24 22"
      width="21"
      height="19"
      aria-hidden="true"
      className={isBehind ? "text-faint" : isMet ? "text-pine" : "text-resin"}
    >
      <g fill="none" stroke="currentColor" strokeWidth="2" strokeLinecap="round">
        <path d="M2 3V20M22 3V20" strokeWidth="2.6" />
        {isBehind ? <path d="M2 7 8 5M2 12 8 10M2 17 8 15M8 5V15" /> : <path d="M2 7H22M2 12H22M2 17H22M3 17 21 7" />}
      </g>
    </svg>
  );
}
