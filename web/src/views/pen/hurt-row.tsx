import { useEffect } from "react";
import { useSession } from "./pen-context";

const HURT_ASKED_MS = 20_000;

interface HurtRowProps {
  /** The mishap that is noted already. */
  mishap: string;
  onHurt: () => void;
  /** It need not be asked any more. */
  onDone: () => void;
}

/** A mishap is noted already; this only lets more be told, goes away by itself and moves nothing on the screen. */
export function HurtRow({ mishap, onHurt, onDone }: HurtRowProps) {
  const session = useSession();
  useEffect(() => {
    const timer = setTimeout(onDone, HURT_ASKED_MS);
    return () => clearTimeout(timer);
  }, [onDone]);
  const hurt = (): void => {
    session.correct(mishap, { with: { personHurt: true, severity: 3 } });
    onDone();
    onHurt();
  };
  return (
    <div role="status" className="grid grid-cols-[3fr_1fr] gap-1.5">
      <button type="button" onClick={hurt} className="pen-button border-clay bg-clay text-xl text-on-pine">
        Noted. A person is hurt
      </button>
      <button type="button" onClick={onDone} className="pen-button text-lg">
        nobody
      </button>
    </div>
  );
}
