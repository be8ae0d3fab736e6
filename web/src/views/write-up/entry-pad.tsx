import { Tabs } from "radix-ui";
import { useState } from "react";
import type { BriefView, PrintView, StringHorse, YardView } from "@still-pine/contract/http";
import {
  bodyFrom,
  SIGNS_OF_EASE,
  SIGNS_OF_STRAIN,
  type Answer,
  type EventBody,
  type Sign,
  eventTypeOf,
  type EventType,
  type StepId,
} from "@still-pine/core/record";
import {
  inDialect,
  nameIn,
  phaseWordsOf,
  sidesOf,
  STAGES,
  type Dialect,
  type Program,
  type SideKey,
  type Step,
  sideFields,
} from "@still-pine/core/programs";
import { textsOf } from "@still-pine/core/programs/texts";
import { sideInWords, STAGE_WORDS } from "@still-pine/core/readiness";
import { bodyOfPress } from "@still-pine/core/recording";
import { FeelSquare } from "../../marks/feel-square";
import { Hoofprint } from "../../marks/hoofprint";
import { printOf } from "../../marks/prints";
import { type Draft } from "../../writing/draft";
import { stepsForNow } from "./steps-for-now";
import { TypeChoice, typesOf } from "../../entries/add-entry";
import { EntryFields } from "../../entries/entry-fields";
import { EntryForm } from "../../entries/entry-form";
import { readForm, type FormErrors, type FormValues } from "../../entries/form-values";
import { AnswerChoice, HowChoice, SideChoice, type HowChanged } from "./choices";
import { FromThePlan } from "./from-the-plan";
import { MishapForm } from "./mishap-form";
import { SeriesForm } from "./series-form";

interface EntryPadProps {
  yard: YardView;
  draft: Draft;
  program: Program;
  horse: StringHorse | undefined;
  /** What was planned for this outing; null while it is asked for, undefined where nothing is known. */
  brief: BriefView["brief"] | null | undefined;
  onAdd: (entry: EventBody) => void;
  onNote: (text: string) => void;
}

const TABS = [
  ["plan", "Plan"],
  ["asks", "Asks"],
  ["series", "Series"],
  ["signs", "Signs"],
  ["note", "Note"],
  ["mishap", "Mishap"],
  ["more", "More"],
] as const;
/** Types that have a tab of their own. */
const TABBED = new Set(["ask", "series", "sign", "note", "mishap", "head"]);
/** What an ask can say beside its feel. */
const DETAILS = (eventTypeOf("ask")?.fields ?? []).filter(
  ({ name }) => !["step", "side", "phase", "answer", "mood", "rung", "setting", "fault"].includes(name),
);
/** How the asks of a step are put, which stays until it is changed, and what spoiled the next one; another step has nothing of it. */
interface LineOfStep extends HowChanged {
  step: StepId;
}
const TAB =
  "min-h-11 cursor-pointer rounded-t-lg border border-transparent px-1.5 text-sm font-semibold sm:px-4 sm:text-base data-[state=active]:border-line data-[state=active]:border-b-sheet data-[state=active]:bg-sheet";

/** Where entries are made: a step and a side, then one press an ask; series, signs, notes and mishaps beside it. */
export function EntryPad({ yard, draft, program, horse, brief, onAdd, onNote }: EntryPadProps) {
  const [chosenTab, setTab] = useState<string | null>(null);
  const [chosenStep, setStepId] = useState<string | null>(null);
  const stepId = chosenStep ?? stepsForNow(horse, program)[0]?.id ?? "";
  const [chosenSide, setSide] = useState<SideKey>("near");
  const [answer, setAnswer] = useState<Answer>("gave");
  const [line, setLine] = useState<LineOfStep>({ step: stepId });
  const [details, setDetails] = useState<FormValues>({});
  const [detailErrors, setDetailErrors] = useState<FormErrors>({});
  const step = program.steps.find((one) => one.id === stepId);
  if (!step) return null;
  const { rung, setting, fault }: HowChanged = line.step === stepId ? line : {};
  const how = { ...(rung ? { rung } : {}), ...(setting ? { setting } : {}) };
  const spoiled = fault ? { fault } : {};
  const putAs = (changed: HowChanged): void => setLine({ step: stepId, ...how, ...spoiled, ...changed });
  const sides = sidesOf(step);
  const side = sides.includes(chosenSide) ? chosenSide : (sides[0] ?? "none");

  return (
    <section aria-label="Entries">
      <Tabs.Root value={chosenTab ?? (brief === undefined ? "asks" : "plan")} onValueChange={setTab}>
        <Tabs.List aria-label="What to enter" className="-mb-px flex sm:gap-1">
          {TABS.filter(([value]) => value !== "plan" || brief !== undefined).map(([value, label]) => (
            <Tabs.Trigger key={value} value={value} className={TAB}>
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <div className="card rounded-tl-none">
          {brief !== undefined && (
            <Tabs.Content value="plan">
              {brief ? (
                <FromThePlan brief={brief} program={program} yard={yard} onAdd={onAdd} />
              ) : (
                <p role="status">Fetching the plan …</p>
              )}
            </Tabs.Content>
          )}
          <Tabs.Content value="asks" className="grid gap-4">
            <StepChoice program={program} horse={horse} words={yard.words} value={stepId} onChange={setStepId} />
            {side !== "none" && <SideChoice sides={sides} value={side} onChange={setSide} />}
            <AnswerChoice legend="Answer" value={answer} onChange={setAnswer} />
            <HowChoice step={step} words={yard.words} said={{ ...how, ...spoiled }} onChange={putAs} />
            <FeelSquare
              standard={step.standard}
              phaseWords={phaseWordsOf(program)}
              counts={countsOf(draft, stepId, side)}
              label={`Record an ask of ${nameIn(step, yard.words)}${side === "none" ? "" : `, ${sideInWords(side)}`}, ${answer}`}
              onPress={(feel) => {
                const more = readForm(DETAILS, details, yard);
                setDetailErrors(more.ok ? {} : more.errors);
                if (!more.ok) return;
                const ask = bodyOfPress(
                  { press: "ask", answer, ...feel, ...spoiled },
                  { step: stepId, side, more: how },
                  Date.now(),
                );
                onAdd(bodyFrom({ type: "ask" }, { ...ask, ...more.fields }));
                setAnswer("gave");
                putAs({ fault: null });
                setDetails({});
              }}
            />
            <details open={Object.keys(detailErrors).length > 0 || undefined}>
              <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine">
                More about the next ask: wait, dose, part, tool
              </summary>
              <EntryFields
                fields={DETAILS}
                values={{ ...details, step: stepId }}
                errors={detailErrors}
                program={program}
                yard={yard}
                onChange={(name, value) => setDetails((now) => ({ ...now, [name]: value }))}
              />
            </details>
            <p className="text-sm text-faint">{inDialect(textsOf(step.id)?.caution ?? "", yard.words)}</p>
          </Tabs.Content>
          <Tabs.Content value="series" className="grid gap-4">
            <StepChoice program={program} horse={horse} words={yard.words} value={stepId} onChange={setStepId} />
            {side !== "none" && <SideChoice sides={sides} value={side} onChange={setSide} />}
            <HowChoice step={step} words={yard.words} said={how} isOfOneAsk={false} onChange={putAs} />
            <SeriesForm key={stepId} step={step} side={side} how={how} program={program} onAdd={onAdd} />
          </Tabs.Content>
          <Tabs.Content value="signs" className="grid gap-4">
            <Signs title="Of ease" signs={SIGNS_OF_EASE} onAdd={onAdd} />
            <Signs title="Of strain" signs={SIGNS_OF_STRAIN} onAdd={onAdd} />
            <Signs title="Other" signs={["shut-down", "lick-chew"]} onAdd={onAdd} />
            <p className="text-sm text-faint">
              Shut down: does not look about, blink or chew, no interest in feed or company. That is rest, and a vet's
              eye.
            </p>
          </Tabs.Content>
          <Tabs.Content value="note" className="grid gap-3">
            <label htmlFor="note" className="font-semibold">
              Note
            </label>
            <textarea
              id="note"
              rows={4}
              maxLength={10_000}
              className="field py-2"
              value={draft.unsentNote}
              onChange={(event) => onNote(event.target.value)}
            />
            <button
              type="button"
              className="button"
              disabled={!draft.unsentNote.trim()}
              onClick={() => {
                onAdd({ type: "note", text: draft.unsentNote.trim() });
                onNote("");
              }}
            >
              Add the note
            </button>
          </Tabs.Content>
          <Tabs.Content value="mishap">
            <MishapForm onAdd={onAdd} />
          </Tabs.Content>
          <Tabs.Content value="more">
            <RareEntry program={program} yard={yard} onAdd={onAdd} />
          </Tabs.Content>
        </div>
      </Tabs.Root>
    </section>
  );
}

/** The kinds that are seldom written. */
function RareEntry({ program, yard, onAdd }: Pick<EntryPadProps, "program" | "yard" | "onAdd">) {
  const types = typesOf("outing").filter(({ type }) => !TABBED.has(type));
  const [type, setType] = useState<EventType | undefined>(types[0]);
  if (!type) return null;
  return (
    <div className="grid gap-4">
      <TypeChoice types={types} common={types.map((one) => one.type)} value={type} onChange={setType} />
      <p className="text-sm text-faint">{type.says}</p>
      <EntryForm
        key={type.type}
        type={type}
        program={program}
        yard={yard}
        button={`Add: ${type.name.toLowerCase()}`}
        onSave={(fields) => onAdd(bodyFrom(type, fields))}
      />
    </div>
  );
}

/** So far entered on this step and side, by cell of the feel square. */
function countsOf(draft: Draft, step: StepId, side: SideKey): Map<string, number> {
  const counts = new Map<string, number>();
  const wanted = sideFields(side);
  for (const entry of draft.entries) {
    if (entry.type !== "ask" || entry["step"] !== step || entry["side"] !== wanted.side) continue;
    if (wanted.part && entry["part"] !== wanted.part) continue;
    const mood = String(entry["mood"]);
    const key = entry["phase"] === undefined ? mood : `${String(entry["phase"])} ${mood}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return counts;
}

interface StepChoiceProps {
  program: Program;
  horse: StringHorse | undefined;
  words: Dialect;
  value: string;
  onChange: (step: StepId) => void;
}

/** The steps that make sense for this horse first, then all of them by stage. */
function StepChoice({ program, horse, words, value, onChange }: StepChoiceProps) {
  const first = stepsForNow(horse, program);
  const chosen = program.steps.find((step) => step.id === value);
  const shown = chosen && !first.includes(chosen) ? [chosen, ...first] : first;
  const radio = (step: Step) => (
    <StepRadio
      key={step.id}
      step={step}
      words={words}
      print={horse && printOf(horse.trail, step)}
      isChosen={value === step.id}
      onChange={() => onChange(step.id)}
    />
  );
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Step</legend>
      <div className="grid grid-cols-2 gap-1.5 sm:grid-cols-3 xl:grid-cols-4">{shown.map(radio)}</div>
      <details className="mt-2">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold text-pine">All steps</summary>
        {STAGES.map((stage) => (
          <div key={stage} className="mb-2">
            <p className="mb-1 text-sm text-faint">{STAGE_WORDS[stage]}</p>
            <div className="grid grid-cols-2 gap-1.5 sm:grid-cols-3 xl:grid-cols-4">
              {program.steps.filter((step) => step.stage === stage && !shown.includes(step)).map(radio)}
            </div>
          </div>
        ))}
      </details>
    </fieldset>
  );
}

interface StepRadioProps {
  step: Step;
  words: Dialect;
  print: PrintView | undefined;
  isChosen: boolean;
  onChange: () => void;
}

function StepRadio({ step, words, print, isChosen, onChange }: StepRadioProps) {
  const name = nameIn(step, words);
  return (
    <label className="chip rounded-lg px-2 text-sm leading-tight has-checked:border-pine has-checked:ring-2 has-checked:ring-pine has-focus-visible:outline-3 has-focus-visible:outline-pine">
      <input type="radio" name="step" className="sr-only" checked={isChosen} onChange={onChange} />
      {print && (
        <span aria-hidden="true">
          <Hoofprint print={print} name={name} size={20} />
        </span>
      )}
      {name}
    </label>
  );
}

function Signs({ title, signs, onAdd }: { title: string; signs: readonly Sign[]; onAdd: (entry: EventBody) => void }) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{title}</legend>
      <div className="flex flex-wrap gap-2">
        {signs.map((sign) => (
          <button key={sign} type="button" className="chip" onClick={() => onAdd({ type: "sign", sign })}>
            {sign.replaceAll("-", " ")}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
