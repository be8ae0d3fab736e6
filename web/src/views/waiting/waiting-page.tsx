import { Download, RefreshCw, Upload } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { StringHorse } from "@still-pine/contract/http";
import { loosePenStart, type Program } from "@still-pine/core/programs";
import { useProgramFor } from "../../book/use-book";
import { useStringQuery } from "../../api";
import { shortly } from "../../pen/words";
import { takeNewVersion } from "../../alone/start";
import { readOutboxFile, waitingAsFile } from "../../outbox/file";
import { refusedHere, sendAgain, type RefusedHere } from "../../outbox/refused";
import { sender, sendKept } from "../../outbox/send";
import { sendNow } from "../../outbox/now";
import { sendingInWords, TROUBLE_WORDS } from "../../outbox/trouble-words";
import { knownYard } from "../../outbox/yard";
import { shownTime, useReach, useSending } from "../../outbox/use-sending";
import { saveFile } from "../../parts/save-file";
import { OtherYard } from "./other-yard";
import { Room } from "./room";

/** What lies on this device only, what the server refused, and the ways out. */
export function WaitingPage() {
  const sending = useSending();
  const { why, aloneSince, isBehind, isCleared } = useReach();
  const [busy, setBusy] = useState(false);
  const trouble = sending.trouble && TROUBLE_WORDS[sending.trouble];
  const isShutOut = ["not-paired", "withdrawn", "expired", "locked"].includes(sending.trouble ?? "") || why !== null;
  const again = async (): Promise<void> => {
    setBusy(true);
    await sendKept().catch(() => "ill");
    setBusy(false);
  };
  return (
    <>
      <title>Waiting · Still Pine</title>
      <h1 className="mb-4 text-3xl">On this device</h1>
      <div className="grid max-w-4xl items-start gap-5">
        <section aria-label="Sending" className="card grid gap-3">
          <p className="text-xl font-semibold">{sendingInWords(sending, shownTime)}</p>
          {trouble && <p>{trouble.todo}</p>}
          {aloneSince !== null && (
            <p className="text-faint">
              Pages show what was known here {shownTime(aloneSince)}, and what was recorded since; of a step, the asks
              of the last twenty outings. Photos and older outings are on the laptop.
              {isBehind && " An older outing was changed here: verdicts stay as they were until it is sent."}
            </p>
          )}
          {isCleared && (
            <p role="alert" className="font-semibold text-clay">
              The browser cleared what lay on this phone. Everything it had sent is on the laptop; entries that had not
              been sent are gone. Put Still Pine on the home screen, so that the phone keeps it.
            </p>
          )}
          {!sending.isLasting && (
            <p className="font-semibold text-clay">
              This browser keeps nothing: what you record is lost if the page is closed before it is sent.
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <button type="button" className="button button-main" disabled={busy} onClick={() => void again()}>
              <RefreshCw size={18} aria-hidden="true" /> {busy ? "Sending …" : "Send now"}
            </button>
            {isShutOut && (
              <Link className="button" to="/join">
                Pair this device
              </Link>
            )}
          </div>
          {(sending.trouble === "other-yard" || why === "other-yard") && <OtherYard waiting={sending.waiting} />}
        </section>
        {sending.refused > 0 && <Refused key={sending.refused} />}
        <AsFile waiting={sending.waiting + sending.refused} />
        <Room />
        <Version />
      </div>
    </>
  );
}

/** What the server did not take. It stays until a person has seen to it. */
function Refused() {
  const programFor = useProgramFor();
  const [list, setList] = useState<RefusedHere>({ events: [], media: [] });
  const { data } = useStringQuery();
  const horseOf = (id: string): StringHorse | undefined => data?.horses.find((horse) => horse.id === id);
  const nameOf = (id: string): string => horseOf(id)?.name ?? "a horse";
  const programOf = (id: string): Program => {
    const horse = horseOf(id);
    return horse ? programFor(horse) : loosePenStart;
  };
  useEffect(() => {
    void refusedHere().then(setList);
  }, []);
  return (
    <section aria-label="Cannot be sent" className="card grid gap-3 border-clay">
      <h2 className="text-xl">Cannot be sent</h2>
      <p>
        The server did not take these. They stay here, whole, until you have seen to them: put right what is named on
        the laptop and send again, or take them out as a file.
      </p>
      <ul className="grid gap-2">
        {list.events.map(({ event, horse, refused }) => (
          <li key={event.id} className="rounded-lg border border-line p-2">
            <p>
              <strong>{nameOf(horse)}</strong>, {shownTime(event.at)}: {shortly(event, programOf(horse))}
            </p>
            <p className="text-sm text-clay">{refused}</p>
          </li>
        ))}
        {list.media.map(({ id, horse, kind, refused }) => (
          <li key={id} className="rounded-lg border border-line p-2">
            <p>
              <strong>{nameOf(horse)}</strong>: a {kind === "voice" ? "voice note" : kind}
            </p>
            <p className="text-sm text-clay">{refused}</p>
          </li>
        ))}
      </ul>
      <button type="button" className="button justify-self-start" onClick={() => void sendAgain(list)}>
        Send again
      </button>
    </section>
  );
}

function AsFile({ waiting }: { waiting: number }) {
  const input = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ text: string; isBad: boolean } | null>(null);
  const takeOut = async (): Promise<void> => {
    const now = new Date().toISOString();
    saveFile(await waitingAsFile(now), `still-pine-waiting-${now.slice(0, 10)}.json`);
    setSaid({ text: "The file is out. What it holds stays here too, until it is sent or refused.", isBad: false });
  };
  const bringIn = async (file: File): Promise<void> => {
    // A browser opened just now may not have met its yard yet, and would take any yard's file.
    const hello = knownYard() === null ? await sender.hello() : null;
    const own = hello !== null && typeof hello === "object" ? hello.yard : knownYard();
    const events = readOutboxFile(await file.text(), own);
    if (typeof events === "string") {
      setSaid({ text: events, isBad: true });
      return;
    }
    const sent = await sendNow(events.map(({ horse, outing, event }) => ({ horse, outing, event: { ...event } })));
    if ("problem" in sent) {
      const named = sent.problem.errors
        ?.slice(0, 5)
        .map(({ path, expected, found }) => `${path} expected ${expected}, found ${found}.`);
      setSaid({ text: [sent.problem.detail, ...(named ?? [])].join(" "), isBad: true });
    } else
      setSaid({
        text: `${events.length} ${events.length === 1 ? "entry is" : "entries are"} in${sent.isSent ? "" : ", and waiting here to be sent"}. Brought in again, it changes nothing.`,
        isBad: false,
      });
  };
  return (
    <section aria-label="As a file" className="card grid gap-3">
      <h2 className="text-xl">As a file</h2>
      <p className="text-faint">
        A phone that never finds the yard's network gives what waits on it as a file; it comes in here, on the laptop.
        Photos and voice notes are not in it: they stay on the phone until it finds the network.
      </p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button" disabled={waiting === 0} onClick={() => void takeOut()}>
          <Download size={18} aria-hidden="true" /> Take out what waits
        </button>
        <button type="button" className="button" onClick={() => input.current?.click()}>
          <Upload size={18} aria-hidden="true" /> Bring in a file
        </button>
        <input
          ref={input}
          type="file"
          aria-label="File of waiting entries"
          className="sr-only"
          accept="application/json,.json"
          tabIndex={-1}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = "";
            if (file) void bringIn(file);
          }}
        />
      </div>
      {said && (
        <p role={said.isBad ? "alert" : "status"} className={said.isBad ? "font-semibold text-clay" : "font-semibold"}>
          {said.text}
        </p>
      )}
    </section>
  );
}

function Version() {
  const { hasNewVersion } = useReach();
  if (!hasNewVersion) return null;
  return (
    <section aria-label="New version" className="card grid gap-3">
      <h2 className="text-xl">A new version is here</h2>
      <p>It waits until nobody is in the pen and you are not looking, or you take it now. What waits here stays.</p>
      <button type="button" className="button justify-self-start" onClick={() => void takeNewVersion()}>
        Take it now
      </button>
    </section>
  );
}
