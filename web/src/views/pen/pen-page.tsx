import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { adviceInWords, isSpurtLong, VERB_WORDS } from "@still-pine/core/outing";
import { runningOutings } from "../../outbox/running";
import { buzz, keepAwake, speak } from "../../pen/feedback";
import type { KeptOuting } from "../../outbox/kept";
import { keepSending, sendKept } from "../../outbox/send";
import { followPeers } from "../../pen/peers";
import { noteMishap } from "../../pen/moves";
import { PenSession } from "../../pen/session";
import { type Cell } from "../../pen/snapshot";
import { recoverVoice, startVoice, type VoiceNote } from "../../pen/voice";
import { shortly } from "../../pen/words";
import { followSystem } from "../../shell/theme";
import { CheckUpStrip } from "./check-up-strip";
import { HurtRow } from "./hurt-row";
import { FeelPad } from "./feel-pad";
import { ExerciseStrip } from "./exercise-strip";
import { HurtPanel, MorePanel, OtherPanel, Panel, SettingsPanel, WhyPanel } from "./panels";
import { LineRow } from "./line-row";
import { HelperPanel } from "./helper-panel";
import { PenContext, usePen, usePenSettings, useSession } from "./pen-context";
import { RailLock } from "./rail-lock";
import { Remote } from "./remote";
import { AnswerRow, LastEntry, SideRow } from "./rows";
import { FaultPanel } from "./fault-panel";
import { QuickPanel, SignsPanel, Tools, type PanelName } from "./tools";
import { useFaceTurn } from "./use-face-turn";
import { usePenKeys } from "./use-pen-keys";
import { Clock, Verdict } from "./verdict";

/** Recording an outing live. Everything comes from this device; nothing here waits for the network. */
export function PenPage() {
  const { outing = "" } = useParams();
  const [session, setSession] = useState<PenSession | null | undefined>(undefined);
  useEffect(() => {
    let wanted = true;
    // Outings nobody ended are closed before one of them is taken up again.
    void runningOutings()
      .then(() => PenSession.open(outing))
      .then((opened) => wanted && setSession(opened));
    return () => {
      wanted = false;
    };
  }, [outing]);
  useEffect(followSystem, []);
  if (session === undefined || (session !== null && session.outing.id !== outing))
    return (
      <p role="status" className="p-6">
        Fetching the outing …
      </p>
    );
  if (session === null)
    return (
      <main className="p-6">
        <h1 className="mb-2 text-2xl">No such outing on this device</h1>
        <p className="mb-4">An outing is recorded on the device it was begun on.</p>
        <Link className="button" to="/">
          To the string
        </Link>
      </main>
    );
  if (session.read().isOver) return <Over session={session} />;
  return (
    <PenContext value={session}>
      <Pen key={outing} />
    </PenContext>
  );
}

const reviewOf = ({ horse, id }: KeptOuting): string =>
  `/horses/${encodeURIComponent(horse)}/outings/${encodeURIComponent(id)}/review`;

function Over({ session }: { session: PenSession }) {
  return (
    <main className="p-6">
      <h1 className="mb-2 text-2xl">{session.outing.horseName}: this outing is over</h1>
      {session.unkept.length > 0 ? (
        <p role="alert" className="mb-4 font-semibold text-clay">
          This device is full: {session.unkept.length} entries are only in this page. Keep it open until the network is
          there; they are sent by themselves.
        </p>
      ) : (
        <p className="mb-4">All of it is kept on this device. Its review opens as soon as the network is there.</p>
      )}
      <Link className="button button-main" to={reviewOf(session.outing)}>
        To its review
      </Link>
    </main>
  );
}

function Pen() {
  const session = useSession();
  const navigate = useNavigate();
  const [settings] = usePenSettings();
  const [panel, setPanel] = useState<PanelName | null>(null);
  const [locked, setLocked] = useState(() => sessionStorage.getItem(LOCK) === "on");
  const [hurtFor, setHurtFor] = useState<string | null>(null);
  const [sleepy, setSleepy] = useState(false);
  const [over, setOver] = useState(false);
  const voice = useVoice(session);
  const steps = useSteps(session);
  const { words } = session.outing;

  const lock = useCallback((on: boolean): void => {
    setLocked(on);
    sessionStorage.setItem(LOCK, on ? "on" : "off");
  }, []);
  useRuns(session, settings, setSleepy);
  useFaceTurn(settings.side === "turn", () => session.changeSide());

  const { onceOnly } = settings;
  const press = useCallback(
    (cell: Cell, waitSeconds?: number): void => {
      session.press(cell, onceOnly, waitSeconds);
    },
    [session, onceOnly],
  );
  const mishap = (): void => setHurtFor(noteMishap(session, onceOnly) ?? hurtFor);
  const finish = async (): Promise<void> => {
    await voice.end();
    await session.finish();
    // Without a network its page may not come; the outing is kept either way.
    if (session.unkept.length === 0 && (await fetchReview())) void navigate(reviewOf(session.outing));
    else setOver(true);
  };
  const openMore = (name: PanelName | null): void => {
    if (name === "more") void fetchReview();
    setPanel(name);
  };
  const { cursor, pending } = usePenKeys({
    session,
    settings,
    steps,
    press,
    onMishap: mishap,
    onLock: () => lock(!locked),
    onVoice: voice.toggle,
    onFinish: () => void finish(),
  });
  const close = (): void => setPanel(null);
  const forgetHurt = useCallback((): void => setHurtFor(null), []);

  if (over) return <Over session={session} />;
  return (
    <main className="pen mx-auto flex min-h-dvh max-w-6xl flex-col gap-1.5 p-2 lg:grid lg:grid-cols-[minmax(0,1fr)_minmax(26rem,34rem)] lg:grid-rows-[auto_auto_1fr] lg:gap-3">
      <title>{`${session.outing.horseName} · Pen · Still Pine`}</title>
      <h1 className="sr-only">{session.outing.horseName} in the pen</h1>
      <OtherOutings current={session.outing.id} />
      <div className="flex gap-2 lg:col-start-1">
        <Clock />
        <Verdict isNamed words={words} onOpen={() => setPanel(panel === "why" ? null : "why")} />
      </div>
      <div className="lg:col-start-1">
        {session.plan.checkUp ? (
          <CheckUpStrip words={words} onAdd={() => setPanel("other")} />
        ) : (
          <ExerciseStrip steps={steps} words={words} onAdd={() => setPanel("other")} />
        )}
        {(sleepy || !session.isLasting) && (
          <p className="mt-1 text-base font-semibold">
            {!session.isLasting
              ? "This browser keeps nothing: what you record is lost if the page is closed before it is sent."
              : "This device lets its screen sleep; set it to stay on while you work."}
          </p>
        )}
      </div>
      <div className="relative flex flex-1 flex-col gap-1.5 lg:col-start-2 lg:row-span-3 lg:row-start-1">
        <SideRow />
        <LineRow words={words} />
        <div className="flex flex-1 flex-col *:flex-1">
          <FeelPad cursor={cursor} onPress={press} />
        </div>
        <LastEntry digit={pending} />
        {hurtFor === null ? (
          <AnswerRow />
        ) : (
          <HurtRow key={hurtFor} mishap={hurtFor} onHurt={() => setPanel("hurt")} onDone={forgetHurt} />
        )}
        <Tools open={panel} onOpen={openMore} onMishap={mishap} />
        {panel === "why" && <WhyPanel words={words} onClose={close} />}
        {panel === "other" && <OtherPanel words={words} onClose={close} />}
        {panel === "hurt" && <HurtPanel onClose={close} />}
        {panel === "helper" && <HelperPanel onClose={close} />}
        {panel === "settings" && <SettingsPanel onClose={close} />}
        {panel === "signs" && (
          <Panel title="What was seen?" onClose={close}>
            <SignsPanel onDone={close} />
          </Panel>
        )}
        {panel === "fault" && <FaultPanel words={words} onClose={close} />}
        {panel === "fright" && (
          <Panel title="How big was it?" onClose={close}>
            <QuickPanel name="fright" onDone={close} />
          </Panel>
        )}
        {panel === "more" && (
          <MorePanel
            voice={voice}
            onLock={() => lock(true)}
            onHelper={() => setPanel("helper")}
            onSettings={() => setPanel("settings")}
            onEnd={() => void finish()}
            onClose={close}
          />
        )}
      </div>
      {settings.remote && (
        <div className="lg:col-start-1">
          <Remote map={settings.keyMap} />
        </div>
      )}
      {locked && <RailLock onOpen={() => lock(false)} />}
    </main>
  );
}

/** The review's page, fetched before it is needed. */
const fetchReview = (): Promise<boolean> =>
  import("../review/review-page").then(
    () => true,
    () => false,
  );

const LOCK = "still-pine.rail-lock";

/** What was planned, and what was taken up besides. */
function useSteps(session: PenSession): readonly string[] {
  const taken = usePen(({ state }) => Object.keys(state.exercises).join(" "));
  return useMemo(() => {
    const planned = session.plan.exercises.map(({ step }) => step);
    return [...new Set([...planned, ...taken.split(" ").filter(Boolean)])];
  }, [session, taken]);
}

/** The running side of the page: the second hand, the screen, sending, and what is felt and heard. */
function useRuns(
  session: PenSession,
  settings: ReturnType<typeof usePenSettings>[0],
  onSleepy: (sleepy: boolean) => void,
): void {
  const latest = useRef(settings);
  useEffect(() => {
    latest.current = settings;
  });
  // Whoever keeps, tells and follows is there before the first press can be.
  useLayoutEffect(() => {
    session.listen({
      onKept: (event, keeping) => {
        buzz(keeping === "kept" ? "kept" : "trouble", latest.current);
        if (keeping === "page-only") void sendKept().catch(() => "later");
        speak(event.type === "correction" ? "changed" : shortly(event, session.plan.program), latest.current);
      },
      onVerb: (advice) => {
        if (latest.current.coach === "word-buzz") buzz("verdict", latest.current);
        if (latest.current.coach !== "off")
          speak(`${VERB_WORDS[advice.verb]}. ${adviceInWords(advice, session.plan.program)}`, latest.current);
      },
    });
    void recoverVoice(session.outing.id);
    let long: number | null = null;
    const second = setInterval(() => {
      session.tick();
      const { state } = session.read();
      if (isSpurtLong(state, session.plan, session.now()) && long !== state.spurt?.from) {
        long = state.spurt?.from ?? null;
        buzz("change", latest.current);
      }
    }, 1000);
    const onVisible = (): void => {
      if (document.visibilityState === "visible") session.woke();
    };
    document.addEventListener("visibilitychange", onVisible);
    const stopSending = keepSending();
    const stopFollowing = followPeers(session, () => undefined);
    const letSleep = keepAwake(() => onSleepy(true));
    return () => {
      clearInterval(second);
      document.removeEventListener("visibilitychange", onVisible);
      stopSending();
      stopFollowing();
      letSleep();
    };
  }, [session, onSleepy]);
}

function useVoice(session: PenSession): {
  isOn: boolean;
  toggle: () => void;
  end: () => Promise<void>;
  trouble: string | null;
} {
  const [isOn, setOn] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const note = useRef<VoiceNote | null>(null);
  const end = async (): Promise<void> => {
    const running = note.current;
    note.current = null;
    setOn(false);
    await running?.stop();
  };
  const begin = async (): Promise<void> => {
    setOn(true);
    const begun = await startVoice(session.outing, () => void end());
    if (typeof begun === "string") {
      setOn(false);
      setTrouble(begun);
      return;
    }
    note.current = begun;
    setTrouble(null);
    session.enter({ type: "media", media: begun.id, kind: "voice" }, false);
  };
  return { isOn, trouble, end, toggle: () => void (isOn ? end() : begin()) };
}

/** Other outings that run on this device: one tap to each. */
function OtherOutings({ current }: { current: string }) {
  const [running, setRunning] = useState<KeptOuting[]>([]);
  useEffect(() => {
    void runningOutings().then(setRunning);
  }, []);
  if (running.length < 2) return null;
  return (
    <nav aria-label="Outings on this device" className="flex gap-1.5 overflow-x-auto lg:col-start-1">
      {running.map(({ id, horseName }) => (
        <Link
          key={id}
          to={`/pen/${encodeURIComponent(id)}`}
          aria-current={id === current ? "page" : undefined}
          className="pen-button min-w-24 flex-1 px-3 text-lg no-underline aria-[current=page]:border-ink aria-[current=page]:bg-ink aria-[current=page]:text-paper"
        >
          {horseName}
        </Link>
      ))}
    </nav>
  );
}
