import { createContext, use, useEffect, useState, useSyncExternalStore } from "react";
import { useDispatch, useSelector } from "react-redux";
import type { PenSession } from "../../pen/session";
import type { Snapshot } from "../../pen/snapshot";
import { penSettingsChanged, type PenSettings } from "../../pen/settings";
import type { RootState } from "../../store";

export const PenContext = createContext<PenSession | null>(null);

export function useSession(): PenSession {
  const session = use(PenContext);
  if (!session) throw new Error("no outing is open here");
  return session;
}

/** One part of how the outing stands; the caller is drawn anew when that part is another one. */
export function usePen<Part>(pick: (snapshot: Snapshot, session: PenSession) => Part): Part {
  const session = useSession();
  return useSyncExternalStore(session.subscribe, () => pick(session.read(), session));
}

export function usePenSettings(): [PenSettings, (change: Partial<PenSettings>) => void] {
  const dispatch = useDispatch();
  const settings = useSelector((state: RootState) => state.penSettings);
  return [settings, (change) => dispatch(penSettingsChanged(change))];
}

/** The outing's time, once a second. */
export function usePenTime(): number {
  const session = useSession();
  const [now, setNow] = useState(() => session.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(session.now()), 1000);
    return () => clearInterval(timer);
  }, [session]);
  return now;
}
