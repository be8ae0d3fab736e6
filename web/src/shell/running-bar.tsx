import { useEffect, useState } from "react";
import { Link } from "react-router";
import { runningOutings } from "../pen/begin";
import type { KeptOuting } from "../pen/kept";
import { keepSending } from "../pen/send";

/** The way back to outings that run on this device, looked up once a page. What was recorded is sent from here as well. */
export function RunningBar() {
  const [running, setRunning] = useState<readonly KeptOuting[]>([]);
  useEffect(() => {
    void runningOutings().then(setRunning);
  }, []);
  useEffect(keepSending, []);
  if (running.length === 0) return null;
  return (
    <nav aria-label="Outings that run" className="bg-pine text-on-pine">
      <ul className="mx-auto flex max-w-7xl flex-wrap items-center gap-x-4 px-4 py-1">
        {running.map(({ id, horseName }) => (
          <li key={id}>
            <Link to={`/pen/${encodeURIComponent(id)}`} className="flex min-h-11 items-center font-semibold underline">
              {horseName} is in the pen: back to the outing
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
