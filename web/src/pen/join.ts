import type { RailView } from "@still-pine/contract/http";
import { DEFAULT_LINE, type Caps, type Exercise } from "@still-pine/core/outing";
import { is, type RecordEvent } from "@still-pine/core/record";
import { api } from "../api";
import { problemOf } from "../parts/problem";
import { keeper, type KeptEvent, type KeptOuting } from "../outbox/kept";
import { store } from "../store";

/** Joining an outing that another device began. */

/** Where nobody said what it sets out with. */
const USUAL_CAPS: Caps = { workingMinutes: 20, inHandMinutes: 45 };

/** The outing as this device keeps it, from what the server knows of it. */
export function outingFrom(view: RailView): KeptOuting {
  const plan = view.plan as
    (Pick<KeptOuting, "exercises" | "known" | "upTo" | "shut" | "checkUp"> & { caps?: Caps }) | null;
  const head = view.events.find((event) => is(event, "outing-start"));
  return {
    id: view.outing,
    horse: view.horse,
    horseName: view.horseName,
    program: view.program,
    ...(view.programFile ? { programFile: view.programFile } : {}),
    ...(plan?.checkUp ? { checkUp: plan.checkUp } : {}),
    ...(plan?.upTo ? { upTo: plan.upTo } : {}),
    ...(plan?.shut ? { shut: plan.shut } : {}),
    startedAt: view.startedAt,
    exercises: plan?.exercises ?? linesOf(view.events),
    known: plan?.known ?? [],
    caps: plan?.caps ?? {
      workingMinutes: head?.workingMinutes ?? USUAL_CAPS.workingMinutes,
      inHandMinutes: head?.inHandMinutes ?? USUAL_CAPS.inHandMinutes,
    },
    timeZone: view.timeZone,
    words: view.words,
    isOver: false,
    clockOffset: 0,
    dwellFrom: null,
    arrival: view.arrival,
    isJoined: true,
  };
}

/** What the events themselves say of today's exercises. */
function linesOf(events: readonly RecordEvent[]): Exercise[] {
  return events
    .filter((event) => is(event, "finish-line"))
    .map(({ step, count }) => ({
      step,
      line: { ...DEFAULT_LINE, count },
      isNew: false,
      sticky: null,
      last: {},
    }));
}

/**
 * Joins: keeps what the server has of the outing, so that it goes on without a network. Joined before, it is as it was left.
 *
 * @returns the problem's sentence where it cannot be joined
 */
export async function joinOuting(id: string): Promise<string | null> {
  const kept = await keeper();
  // Joined before, it is as it was left; what came since follows by itself.
  if (await kept.outing(id)) return null;
  const { data, error } = await store.dispatch(
    api.endpoints.rail.initiate(id, { forceRefetch: true, subscribe: false }),
  );
  if (!data) return problemOf(error).detail;
  const { outing, horse } = data;
  await kept.keepOuting(
    outingFrom(data),
    data.events.map((event): KeptEvent => ({ outing, horse, event, sent: 1 })),
  );
  return null;
}
