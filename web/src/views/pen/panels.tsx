import { clsx } from "clsx";
import { X } from "lucide-react";
import { useRef, useState, type ReactNode } from "react";
import { nameIn, STAGES, type Dialect } from "@still-pine/core/programs";
import { adviceInWords, VERB_WORDS } from "@still-pine/core/outing";
import { STAGE_WORDS } from "@still-pine/core/readiness/words";
import { PEN_ACTIONS, DEFAULT_KEYS, type PenAction } from "../../pen/keys";
import { standingSoFar, stepIn } from "../../pen/watching";
import type { PenSettings } from "../../pen/settings";
import { clockOf, withPlace } from "../../pen/words";
import { BehindGate } from "./behind-gate";
import { usePen, usePenSettings, useSession } from "./pen-context";
import { QuickPanel } from "./tools";
import { VERB_ICONS } from "./verdict";

interface PanelProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** A sheet over the pad. It never opens by itself, and a tap on its cross leaves everything as it was. */
export function Panel({ title, onClose, children }: PanelProps) {
  return (
    <section
      aria-label={title}
      className="absolute inset-0 z-10 flex flex-col overflow-y-auto rounded-xl border-3 border-ink bg-paper p-2"
    >
      <div className="mb-2 flex items-center justify-between gap-2">
        <h2 className="text-2xl">{title}</h2>
        <button type="button" onClick={onClose} className="pen-button w-16" aria-label="Close">
          <X size={28} aria-hidden="true" />
        </button>
      </div>
      {children}
    </section>
  );
}

/** What the coach's word rests on, entry by entry. */
export function WhyPanel({ words, onClose }: { words: Dialect; onClose: () => void }) {
  const session = useSession();
  const { program } = session.plan;
  const advice = usePen((snapshot) => snapshot.advice);
  const Icon = VERB_ICONS[advice.verb];
  const events = advice.evidence.flatMap((id) => session.standing(id) ?? []);
  const start = Date.parse(session.plan.startedAt);
  return (
    <Panel title="Why" onClose={onClose}>
      <p className="mb-2 flex items-center gap-2 text-2xl font-bold">
        <Icon size={28} aria-hidden="true" /> {VERB_WORDS[advice.verb]}
      </p>
      <p className="mb-3 text-xl">{adviceInWords(advice, program)}</p>
      {events.length === 0 ? (
        <p className="text-lg">It rests on no single entry.</p>
      ) : (
        <ul aria-label="It rests on" className="grid gap-1 text-lg">
          {events.map((event) => (
            <li key={event.id} className="flex gap-3 border-b border-line py-1">
              <span className="w-14 shrink-0 font-semibold">{clockOf((Date.parse(event.at) - start) / 1000)}</span>
              {withPlace(event, program, words)}
            </li>
          ))}
        </ul>
      )}
      <BehindGate onDone={onClose} />
    </Panel>
  );
}

/** Every step of the program, by stage, to work on something that was not planned. */
export function OtherPanel({ words, onClose }: { words: Dialect; onClose: () => void }) {
  const session = useSession();
  const shut = new Set(session.plan.shut?.flatMap((gate) => gate.steps));
  const { steps } = session.plan.program;
  return (
    <Panel title="Another exercise" onClose={onClose}>
      {STAGES.map((stage) => (
        <div key={stage} className="mb-2">
          <p className="mb-1 font-semibold">{STAGE_WORDS[stage]}</p>
          <div className="grid grid-cols-2 gap-1.5 sm:grid-cols-3">
            {steps
              .filter((step) => step.stage === stage)
              .map((step) => (
                <button
                  key={step.id}
                  type="button"
                  className={clsx(
                    "pen-button flex-col gap-0 text-base leading-tight",
                    shut.has(step.id) && "border-resin",
                  )}
                  onClick={() => {
                    session.takeUp(step.id);
                    onClose();
                  }}
                >
                  {nameIn(step, words)}
                  {shut.has(step.id) && <span className="text-[14px] font-semibold text-resin">gate shut</span>}
                </button>
              ))}
          </div>
        </div>
      ))}
    </Panel>
  );
}

/** What to do when a person is hurt. The questions wait for the review. */
export function HurtPanel({ onClose }: { onClose: () => void }) {
  return (
    <Panel title="A person is hurt" onClose={onClose}>
      <ol className="grid list-decimal gap-2 pl-6 text-xl">
        <li>Let the horse go; get everyone clear of him and out of the pen.</li>
        <li>See to the person. Do not move someone with a hurt neck or back.</li>
        <li>Call for help: the local emergency number, then whoever is near.</li>
        <li>A knock on the head, a kick to the body, or feeling faint: a doctor, also when it seems to pass.</li>
        <li>Only then the horse, with somebody else there.</li>
      </ol>
      <p className="mt-3 text-lg">It is noted. Everything else can be told afterwards.</p>
    </Panel>
  );
}

interface MorePanelProps {
  voice: { isOn: boolean; toggle: () => void; trouble: string | null };
  onLock: () => void;
  onHelper: () => void;
  onSettings: () => void;
  onEnd: () => void;
  onClose: () => void;
}

export function MorePanel({ voice, onLock, onHelper, onSettings, onEnd, onClose }: MorePanelProps) {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  const [sub, setSub] = useState<"tired" | "enough" | null>(null);
  const stood = standingSoFar(session);
  if (sub)
    return (
      <Panel title={sub === "tired" ? "Tired" : "Enough for today"} onClose={onClose}>
        <QuickPanel name={sub} onDone={onClose} />
      </Panel>
    );
  const then = (act: () => void) => (): void => {
    act();
    onClose();
  };
  return (
    <Panel title="More" onClose={onClose}>
      <div className="grid grid-cols-2 gap-1.5 sm:grid-cols-3">
        <Choice label="He offered it" note="did it unasked" onClick={then(() => session.offer(onceOnly))} />
        <Choice label="Tired" note="what was seen" onClick={() => setSub("tired")} />
        <Choice
          label="Step in"
          note={stood ? `last ${stood.last} s, next about ${stood.next}` : "how long he stands"}
          onClick={then(() => stepIn(session))}
        />
        <Choice
          label={voice.isOn ? "End the voice note" : "Voice note"}
          note={voice.trouble ?? "stays with the outing"}
          onClick={voice.isOn ? then(voice.toggle) : voice.toggle}
        />
        <PhotoChoice onDone={onClose} />
        <Choice label="Enough" note="patience, weather, noise, time" onClick={() => setSub("enough")} />
        <Choice label="Helper at the rail" note="writes down with you" onClick={onHelper} />
        <Choice label="Rail lock" note="a stray touch does nothing" onClick={then(onLock)} />
        <Choice label="Settings" note="coach, buzz, remote" onClick={onSettings} />
        <button
          type="button"
          className="pen-button col-span-2 border-pine bg-pine text-xl text-on-pine sm:col-span-3"
          onClick={onEnd}
        >
          End the outing
        </button>
      </div>
    </Panel>
  );
}

function Choice({ label, note, onClick }: { label: string; note: string; onClick: () => void }) {
  return (
    <button type="button" className="pen-button flex-col gap-0 text-lg leading-tight" onClick={onClick}>
      {label}
      <span className="text-[15px] font-normal">{note}</span>
    </button>
  );
}

function PhotoChoice({ onDone }: { onDone: () => void }) {
  const session = useSession();
  const input = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const { toUpload } = await import("../../media/prepare");
    const upload = await toUpload(file);
    if ("trouble" in upload) return setTrouble(upload.trouble);
    if (await session.attach(upload)) onDone();
    else setTrouble("No room on this device for a photo.");
  };
  return (
    <>
      <Choice label="Photo" note={trouble ?? "stays with the outing"} onClick={() => input.current?.click()} />
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Photo file"
        className="hidden"
        onChange={(event) => void take(event.target.files?.[0])}
      />
    </>
  );
}

const SIDE_WAYS = [
  ["tap", "By a tap"],
  ["swipe", "By a swipe over near and off"],
  ["turn", "By turning the phone face down and up"],
] as const satisfies readonly (readonly [PenSettings["side"], string])[];
const COACH_WAYS = [
  ["word", "A word"],
  ["word-buzz", "A word and a buzz"],
  ["off", "Off"],
] as const satisfies readonly (readonly [PenSettings["coach"], string])[];

export function SettingsPanel({ onClose }: { onClose: () => void }) {
  const [settings, change] = usePenSettings();
  const toggle = (name: "buzz" | "speech" | "onceOnly" | "keys" | "remote", label: string) => (
    <button
      key={name}
      type="button"
      role="switch"
      aria-checked={settings[name]}
      onClick={() => change({ [name]: !settings[name] })}
      className="pen-button justify-between px-3 text-left text-lg leading-tight"
    >
      {label} <span className="font-bold">{settings[name] ? "on" : "off"}</span>
    </button>
  );
  return (
    <Panel title="How this device records" onClose={onClose}>
      <div className="grid gap-1.5">
        <Ways legend="Coach" ways={COACH_WAYS} value={settings.coach} onChange={(coach) => change({ coach })} />
        <Ways legend="Side change" ways={SIDE_WAYS} value={settings.side} onChange={(side) => change({ side })} />
        <p className="text-base">
          A tap is the default: a swipe starts by accident, and a phone that hangs on the rail cannot be turned.
        </p>
        {toggle("buzz", "A buzz for every entry")}
        {toggle("speech", "Spoken words, by this device's own voice. Horses learn a sound as a cue: one earpiece.")}
        {toggle("onceOnly", "A second equal tap within a quarter of a second is the same one")}
        {toggle("keys", "Keys of a remote or numeric pad record")}
        {toggle("remote", "Show a simulated remote, to try it out")}
        <KeyList map={settings.keyMap} onChange={(keyMap) => change({ keyMap })} />
      </div>
    </Panel>
  );
}

interface WaysProps<Way extends string> {
  legend: string;
  ways: readonly (readonly [Way, string])[];
  value: Way;
  onChange: (way: Way) => void;
}

function Ways<Way extends string>({ legend, ways, value, onChange }: WaysProps<Way>) {
  return (
    <div role="group" aria-label={legend}>
      <p className="mb-1 font-semibold">{legend}</p>
      <div className="grid gap-1.5 sm:grid-cols-3">
        {ways.map(([way, words]) => (
          <button
            key={way}
            type="button"
            aria-pressed={way === value}
            onClick={() => onChange(way)}
            className="pen-button text-base aria-pressed:border-pine aria-pressed:bg-pine aria-pressed:text-on-pine"
          >
            {words}
          </button>
        ))}
      </div>
    </div>
  );
}

/** Which key does what; a key can be given to anything by choosing the deed and pressing the key. */
function KeyList({
  map,
  onChange,
}: {
  map: Record<string, PenAction>;
  onChange: (map: Record<string, PenAction>) => void;
}) {
  const [learning, setLearning] = useState<PenAction | null>(null);
  const keysOf = (action: PenAction): string =>
    Object.entries(map)
      .filter(([, of]) => of === action)
      .map(([key]) => key)
      .join("  ");
  return (
    <details className="rounded-lg border-2 border-line bg-sheet p-2">
      <summary className="min-h-11 cursor-pointer py-2 text-lg font-semibold">Which key does what</summary>
      <ul className="grid gap-1">
        {(Object.keys(PEN_ACTIONS) as PenAction[]).map((action) => (
          <li key={action} className="flex items-center justify-between gap-2 border-b border-line text-base">
            {PEN_ACTIONS[action]}
            <button
              type="button"
              className="pen-button min-w-28 text-base"
              aria-label={`Key for: ${PEN_ACTIONS[action]}`}
              onClick={() => setLearning(action)}
              onKeyDown={(event) => {
                if (learning !== action || event.key === "Tab" || event.key === "Escape") return;
                event.preventDefault();
                event.stopPropagation();
                const others = Object.fromEntries(Object.entries(map).filter(([, of]) => of !== action));
                onChange({ ...others, [event.key]: action });
                setLearning(null);
              }}
            >
              {learning === action ? "press a key" : keysOf(action) || "none"}
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="pen-button mt-2 w-full text-base" onClick={() => onChange(DEFAULT_KEYS)}>
        As they were
      </button>
    </details>
  );
}
