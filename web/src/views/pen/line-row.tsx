import { clsx } from "clsx";
import { ChevronDown, ChevronUp, Timer, type LucideIcon } from "lucide-react";
import { useState } from "react";
import { findStep, inDialect, nameIn, type Chip, type Dialect, type Step } from "@still-pine/core/programs";
import { isTravelled } from "@still-pine/core/programs/carriage";
import { isDwelt } from "@still-pine/core/programs/dwelt";
import { chipsOf, CHIP_VALUES } from "@still-pine/core/programs/chips";
import {
  rungBeside,
  rungReached,
  timed,
  timeUnit,
  turned,
  watchUnit,
  type LineChange,
} from "@still-pine/core/recording";
import { watchAt } from "@still-pine/core/outing";
import { standingSoFar, startWatch } from "../../pen/watching";
import { clockOf } from "../../pen/words";
import { plain } from "../../parts/choice-words";
import { useLadderTexts } from "../../parts/use-ladder-texts";
import { chipInWords, CHIP_QUESTIONS } from "./line-words";
import { Panel } from "./panels";
import { usePen, usePenSettings, usePenTime, useSession } from "./pen-context";

/** Between the two ends of the line there is room for so many chips. */
const CHIPS_MOST = 3;

/**
 * The line over the pad: what every ask of this exercise and side says until it is changed. Down a rung and up a rung at its ends, and
 * between them the rung and the chips that mean something for the step.
 */
export function LineRow({ words }: { words: Dialect }) {
  const session = useSession();
  const stepId = usePen((_, { here }) => here.step);
  const step = findStep(session.plan.program, stepId);
  const watch = usePen(({ state }, { here }) => watchAt(state, here));
  if (!step) return null;
  const isSaid = step.ladder.rungs.length > 1 || chipsHere(step).length > 0 || watchUnit(step) !== null;
  if (watch !== undefined) return <RunningWatch step={step} words={words} from={watch.from} id={watch.id} />;
  return isSaid ? <Line key={stepId} step={step} words={words} /> : null;
}

/** The chips that stand on the line: the gait has keys of its own where he travels. */
const chipsHere = (step: Step): readonly Chip[] =>
  chipsOf(step).filter((chip) => chip !== "gait" || !isTravelled(step));

type Open = "rung" | "others" | Chip | null;

function Line({ step, words }: { step: Step; words: Dialect }) {
  const session = useSession();
  const line = usePen((snapshot) => snapshot.line);
  const [open, setOpen] = useState<Open>(null);
  const chips = chipsHere(step);
  const hasRungs = step.ladder.rungs.length > 1;
  const isTimed = watchUnit(step) !== null;
  // Beside a watch there is room for the rung alone: its list holds the chips too.
  const room = isTimed && hasRungs ? 0 : CHIPS_MOST - (hasRungs ? 1 : 0);
  const shown = chips.length > room ? chips.slice(0, Math.max(0, room - 1)) : chips;
  const behind = chips.slice(shown.length);
  const close = (): void => setOpen(null);
  const say = (change: LineChange): void => {
    session.say(change);
    close();
  };
  const press = (chip: Chip): void => {
    // Of two words the other one; of more, the list.
    if (CHIP_VALUES[chip].length === 2) say({ [chip]: turned(chip, line) });
    else setOpen(chip);
  };
  const others = behind.map((chip) => (
    <div key={chip} className="mb-3">
      <p className="mb-1 text-lg font-semibold">{capital(CHIP_QUESTIONS[chip])}</p>
      <Values chip={chip} value={line[chip]} words={words} onPick={(value) => session.say({ [chip]: value })} />
    </div>
  ));
  return (
    <>
      <div role="group" aria-label="How it is asked" className="flex gap-1.5">
        {hasRungs && <RungKey step={step} by={-1} />}
        {hasRungs && <RungChip step={step} words={words} onPress={() => setOpen("rung")} />}
        {shown.map((chip) => (
          <LineChip key={chip} chip={chip} value={line[chip]} words={words} onPress={() => press(chip)} />
        ))}
        {behind.length > 0 && room > 0 && (
          <button
            type="button"
            onClick={() => setOpen("others")}
            className={clsx(
              "pen-button min-w-18 flex-1 px-1 text-[15px] leading-[1.12]",
              behind.some((chip) => line[chip] === undefined) && "border-dashed font-normal",
            )}
          >
            {behind.length} others
          </button>
        )}
        {isTimed && (
          <button
            type="button"
            aria-label="Start the watch"
            onClick={() => startWatch(session)}
            className="pen-button w-16 shrink-0 flex-col gap-0 px-0 text-[15px]"
          >
            <Timer size={26} aria-hidden="true" /> watch
          </button>
        )}
        {hasRungs && <RungKey step={step} by={1} />}
      </div>
      {open === "rung" && (
        <Panel title="Which rung?" onClose={close}>
          <Rungs step={step} words={words} onPick={(rung) => say({ rung })} />
          {room === 0 && <div className="mt-3">{others}</div>}
        </Panel>
      )}
      {open === "others" && (
        <Panel title="How it is asked" onClose={close}>
          {others}
        </Panel>
      )}
      {open !== null && open !== "rung" && open !== "others" && (
        <Panel title={capital(CHIP_QUESTIONS[open])} onClose={close}>
          <Values chip={open} value={line[open]} words={words} onPick={(value) => say({ [open]: value })} />
        </Panel>
      )}
    </>
  );
}

/** While a watch runs the line is its time and the rung it has come to; a press on the pad ends it. */
function RunningWatch({ step, words, from, id }: { step: Step; words: Dialect; from: number; id: string }) {
  const session = useSession();
  const now = usePenTime();
  const [{ onceOnly }] = usePenSettings();
  const line = usePen((snapshot) => snapshot.line);
  const isLeft = usePen(({ armed }) => armed === "none");
  const texts = useLadderTexts(step.id);
  const stood = isDwelt(step) ? standingSoFar(session) : null;
  const unit = timeUnit(step) ?? "seconds";
  const amount = timed(from, now, unit);
  const rung = rungReached(step, line, amount);
  const { dose = 0 } = step.ladder.rungs.find((one) => one.id === rung) ?? {};
  const reached =
    rung === undefined || dose === 0 || dose > amount ? "" : inDialect(texts.rungs[rung] ?? plain(rung), words);
  return (
    <div role="group" aria-label="The watch runs" className="flex gap-1.5">
      <p
        role="timer"
        className="flex min-h-16 min-w-0 flex-[2] flex-col justify-center rounded-xl bg-ink px-3 text-paper"
      >
        <b className="text-2xl leading-none tabular-nums">{clockOf(Math.max(0, (now - from) / 1000))}</b>
        <span className="line-clamp-2 text-[15px] leading-tight">
          {reached || (stood ? `last ${stood.last} s, now ${stood.next}` : "a press ends it")}
        </span>
      </p>
      <button
        type="button"
        aria-pressed={isLeft}
        onClick={() => session.answer("none", onceOnly)}
        className="pen-button flex-1 px-1 text-[16px] leading-tight aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper"
      >
        he ended it
      </button>
      <button
        type="button"
        onClick={() => session.correct(id, { void: true })}
        className="pen-button w-18 shrink-0 px-1 text-[15px] leading-tight"
      >
        no watch
      </button>
    </div>
  );
}

const ENDS: Record<-1 | 1, readonly [icon: LucideIcon, label: string, says: string]> = {
  [-1]: [ChevronDown, "Down a rung", "down"],
  1: [ChevronUp, "Up a rung", "up"],
};

/** One rung down or up. Where the coach means that rung it stands out. */
function RungKey({ step, by }: { step: Step; by: -1 | 1 }) {
  const session = useSession();
  const to = usePen(({ line }) => rungBeside(step, line, by));
  const isMeant = usePen(({ advice, line }) => advice.rung !== undefined && advice.rung === rungBeside(step, line, by));
  const [Icon, label, says] = ENDS[by];
  return (
    <button
      type="button"
      aria-label={label}
      disabled={to === null}
      onClick={() => to !== null && session.say({ rung: to })}
      className={clsx(
        "pen-button w-16 shrink-0 flex-col gap-0 px-0 text-[15px] disabled:text-faint",
        isMeant && (by === 1 ? "border-pine bg-pine text-on-pine" : "border-resin bg-resin text-paper"),
      )}
    >
      <Icon size={26} strokeWidth={3} aria-hidden="true" /> {says}
    </button>
  );
}

function RungChip({ step, words, onPress }: { step: Step; words: Dialect; onPress: () => void }) {
  const rung = usePen(({ line }) => line.rung);
  const texts = useLadderTexts(step.id);
  const { rungs, standard } = step.ladder;
  const place = rungs.findIndex(({ id }) => id === rung);
  const isEnough = place >= standard;
  return (
    <button
      type="button"
      aria-label={`Rung: ${rung === undefined ? "not said" : inDialect(texts.rungs[rung] ?? plain(rung), words)}${isEnough ? ", the standard" : ""}`}
      onClick={onPress}
      className={clsx(
        "pen-button min-w-0 flex-[2] px-1.5 text-[16px]",
        isEnough ? "border-pine bg-moss" : rung === undefined && "border-dashed",
      )}
    >
      <span className="pen-still h-14 w-full">
        <span className="flex h-full items-center justify-center">
          <span className="line-clamp-3 leading-[1.12]">
            {rung === undefined ? "which rung?" : inDialect(texts.rungs[rung] ?? plain(rung), words)}
          </span>
        </span>
      </span>
    </button>
  );
}

interface LineChipProps {
  chip: Chip;
  value: string | undefined;
  words: Dialect;
  onPress: () => void;
}

function LineChip({ chip, value, words, onPress }: LineChipProps) {
  return (
    <button
      type="button"
      aria-label={`${capital(CHIP_QUESTIONS[chip])} ${value === undefined ? "not said" : chipInWords(chip, value)}`}
      onClick={onPress}
      className={clsx(
        "pen-button min-w-18 flex-1 px-1 text-[15px] leading-[1.12]",
        value === undefined && "border-dashed font-normal",
      )}
    >
      {inDialect(chipInWords(chip, value), words)}
    </button>
  );
}

function Rungs({ step, words, onPick }: { step: Step; words: Dialect; onPick: (rung: string) => void }) {
  const now = usePen(({ line }) => line.rung);
  const texts = useLadderTexts(step.id);
  const { rungs, standard } = step.ladder;
  const { program, upTo } = useSession().plan;
  const shut = upTo?.find((one) => one.step === step.id);
  const gate = program.gates.find(({ id }) => id === shut?.gate);
  return (
    <div className="flex flex-col-reverse gap-1.5">
      {rungs.map(({ id }, place) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === now}
          onClick={() => onPick(id)}
          className="pen-button justify-between px-3 text-lg aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
        >
          <span className="text-left">{capital(inDialect(texts.rungs[id] ?? plain(id), words))}</span>
          {place === standard && <span className="text-[15px]">the standard</span>}
          {gate && rungs[place - 1]?.id === shut?.rung && (
            <span className="text-right text-[15px]">{nameIn(gate, words)} is shut</span>
          )}
        </button>
      ))}
    </div>
  );
}

interface ValuesProps {
  chip: Chip;
  value: string | undefined;
  words: Dialect;
  onPick: (value: string | undefined) => void;
}

function Values({ chip, value: now, words, onPick }: ValuesProps) {
  return (
    <div className="grid grid-cols-2 gap-1.5 sm:grid-cols-3">
      {CHIP_VALUES[chip].map((value) => (
        <button
          key={value}
          type="button"
          aria-pressed={value === now}
          onClick={() => onPick(value)}
          className="pen-button text-lg aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
        >
          {inDialect(chipInWords(chip, value), words)}
        </button>
      ))}
      <button
        type="button"
        aria-pressed={now === undefined}
        onClick={() => onPick(undefined)}
        className="pen-button border-dashed text-lg font-normal aria-pressed:border-ink"
      >
        not said
      </button>
    </div>
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
