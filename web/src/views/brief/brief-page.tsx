import type { HorseId } from "@still-pine/core/record";
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { BriefView } from "@still-pine/contract/http";
import { findStep, inDialect, isUnknown, nameIn } from "@still-pine/core/programs";
import { onTheCard, type CardLines } from "@still-pine/core/programs/on-the-card";
import { textsOf } from "@still-pine/core/programs/texts";
import { ProgramNotHere } from "../../entries/program-not-here";
import { useProgramFor } from "../../book/use-book";
import { useBriefQuery } from "../../api";
import { GEAR } from "../../parts/choice-words";
import { Field } from "../../parts/field";
import { LabelField } from "../../parts/label-field";
import { NoDataYet } from "../../parts/page-state";
import { Less, More } from "../../parts/stepper";
import { runningOutings } from "../../outbox/running";
import { beginOuting, ownProgram } from "../../pen/begin";
import type { KeptOuting } from "../../outbox/kept";
import { usePenSettings } from "../pen/pen-context";
import { dayNumbers, type Naming } from "./brief-words";
import { cardErrors, headOf, keepCard, openCard, type CardDraft } from "./card-draft";
import { Exercises } from "./exercises";
import { Fetching } from "./fetching";
import { LastTimeCard } from "./last-time-card";

/** The opening card: one screen before going in. */
export function BriefPage() {
  const { horse = "" } = useParams();
  const { data, error, refetch } = useBriefQuery(horse, { refetchOnMountOrArgChange: true });
  if (!data) return <NoDataYet what="the brief" error={error} retry={() => void refetch()} />;
  return <Card key={data.horse.id} view={data} />;
}

function Card({ view }: { view: BriefView }) {
  const programFor = useProgramFor();
  const { horse, yard, brief } = view;
  const navigate = useNavigate();
  const program = programFor(horse);
  const naming: Naming = { program, words: yard.words };
  const [card, setCard] = useState<CardDraft>(() => openCard(view));
  const [errors, setErrors] = useState<ReturnType<typeof cardErrors>>({});
  const [trouble, setTrouble] = useState<string | null>(null);
  const [settings, changeSettings] = usePenSettings();
  const running = useRunning(horse.id);
  // What the school puts on the card hangs on its steps alone, not on what is typed.
  const today = card.exercises.map(({ step }) => step).join(" ");
  const lines = useMemo(() => onTheCard(program, today.split(" ")), [program, today]);
  useEffect(() => keepCard(horse.id, card), [horse.id, card]);
  const change = (part: Partial<CardDraft>): void => setCard((now) => ({ ...now, ...part }));

  const goIn = async (): Promise<void> => {
    const found = cardErrors(card, brief);
    setErrors(found);
    const [first] = Object.keys(found);
    if (first) {
      document.getElementById(first)?.focus();
      return;
    }
    try {
      const outing = await beginOuting(
        {
          horse: horse.id,
          horseName: horse.name,
          program: horse.program,
          ...ownProgram(yard, horse.program),
          exercises: card.exercises.map(({ isCold: _cold, ...exercise }) => exercise),
          known: card.exercises.filter(({ isCold }) => isCold).map(({ step }) => step),
          upTo: brief.upTo,
          shut: brief.shut,
          caps: card.caps,
          timeZone: yard.timeZone,
          words: yard.words,
        },
        headOf(card),
      );
      keepCard(horse.id, null);
      void navigate(`/pen/${encodeURIComponent(outing.id)}`);
    } catch {
      setTrouble("This device has no room for another outing. Free some, or write it up afterwards on another one.");
    }
  };

  return (
    <div className="mx-auto max-w-5xl">
      <title>{`${horse.name}, before going in · Still Pine`}</title>
      <p>
        <Link className="link" to={`/horses/${encodeURIComponent(horse.id)}`}>
          {horse.name}
        </Link>
      </p>
      <h1 className="mb-4 text-3xl">{dayNumbers(brief)}</h1>
      {isUnknown(program) && <ProgramNotHere horse={horse} />}
      {running && (
        <p role="status" className="mb-4 rounded-xl border-2 border-resin bg-sheet p-4">
          An outing with {horse.name} runs on this device already.{" "}
          <Link className="link font-bold" to={`/pen/${encodeURIComponent(running.id)}`}>
            Go on with it
          </Link>
          . Two at once would each hold half of it.
        </p>
      )}
      {!settings.phoneRuleRead && (
        <section aria-label="The phone" className="mb-4 rounded-xl border-2 border-clay bg-sheet p-4">
          <p>
            <b>The phone is never in the rope hand, and never out with a worried horse or mounted.</b> There are three
            other ways: a remote or numeric pad in the free hand, a helper at the rail, or the write-up afterwards.
          </p>
          <button type="button" className="button mt-2" onClick={() => changeSettings({ phoneRuleRead: true })}>
            Understood
          </button>
        </section>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <div className="contents gap-4 lg:grid">
          <LastTimeCard brief={brief} naming={naming} today={yard.today} />
          <Cautions card={card} lines={lines} naming={naming} />
          <HowItAsks lines={lines} naming={naming} />
        </div>
        <div className="contents gap-4 *:order-1 lg:grid">
          <Exercises card={card} brief={brief} gate={horse.gate?.gate ?? null} naming={naming} onChange={setCard} />
          <Minutes card={card} brief={brief} error={errors.capReason} onChange={change} />
          <section aria-label="Where and who" className="card grid grid-cols-2 gap-x-3 gap-y-1">
            <LabelField
              id="place"
              label="Place"
              value={card.place}
              known={yard.places}
              error={errors.place}
              onChange={(place) => change({ place })}
            />
            <LabelField
              id="handler"
              label="Handler"
              value={card.handler}
              known={yard.people}
              error={errors.handler}
              onChange={(handler) => change({ handler })}
            />
            <LabelField
              id="helper"
              label="Helper"
              value={card.helper}
              known={yard.people}
              onChange={(helper) => change({ helper })}
            />
            <Gear card={card} lines={lines} naming={naming} onChange={change} />
          </section>
          <Fetching card={card} onChange={change} />
        </div>
      </div>
      <div className="sticky bottom-0 -mx-4 mt-4 border-t border-line bg-paper/95 px-4 py-3">
        {trouble && (
          <p role="alert" className="mb-2 font-semibold text-clay">
            {trouble}
          </p>
        )}
        {Object.keys(errors).length > 0 && (
          <p role="alert" className="mb-2 font-semibold text-clay">
            {Object.values(errors).join(" ")}
          </p>
        )}
        {running ? (
          <Link className="button button-main min-h-16 w-full text-xl" to={`/pen/${encodeURIComponent(running.id)}`}>
            Go on with the running outing
          </Link>
        ) : (
          <button type="button" className="button button-main min-h-16 w-full text-xl" onClick={() => void goIn()}>
            Into the pen
          </button>
        )}
      </div>
    </div>
  );
}

/** An outing with this horse that runs on this device. */
function useRunning(horse: HorseId): KeptOuting | null {
  const [running, setRunning] = useState<KeptOuting | null>(null);
  useEffect(() => {
    void runningOutings().then((all) => setRunning(all.find((one) => one.horse === horse) ?? null));
  }, [horse]);
  return running;
}

/** Gear of today's steps, to be ticked as it is laid ready; the rope's length stands with it. */
function Gear({
  card,
  lines,
  naming,
  onChange,
}: {
  card: CardDraft;
  lines: CardLines;
  naming: Naming;
  onChange: (part: Partial<CardDraft>) => void;
}) {
  const steps = card.exercises.map(({ step }) => step);
  const ofSteps = steps.flatMap((step) => textsOf(step)?.gear ?? []);
  const wanted = [...new Set([...lines.gear, ...ofSteps])];
  const offered = [...new Set([...wanted, ...card.gear])];
  const people = Math.max(1, ...card.exercises.map(({ step }) => findStep(naming.program, step)?.people ?? 1));
  const toggle = (item: string): void =>
    onChange({ gear: card.gear.includes(item) ? card.gear.filter((one) => one !== item) : [...card.gear, item] });
  return (
    <div className="col-span-2">
      <p className="mb-1 font-semibold">
        Gear laid ready{people > 1 && <span className="font-normal"> · today takes {people} people</span>}
      </p>
      <div className="flex flex-wrap gap-2">
        {offered.map((item) => (
          <button
            key={item}
            type="button"
            aria-pressed={card.gear.includes(item)}
            className="chip aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
            onClick={() => toggle(item)}
          >
            {inDialect(item, naming.words)}
          </button>
        ))}
        <label className="sr-only" htmlFor="more-gear">
          More gear
        </label>
        <input
          id="more-gear"
          list="gear-known"
          placeholder="more …"
          maxLength={60}
          className="field w-32"
          onChange={(event) => {
            if (!GEAR.includes(event.target.value)) return;
            toggle(event.target.value);
            event.target.value = "";
          }}
          onKeyDown={(event) => {
            const item = event.currentTarget.value.trim();
            if (event.key !== "Enter" || !item) return;
            toggle(item);
            event.currentTarget.value = "";
          }}
        />
        <datalist id="gear-known">
          {GEAR.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      </div>
    </div>
  );
}

interface MinutesProps {
  card: CardDraft;
  brief: BriefView["brief"];
  error: string | undefined;
  onChange: (part: Partial<CardDraft>) => void;
}

const STEP_MINUTES = 5;

function Minutes({ card, brief, error, onChange }: MinutesProps) {
  const { caps } = card;
  const isOther = caps.workingMinutes !== brief.caps.workingMinutes || caps.inHandMinutes !== brief.caps.inHandMinutes;
  const set = (name: keyof typeof caps, by: number): void =>
    onChange({ caps: { ...caps, [name]: Math.min(600, Math.max(STEP_MINUTES, caps[name] + by)) } });
  return (
    <section aria-label="Minutes" className="card">
      <h2 className="mb-1 text-xl">Minutes at most</h2>
      <p className="mb-2 text-sm text-faint">
        Proposed for {brief.caps.name}; Still Pine's own judgement. Standing tied or wearing a saddle counts apart.{" "}
        {brief.caps.earlier &&
          `He was out earlier today: ${brief.caps.earlier.inHand} min in hand, ${brief.caps.earlier.working} with the feet working. This is what is left of the day. `}
        {brief.caps.look && `Have ${brief.caps.look} looked at.`}
      </p>
      {(
        [
          ["workingMinutes", "with the feet working"],
          ["inHandMinutes", "in hand altogether"],
        ] as const
      ).map(([name, words]) => (
        <div key={name} className="mb-1 flex items-center gap-2">
          <Less label={`${STEP_MINUTES} fewer minutes ${words}`} onClick={() => set(name, -STEP_MINUTES)} />
          <b className="w-10 text-center text-xl">{caps[name]}</b>
          <More label={`${STEP_MINUTES} more minutes ${words}`} onClick={() => set(name, STEP_MINUTES)} />
          {words}
        </div>
      ))}
      {isOther && (
        <Field id="capReason" label="Why other minutes" error={error}>
          <input
            id="capReason"
            className="field"
            maxLength={2000}
            value={card.capReason}
            aria-describedby="capReason-note"
            aria-invalid={error !== undefined}
            onChange={(event) => onChange({ capReason: event.target.value })}
          />
        </Field>
      )}
    </section>
  );
}

/** How this horse's program goes about it: where schools differ, on the card of the day. */
function HowItAsks({ lines, naming: { program } }: { lines: CardLines; naming: Naming }) {
  return (
    <section aria-label="How this program asks" className="card order-2">
      <h2 className="mb-1 text-xl">
        <Link className="link" to={`/programs/${encodeURIComponent(program.id)}`}>
          {program.name}
        </Link>
      </h2>
      <ul className="grid gap-1 text-[15px]">
        {lines.how.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </section>
  );
}

/** The cautions of just these steps, and those of every outing. */
function Cautions({ card, lines, naming }: { card: CardDraft; lines: CardLines; naming: Naming }) {
  const { program, words } = naming;
  const steps = card.exercises.flatMap(({ step }) => findStep(program, step) ?? []);
  return (
    <section aria-label="Cautions" className="card order-2">
      <h2 className="mb-1 text-xl">Mind</h2>
      <ul className="grid gap-2 text-[15px]">
        <li>
          At the shoulder and close, or well away; never in front of him or behind. No rope round a hand. A horse in
          panic is let go. Gloves, boots, helmet; a way out; no loose dogs.
        </li>
        {lines.mind.map((line) => (
          <li key={line}>{line}</li>
        ))}
        {steps.map((step) => {
          const caution = textsOf(step.id)?.caution;
          return (
            caution && (
              <li key={step.id}>
                <b>{nameIn(step, words)}.</b> {inDialect(caution, words)}
              </li>
            )
          );
        })}
        <li className="text-faint">
          Local law and licensed vets, dentists, farriers, saddle fitters and instructors come first.
        </li>
      </ul>
    </section>
  );
}
