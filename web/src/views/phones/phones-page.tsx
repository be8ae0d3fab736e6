import { Smartphone } from "lucide-react";
import { QRCodeSVG } from "qrcode.react";
import { useCallback, useState } from "react";
import type { CodeView, DeviceView, PhonesView } from "@still-pine/contract/http";
import { useChangeDeviceMutation, useMakeCodeMutation, usePhonesQuery } from "../../api";
import { problemOf } from "../../parts/problem";
import { NoDataYet, ProblemNote } from "../../parts/page-state";
import { shownTime } from "../../outbox/use-sending";
import { CodeCard } from "./code-card";
import { PassPhrase } from "./pass-phrase";

/** Phones: how one comes in, which are in, and shutting one out. */
export function PhonesPage() {
  const { data, error, refetch } = usePhonesQuery(undefined, { pollingInterval: 15_000 });
  if (!data) return <NoDataYet what="the phones" error={error} retry={() => void refetch()} />;
  return (
    <>
      <title>Phones · Still Pine</title>
      <h1 className="mb-4 text-3xl">Phones</h1>
      <div className="grid items-start gap-5 lg:grid-cols-2">
        {data.address === null ? <NotOpen /> : <WayIn phones={data} />}
        <Devices devices={data.devices} />
        <PassPhrase isSet={data.hasPassPhrase} />
      </div>
    </>
  );
}

function NotOpen() {
  return (
    <section aria-label="A way in" className="card grid gap-3">
      <h2 className="text-xl">No way in for phones yet</h2>
      <p>
        Still Pine answers this laptop alone. To let phones in, stop it and start it with{" "}
        <code>bin/start --phones</code>. What that opens, and how to take it to the pen, is told in{" "}
        <code>docs/phones.md</code>.
      </p>
    </section>
  );
}

function WayIn({ phones }: { phones: PhonesView }) {
  const [make, { error, isLoading }] = useMakeCodeMutation();
  const [made, setMade] = useState<CodeView | null>(null);
  const over = useCallback(() => setMade(null), []);
  const begin = async (): Promise<void> => {
    const result = await make({ rights: "all" });
    if (result.data) setMade(result.data);
  };
  return (
    <section aria-label="A way in" className="card grid gap-4">
      {phones.trustAddress !== null && (
        <>
          <h2 className="text-xl">1. Once for each phone: trust the yard</h2>
          <div className="flex flex-wrap items-center gap-5">
            <div className="rounded-lg bg-white p-3">
              <QRCodeSVG value={phones.trustAddress} size={132} title="Address of the steps to trust the yard" />
            </div>
            <div className="grid max-w-xs gap-1">
              <p>
                Scan this with the phone's camera. It shows the steps for an iPhone and for Android, and what they mean.
              </p>
              <p className="text-sm wrap-anywhere">{phones.trustAddress}</p>
            </div>
          </div>
          <details className="text-sm">
            <summary className="min-h-6 cursor-pointer">Fingerprint of the yard's certificate (SHA-256)</summary>
            <code className="wrap-anywhere">{phones.fingerprint}</code>
          </details>
        </>
      )}
      <h2 className="text-xl">{phones.trustAddress === null ? "Let a phone in" : "2. Let it in"}</h2>
      {made ? (
        <CodeCard key={made.code} made={made} onOver={over} />
      ) : (
        <p>
          A code lets one phone in with all rights. For a helper who only writes down one outing, make the code in the
          pen: More, Helper at the rail.
        </p>
      )}
      {error && <ProblemNote problem={problemOf(error)} />}
      <button
        type="button"
        className={`button justify-self-start ${made ? "" : "button-main"}`}
        disabled={isLoading}
        onClick={() => void begin()}
      >
        <Smartphone size={18} aria-hidden="true" /> {made ? "Another code" : "Make a code"}
      </button>
    </section>
  );
}

const STATE_WORDS: Record<DeviceView["state"], string> = { in: "let in", withdrawn: "shut out", expired: "key ended" };

function Devices({ devices }: { devices: readonly DeviceView[] }) {
  return (
    <section aria-label="Phones of this yard" className="card grid gap-3">
      <h2 className="text-xl">Phones of this yard</h2>
      {devices.length === 0 ? (
        <p className="text-faint">None was let in yet.</p>
      ) : (
        <ul className="grid gap-2">
          {devices.map((device) => (
            <Device key={device.id} device={device} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Device({ device }: { device: DeviceView }) {
  const [change, { error, isLoading }] = useChangeDeviceMutation();
  const [name, setName] = useState<string | null>(null);
  const { id, version, state } = device;
  const rights =
    device.rights === "all"
      ? "all rights"
      : `writes down one outing${device.horseName ? ` of ${device.horseName}` : ""}`;
  const save = async (fields: { name: string; isIn: boolean }): Promise<void> => {
    const result = await change({ id, version, fields });
    if (result.data) setName(null);
  };
  return (
    <li className="grid gap-2 rounded-lg border border-line p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        {name === null ? (
          <p>
            <strong>{device.name}</strong>, {rights}
            <span className="block text-sm text-faint">
              {state === "in" ? "" : `${STATE_WORDS[state]} · `}last seen {shownTime(device.seenAt)}
            </span>
          </p>
        ) : (
          <form
            className="flex flex-wrap gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void save({ name, isIn: true });
            }}
          >
            <input
              aria-label={`Name of ${device.name}`}
              className="field"
              maxLength={80}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <button type="submit" className="button" disabled={name.trim() === ""}>
              Save
            </button>
          </form>
        )}
        {state === "in" && name === null && (
          <span className="flex gap-2">
            <button
              type="button"
              className="button"
              onClick={() => setName(device.name)}
              aria-label={`Rename ${device.name}`}
            >
              Rename
            </button>
            <button
              type="button"
              className="button text-clay"
              disabled={isLoading}
              onClick={() => void save({ name: device.name, isIn: false })}
              aria-label={`Shut out ${device.name}`}
            >
              Shut out
            </button>
          </span>
        )}
      </div>
      {error && <ProblemNote problem={problemOf(error)} />}
    </li>
  );
}
