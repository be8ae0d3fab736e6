import { useEffect, useState } from "react";
import { Link } from "react-router";
import { useRunningQuery } from "../api";
import { runningOutings } from "../outbox/running";
import type { KeptOuting } from "../outbox/kept";

const LOOK_EVERY_MS = 20_000;

/** What the page before found: until this one has looked nothing moves. */
let lastKnown: readonly KeptOuting[] = [];

/** The way back to outings that run on this device, looked up once a page, and into those that run on another one. */
export function RunningBar() {
  const [running, setRunning] = useState(lastKnown);
  const { data: elsewhere = [] } = useRunningQuery(undefined, {
    pollingInterval: LOOK_EVERY_MS,
    skipPollingIfUnfocused: true,
  });
  useEffect(() => {
    void runningOutings().then((found) => {
      lastKnown = found;
      setRunning(found);
    });
  }, []);
  const others = elsewhere.filter(({ outing }) => !running.some(({ id }) => id === outing));
  if (running.length + others.length === 0) return null;
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
        {others.map(({ outing, horseName, handler }) => (
          <li key={outing}>
            <Link to={`/rail/${encodeURIComponent(outing)}`} className="flex min-h-11 items-center underline">
              {horseName} is in the pen{handler ? ` with ${handler}` : ""}: help at the rail
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
