import { QRCodeSVG } from "qrcode.react";
import { useEffect, useState } from "react";
import type { CodeView } from "@still-pine/contract/http";

/** A code to be read off the screen or scanned, and how long it is still good. */
export function CodeCard({ made, onOver }: { made: CodeView; onOver: () => void }) {
  const left = useSecondsLeft(made.expiresAt);
  useEffect(() => {
    if (left <= 0) onOver();
  }, [left, onOver]);
  return (
    <div className="flex flex-wrap items-center gap-5">
      {made.address !== null && (
        <div className="rounded-lg bg-white p-3">
          <QRCodeSVG value={made.address} size={176} title="Address and code of this pairing" />
        </div>
      )}
      <div className="grid gap-1">
        <p
          className="font-mono text-4xl font-bold tracking-widest"
          aria-label={`Code ${made.code.split("").join(" ")}`}
        >
          {made.code}
        </p>
        <p className="text-faint">
          For one phone, still good for {Math.floor(Math.max(0, left) / 60)}:
          {String(Math.max(0, left) % 60).padStart(2, "0")}
        </p>
        {made.address !== null && <p className="text-sm wrap-anywhere">{made.address.split("#")[0]}</p>}
      </div>
    </div>
  );
}

/** Counted from when the code came, so that a clock that is out does not matter. */
function useSecondsLeft(expiresAt: string): number {
  const [until] = useState(() => Math.min(Date.parse(expiresAt), Date.now() + 5 * 60_000));
  const [left, setLeft] = useState(() => Math.ceil((until - Date.now()) / 1000));
  useEffect(() => {
    const timer = setInterval(() => setLeft(Math.ceil((until - Date.now()) / 1000)), 1000);
    return () => clearInterval(timer);
  }, [until]);
  return left;
}
