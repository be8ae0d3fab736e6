import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { HelloView, PairedView, Problem } from "@still-pine/contract/http";
import { Field } from "../../parts/field";
import { ProblemNote } from "../../parts/page-state";
import { sender, sendKept } from "../../outbox/send";
import { TROUBLE_WORDS } from "../../outbox/trouble-words";
import { useSending } from "../../outbox/use-sending";
import { knownYard, meetYard } from "../../outbox/yard";
import { deviceId } from "../../writing/device";

/** A phone asks to be let in by a code; a locked laptop by its pass phrase. */
export function JoinPage() {
  const [hello, setHello] = useState<HelloView | string | null>(null);
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
            {TROUBLE_WORDS[hello as keyof typeof TROUBLE_WORDS].why}.{" "}
            {TROUBLE_WORDS[hello as keyof typeof TROUBLE_WORDS].todo}
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

const post = async (path: string, body: object): Promise<{ status: number; body: unknown } | null> => {
  try {
    const response = await fetch(`/api/${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
    });
    const text = await response.text();
    return { status: response.status, body: text ? JSON.parse(text) : null };
  } catch {
    return null;
  }
};

const AWAY: Problem = {
  type: "about:blank",
  title: "No answer",
  status: 0,
  detail: "The laptop does not answer. See that this phone is in the yard's network, and try again.",
};

function Pair({ hello }: { hello: HelloView }) {
  const navigate = useNavigate();
  const { waiting } = useSending();
  const [code, setCode] = useState(() => decodeURIComponent(location.hash.slice(1)));
  const [name, setName] = useState(() => hello.name ?? "");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const pair = async (): Promise<void> => {
    setBusy(true);
    const answer = await post("pair", { code, name: name.trim() || "A phone", recorder: deviceId() });
    setBusy(false);
    if (answer?.status !== 201) {
      setProblem(answer ? (answer.body as Problem) : AWAY);
      return;
    }
    const paired = answer.body as PairedView;
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
        <Field id="join-code" label="Code on the laptop">
          <input
            id="join-code"
            className="field text-2xl tracking-widest uppercase"
            autoComplete="one-time-code"
            autoCapitalize="characters"
            spellCheck={false}
            maxLength={40}
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
        </Field>
        <Field id="join-name" label="What this phone is called">
          <input
            id="join-name"
            className="field"
            maxLength={80}
            placeholder="M's phone"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <button type="submit" className="button button-main" disabled={busy || code.trim().length < 4}>
          {busy ? "Asking …" : "Let this phone in"}
        </button>
      </form>
      {problem && (
        <div className="mt-4">
          <ProblemNote problem={problem} />
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
  const [problem, setProblem] = useState<Problem | null>(null);
  if (hello.who === "laptop")
    return (
      <>
        <h1 className="mb-4 text-3xl">This is the laptop</h1>
        <p>It needs no pairing.</p>
      </>
    );
  const unlock = async (): Promise<void> => {
    const answer = await post("unlock", { phrase });
    if (answer?.status === 204) location.assign("/");
    else setProblem(answer ? (answer.body as Problem) : AWAY);
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
        <Field id="phrase" label="The yard's pass phrase">
          <input
            id="phrase"
            type="password"
            className="field"
            autoComplete="current-password"
            maxLength={200}
            value={phrase}
            onChange={(event) => setPhrase(event.target.value)}
          />
        </Field>
        <button type="submit" className="button button-main" disabled={phrase === ""}>
          Open
        </button>
      </form>
      {problem && (
        <div className="mt-4">
          <ProblemNote problem={problem} />
        </div>
      )}
    </>
  );
}
