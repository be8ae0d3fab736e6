import { useCallback, useEffect, useMemo, useState } from "react";
import type { OutingView } from "@still-pine/contract/http";
import { SHIPPED, type ProgramBook } from "@still-pine/core/programs";
import { foldOuting, type OutingPlan, type OutingState } from "@still-pine/core/outing";
import {
  headOf,
  isCorrection,
  orderEvents,
  resolveCorrections,
  standingEvents,
  type EventBody,
  type Pair,
  type RecordEvent,
  type HorseId,
  type OutingId,
} from "@still-pine/core/record";
import { useBook } from "../book/use-book";
import { useOutingQuery } from "../api";
import { keeper, type KeptEvent, type KeptOuting } from "../outbox/kept";
import { keepHere } from "../outbox/now";
import { sendBatch, sendKept } from "../outbox/send";
import { planOf } from "../outbox/plan-of";
import { stamp } from "../outbox/stamp";

export interface ReviewedOuting {
  plan: OutingPlan;
  state: OutingState;
  /** What stands, in its order. */
  events: readonly RecordEvent[];
  /** Asks that two devices both saw; the one that counts is among the events. */
  pairs: readonly Pair[];
  /** What was struck out, and can be brought back. */
  struckOut: readonly RecordEvent[];
  /** By struck-out entry, the correction that strikes it out. */
  strikes: ReadonlyMap<string, string>;
  endedAt: number;
  unended: boolean;
}

export interface Loaded {
  kept: KeptOuting | undefined;
  events: readonly KeptEvent[];
}

/** An outing as this device and the server have it together; what is changed here is kept on the device first. */
export function useReviewedOuting(horse: HorseId, outing: OutingId) {
  const book = useBook();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [unkept, setUnkept] = useState(false);
  const [isSent, setSent] = useState<boolean | null>(null);
  const {
    data: view,
    error,
    refetch,
    isUninitialized,
  } = useOutingQuery({ horse, outing }, { skip: isSent === null, refetchOnMountOrArgChange: true });

  const load = useCallback(async (): Promise<void> => {
    const from = await keeper();
    const [kept, events] = await Promise.all([from.outing(outing), from.events(outing)]);
    setLoaded({ kept, events });
  }, [outing]);
  const send = useCallback(async (): Promise<void> => {
    const done = await sendKept().catch(() => "later" as const);
    setSent(done === "all");
    await load();
  }, [load]);
  useEffect(() => {
    void Promise.resolve().then(load).then(send);
  }, [load, send]);

  /** Adds something to the outing afterwards, all of it or none: kept here, sent, and the verdicts asked anew. */
  const addAll = async (bodies: readonly EventBody[], at?: string): Promise<void> => {
    const entries = bodies.map((body): KeptEvent => {
      const event = stamp(body, { isAfterwards: true, ...(at === undefined ? {} : { at }) });
      return { horse, outing, event, sent: 0 };
    });
    const isKept = await keepHere(entries);
    // A device without room: straight to the server then.
    setUnkept(!isKept && !(await sendBatch(entries)));
    await load();
    await send();
    if (!isUninitialized) void refetch();
  };

  const reviewed = useMemo(
    () => (loaded && (loaded.kept || view) ? review(loaded, view, book) : null),
    [loaded, view, book],
  );
  const refused = loaded?.events.flatMap((one) => one.refused ?? []) ?? [];
  const kept = loaded?.kept ?? null;
  const add = (body: EventBody, at?: string): Promise<void> => addAll([body], at);
  const retry = (): void => void send().then(() => refetch());
  return { reviewed, kept, view, error, isSent, refused, unkept, add, addAll, retry };
}

/** An outing from what this device keeps of it and what the server has; one of the two may be missing. */
export function review(
  { kept, events: recorded }: Loaded,
  view: OutingView | undefined,
  book: ProgramBook = SHIPPED,
): ReviewedOuting {
  const fromServer = view?.entries.flatMap((one) => [one.event, ...one.corrections.map(({ event }) => event)]) ?? [];
  const byId = new Map<string, RecordEvent>();
  for (const event of [...fromServer, ...recorded.map((one) => one.event)]) byId.set(event.id, event);
  const history = orderEvents([...byId.values()]);
  const corrections = resolveCorrections(history);
  const { events, pairs, timeOf } = standingEvents(history, corrections);
  const said = kept ? planOf(kept) : planFrom(view, book);
  const last = history.at(-1);
  const lastAt = last ? new Date(timeOf(last)).toISOString() : said.startedAt;
  const head = headOf({ startedAt: said.startedAt, endedAt: view?.outing.endedAt ?? lastAt }, events);
  const plan = { ...said, startedAt: head.startedAt };
  const end = events.findLast(({ type }) => type === "outing-end") as { unended?: boolean } | undefined;
  const struckOut = history
    .filter((event) => !isCorrection(event))
    .map((event) => corrections.standingOf(event))
    .filter(({ voided }) => voided);
  return {
    plan,
    state: foldOuting(plan, history),
    events,
    pairs,
    strikes: new Map(
      struckOut.flatMap(({ event, by }) => {
        const strike = by.findLast((one) => one.void);
        return strike ? [[event.id, strike.id]] : [];
      }),
    ),
    struckOut: struckOut.map(({ event }) => event),
    endedAt: Date.parse(head.endedAt),
    unended: end?.unended === true || view?.head["unended"] === true,
  };
}

const NO_CAP = { workingMinutes: 600, inHandMinutes: 600 };

/** The plan of an outing that was not recorded on this device, as far as its events say it. */
function planFrom(view: OutingView | undefined, book: ProgramBook): OutingPlan {
  const { horse, program, head, outing } = view ?? {};
  const minutes = (name: "workingMinutes" | "inHandMinutes"): number => Number(head?.[name] ?? NO_CAP[name]);
  return {
    program: program ? book.find(program.id, program.version) : book.goneBy(horse?.program ?? { id: "" }),
    startedAt: outing?.startedAt ?? new Date(0).toISOString(),
    exercises: [],
    known: [],
    caps: { workingMinutes: minutes("workingMinutes"), inHandMinutes: minutes("inHandMinutes") },
  };
}
