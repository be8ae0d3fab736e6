import { useEffect, useState } from "react";
import type { Program } from "@still-pine/core/programs";
import { graphOf, type Place } from "./graph";

/** Where the steps lie on the map; null until the worker has laid them out. */
export function usePlaces(program: Program): ReadonlyMap<string, Place> | null {
  const [places, setPlaces] = useState<ReadonlyMap<string, Place> | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./lay-out.worker.ts", import.meta.url), { type: "module" });
    worker.addEventListener("message", ({ data }: MessageEvent<Map<string, Place>>) => setPlaces(data));
    // A worker of our own has no origin to name.
    // oxlint-disable-next-line unicorn/require-post-message-target-origin
    worker.postMessage(graphOf(program));
    return () => worker.terminate();
  }, [program]);
  return places;
}
