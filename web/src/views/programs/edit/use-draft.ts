import { useCallback, useEffect, useRef, useState } from "react";
import type { ProgramFile } from "@still-pine/core/programs";
import { useProgramsQuery, usePutDraftMutation } from "../../../api";
import { problemOf } from "../../../parts/problem";

const SAVE_AFTER_MS = 600;
const HISTORY_MOST = 200;

export type Saving = "saved" | "saving" | { trouble: string };

interface History {
  past: readonly ProgramFile[];
  now: ProgramFile;
  future: readonly ProgramFile[];
}

/** A draft while it is written: every change is kept at the yard a moment later, and can be taken back and done again. */
export function useDraft(id: string) {
  const { data, error, refetch } = useProgramsQuery(undefined, { refetchOnMountOrArgChange: true });
  const stored = data?.drafts.find((one) => one.id === id);
  const [history, setHistory] = useState<History | null>(null);
  const [saving, setSaving] = useState<Saving>("saved");
  const [put] = usePutDraftMutation();
  const version = useRef<number | null>(null);
  const waiting = useRef<Promise<void>>(Promise.resolve());
  if (stored && history === null) setHistory({ past: [], now: stored.file as unknown as ProgramFile, future: [] });
  useEffect(() => {
    if (stored && version.current === null) version.current = stored.version;
  }, [stored]);

  const file = history?.now;
  const isFirst = useRef(true);
  useEffect(() => {
    if (!file) return undefined;
    // As it came it is stored already.
    if (isFirst.current) {
      isFirst.current = false;
      return undefined;
    }
    setSaving("saving");
    const timer = setTimeout(() => {
      waiting.current = waiting.current.then(async () => {
        const result = await put({ id, version: version.current ?? 0, file });
        if (result.data) {
          version.current = result.data.version;
          setSaving("saved");
        } else setSaving({ trouble: problemOf(result.error).detail });
      });
    }, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [file, id, put]);

  const change = useCallback(
    (next: (file: ProgramFile) => ProgramFile): void =>
      setHistory((all) => all && { past: [...all.past, all.now].slice(-HISTORY_MOST), now: next(all.now), future: [] }),
    [],
  );
  const undo = useCallback(
    (): void =>
      setHistory((all) => {
        const last = all?.past.at(-1);
        return all && last ? { past: all.past.slice(0, -1), now: last, future: [all.now, ...all.future] } : all;
      }),
    [],
  );
  const redo = useCallback(
    (): void =>
      setHistory((all) => {
        const [next, ...future] = all?.future ?? [];
        return all && next ? { past: [...all.past, all.now], now: next, future } : all;
      }),
    [],
  );
  return {
    file,
    isMissing: data !== undefined && !stored && history === null,
    error,
    refetch,
    saving,
    change,
    undo,
    redo,
    canUndo: (history?.past.length ?? 0) > 0,
    canRedo: (history?.future.length ?? 0) > 0,
    /** The version the yard has of it. */
    storedVersion: (): number => version.current ?? 0,
  };
}
