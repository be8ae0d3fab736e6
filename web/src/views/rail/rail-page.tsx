import { Radio, WifiOff } from "lucide-react";
import { useCallback, useEffect, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { findStep, nameIn } from "@still-pine/core/programs";
import { joinOuting } from "../../pen/join";
import { followPeers, type Connection } from "../../pen/peers";
import { noteMishap } from "../../pen/moves";
import { PenSession } from "../../pen/session";
import { keepAwake } from "../../pen/feedback";
import { shortly } from "../../pen/words";
import { keepSending } from "../../outbox/send";
import { sendingInWords } from "../../outbox/trouble-words";
import { shownTime, useSending } from "../../outbox/use-sending";
import { followSystem } from "../../shell/theme";
import { ExerciseStrip } from "../pen/exercise-strip";
import { HurtRow } from "../pen/hurt-row";
import { FeelPad } from "../pen/feel-pad";
import { LineRow } from "../pen/line-row";
import { PenContext, usePen, usePenSettings, useSession } from "../pen/pen-context";
import { AnswerRow, LastEntry, SideRow } from "../pen/rows";
import { FaultPanel } from "../pen/fault-panel";
import { QuickPanel, SignsPanel } from "../pen/tools";
import { HurtPanel, OtherPanel, Panel, WhyPanel } from "../pen/panels";
import { Verdict } from "../pen/verdict";
import { CalledOut } from "./called-out";

/** The helper at the rail: writes down what is called out from the pen. */
export function RailPage() {
  const { outing = "" } = useParams();
  const [opened, setOpened] = useState<PenSession | string | null>(null);
  useEffect(() => {
    let wanted = true;
    void joinOuting(outing)
      .then(async (problem) => problem ?? (await PenSession.open(outing)) ?? "This phone could not keep the outing.")
      .then((found) => wanted && setOpened(found));
    return () => {
      wanted = false;
    };
  }, [outing]);
  useEffect(followSystem, []);
  if (opened === null || (typeof opened !== "string" && opened.outing.id !== outing))
    return (
      <p role="status" className="p-6">
        Joining the outing …
      </p>
    );
  if (typeof opened === "string")
    return (
      <main className="p-6">
        <h1 className="mb-2 text-2xl">Not joined</h1>
        <p role="alert" className="mb-4">
          {opened}
        </p>
        <Link className="button" to="/join">
          Pair this phone
        </Link>
      </main>
    );
  return (
    <PenContext value={opened}>
      <Rail key={outing} />
    </PenContext>
  );
}

type PanelName = "why" | "other" | "fright" | "signs" | "fault" | "hurt";

function Rail() {
  const session = useSession();
  const [{ onceOnly }] = usePenSettings();
  const [connection, setConnection] = useState<Connection>("closed");
  const [panel, setPanel] = useState<PanelName | null>(null);
  const [hurtFor, setHurtFor] = useState<string | null>(null);
  const forgetHurt = useCallback((): void => setHurtFor(null), []);
  const [way, setWay] = useState<"called" | "pad">("called");
  const { words, horseName } = session.outing;
  const isEnded = usePen((snapshot) => snapshot.isEndedElsewhere);
  const taken = usePen(({ state }) => Object.keys(state.exercises).join(" "));
  // In a check-up there is no list of today's: the coach names what is next.
  const next = usePen(({ advice }) => (session.plan.checkUp ? advice.step : undefined));
  const steps = useMemo(
    () => [
      ...new Set([
        ...session.plan.exercises.map(({ step }) => step),
        ...taken.split(" ").filter(Boolean),
        ...(next === undefined ? [] : [next]),
      ]),
    ],
    [session, taken, next],
  );
  useEffect(() => {
    const stops = [followPeers(session, setConnection), keepSending(), keepAwake(() => undefined)];
    const second = setInterval(() => session.tick(), 1000);
    return () => {
      clearInterval(second);
      for (const stop of stops) stop();
    };
  }, [session]);
  const press = useCallback(
    (cell: Parameters<PenSession["press"]>[0], waitSeconds?: number): void => {
      session.press(cell, onceOnly, waitSeconds);
    },
    [session, onceOnly],
  );
  const close = (): void => setPanel(null);
  return (
    <main className="pen mx-auto flex min-h-dvh max-w-2xl flex-col gap-1.5 p-2">
      <title>{`${horseName} · At the rail · Still Pine`}</title>
      <div className="flex items-center justify-between gap-2 px-1">
        <h1 className="truncate text-xl">{horseName}, at the rail</h1>
        <Link
          to="/waiting"
          className="flex min-h-6 shrink-0 items-center gap-1.5 text-[15px] font-semibold text-ink no-underline"
        >
          {connection === "open" ? (
            <Radio size={18} className="text-pine" aria-hidden="true" />
          ) : (
            <WifiOff size={18} className="text-resin" aria-hidden="true" />
          )}
          <Line connection={connection} />
        </Link>
      </div>
      {isEnded ? (
        <p role="status" className="rounded-lg border-2 border-resin px-2 py-3 text-xl font-semibold">
          The outing was ended in the pen. What you still write down counts too.
        </p>
      ) : (
        <div className="flex">
          <Verdict words={words} onOpen={() => setPanel(panel === "why" ? null : "why")} />
        </div>
      )}
      <ExerciseStrip steps={steps} words={words} onAdd={() => setPanel("other")} />
      {way === "called" && <Doing />}
      <div className="relative flex flex-1 flex-col gap-1.5">
        <SideRow />
        <LineRow words={words} />
        {way === "called" ? (
          <CalledOut onPress={press} />
        ) : (
          <div className="flex flex-1 flex-col *:flex-1">
            <FeelPad cursor={null} onPress={press} />
          </div>
        )}
        <LastEntry digit={null} />
        {way === "called" && <FromThePen />}
        {hurtFor === null ? (
          <AnswerRow />
        ) : (
          <HurtRow key={hurtFor} mishap={hurtFor} onHurt={() => setPanel("hurt")} onDone={forgetHurt} />
        )}
        <div className="grid grid-cols-5 gap-1.5">
          {(["signs", "fault", "fright"] as const).map((name) => (
            <button key={name} type="button" className="pen-button px-0 text-[17px]" onClick={() => setPanel(name)}>
              {name}
            </button>
          ))}
          <button
            type="button"
            className="pen-button border-clay px-0 text-[17px] text-clay"
            onClick={() => setHurtFor(noteMishap(session, onceOnly) ?? hurtFor)}
          >
            mishap
          </button>
          <button
            type="button"
            className="pen-button px-0 text-[17px] leading-tight"
            onClick={() => setWay(way === "called" ? "pad" : "called")}
          >
            {way === "called" ? "one tap" : "as called"}
          </button>
        </div>
        {panel === "why" && <WhyPanel words={words} onClose={close} />}
        {panel === "other" && <OtherPanel words={words} onClose={close} />}
        {panel === "signs" && (
          <Panel title="What was seen?" onClose={close}>
            <SignsPanel onDone={close} />
          </Panel>
        )}
        {panel === "hurt" && <HurtPanel onClose={close} />}
        {panel === "fault" && <FaultPanel words={words} onClose={close} />}
        {panel === "fright" && (
          <Panel title="How big was it?" onClose={close}>
            <QuickPanel name="fright" onDone={close} />
          </Panel>
        )}
      </div>
    </main>
  );
}

/** Whether the two see each other's entries, and what waits here. */
function Line({ connection }: { connection: Connection }) {
  const sending = useSending();
  const isHere = sending.waiting > 0 || sending.refused > 0;
  return (
    <span>
      {isHere ? sendingInWords(sending, shownTime) : connection === "open" ? "With the pen" : "Alone for now"}
    </span>
  );
}

/** The exercise at hand, large enough to be read from a saddle's height. */
function Doing() {
  const session = useSession();
  const step = usePen((_, { here }) => here.step);
  const found = findStep(session.plan.program, step);
  return <p className="px-1 text-xl font-bold">{found ? nameIn(found, session.outing.words) : ""}</p>;
}

/** What the other device wrote down last. */
function FromThePen() {
  const session = useSession();
  const other = usePen((snapshot) => snapshot.fromOther);
  return (
    <p className="min-h-6 px-1 text-[15px]" role="status" aria-label="From the pen">
      {other ? `From the pen: ${shortly(other, session.plan.program)}` : ""}
    </p>
  );
}
