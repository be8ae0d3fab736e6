import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { HelloView } from "@still-pine/contract/http";
import { usePairMutation, useUnlockMutation } from "../../api";
import { problemOf } from "../../parts/problem";
import { ProblemNote } from "../../parts/page-state";
import { TextField } from "../../parts/text-field";
import { sender, sendKept } from "../../outbox/send";
import type { Trouble } from "../../outbox/sender";
import { TROUBLE_WORDS } from "../../outbox/trouble-words";
import { useSending } from "../../outbox/use-sending";
import { knownYard, meetYard } from "../../outbox/yard";
import { beAgain } from "../../outbox/device";

/** A phone asks to be let in by a code; a locked laptop by its pass phrase. */
export function JoinPage() {
  const [hello, setHello] = useState<HelloView | Trouble | null>(null);
  useEffect(() => {
    void sender.hello().then(setHello);
  }, []);
  if (hello === null)
    return (
      <p role="status" className="p-6 text-faint">
        Asking the laptop …
      </p>
    );
  return (
    <div className="mx-auto max-w-xl">
      <title>Pair this phone · Still Pine</title>
      {typeof hello === "string" ? (
        <>
          <h1 className="mb-4 text-3xl">Pair this phone</h1>
          <p className="card">
            {TROUBLE_WORDS[hello].why}. {TROUBLE_WORDS[hello].todo}
          </p>
        </>
      ) : hello.door === "laptop" ? (
        <Unlock hello={hello} />
      ) : (
        <Pair hello={hello} />
      )}
    </div>
  );
}

function Pair({ hello }: { hello: HelloView }) {
  const navigate = useNavigate();
  const { waiting } = useSending();
  const [code, setCode] = useState(() => decodeURIComponent(location.hash.slice(1)));
  const [name, setName] = useState(() => hello.name ?? "");
  const [askIn, { error, isLoading }] = usePairMutation();
  const pair = async (): Promise<void> => {
    const { data: paired } = await askIn({ code, name: name.trim() || "A phone" });
    if (!paired) return;
    // The yard says what this phone is called in what it records.
    beAgain(paired.recorder, 0);
    const isOther = knownYard() !== null && knownYard() !== paired.yard;
    if (isOther) {
      const { changeYard } = await import("../../alone/start");
      await changeYard(paired.yard);
      return;
    }
    meetYard(paired.yard, true);
    // The code is used; it need not stand in the address any more.
    history.replaceState(null, "", "/join");
    if (paired.rights === "write" && paired.outing !== null) {
      void navigate(`/rail/${encodeURIComponent(paired.outing)}`);
      return;
    }
    void sendKept();
    void navigate("/");
  };
  return (
    <>
      <h1 className="mb-4 text-3xl">Pair this phone</h1>
      {(hello.who === "all" || hello.who === "write") && (
        <p className="mb-3">It is let in already, as “{hello.name}”. Another code gives it another right.</p>
      )}
      {hello.why !== null && hello.why !== "unknown" && (
        <p className="mb-3 font-semibold text-clay">{TROUBLE_WORDS[hello.why].why}.</p>
      )}
      {waiting > 0 && (
        <p className="mb-3">{waiting} entries wait on this phone; they are sent as soon as it is let in.</p>
      )}
      <form
        className="card grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void pair();
        }}
      >
        <TextField
          id="join-code"
          label="Code on the laptop"
          className="text-2xl tracking-widest uppercase"
          autoComplete="one-time-code"
          autoCapitalize="characters"
          spellCheck={false}
          maxLength={40}
          value={code}
          onChange={setCode}
        />
        <TextField
          id="join-name"
          label="What this phone is called"
          maxLength={80}
          placeholder="M's phone"
          value={name}
          onChange={setName}
        />
        <button type="submit" className="button button-main" disabled={isLoading || code.trim().length < 4}>
          {isLoading ? "Asking …" : "Let this phone in"}
        </button>
      </form>
      {error && (
        <div className="mt-4">
          <ProblemNote problem={problemOf(error)} />
        </div>
      )}
      <p className="mt-4 text-faint">
        A code is made on the laptop, under Yard, Phones. It is good for one phone and five minutes.
      </p>
    </>
  );
}

function Unlock({ hello }: { hello: HelloView }) {
  const [phrase, setPhrase] = useState("");
  const [open, { error }] = useUnlockMutation();
  if (hello.who === "laptop")
    return (
      <>
        <h1 className="mb-4 text-3xl">This is the laptop</h1>
        <p>It needs no pairing.</p>
      </>
    );
  const unlock = async (): Promise<void> => {
    if (!("error" in (await open({ phrase })))) location.assign("/");
  };
  return (
    <>
      <h1 className="mb-4 text-3xl">The laptop is locked</h1>
      <form
        className="card grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void unlock();
        }}
      >
        <TextField
          id="phrase"
          label="The yard's pass phrase"
          type="password"
          autoComplete="current-password"
          maxLength={200}
          value={phrase}
          onChange={setPhrase}
        />
        <button type="submit" className="button button-main" disabled={phrase === ""}>
          Open
        </button>
      </form>
      {error && (
        <div className="mt-4">
          <ProblemNote problem={problemOf(error)} />
        </div>
      )}
    </>
  );
}
