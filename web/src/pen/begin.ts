import { v7 as newId } from "uuid";
import type { YardView } from "@still-pine/contract/http";
import type { BodyOf, EventBody, RecordEvent } from "@still-pine/core/record";
import { stamp } from "../writing/stamp";
import { keeper, type KeptEvent, type KeptOuting, type Keeper } from "../outbox/kept";

/** After so long without an entry nobody is in the pen any more. */
export const FORGOTTEN_MS = 2 * 60 * 60 * 1000;

const of = ({ id, horse }: Pick<KeptOuting, "id" | "horse">, event: RecordEvent): KeptEvent => ({
  outing: id,
  horse,
  event,
  sent: 0,
});

/** A program of the yard's own goes into the pen with the outing. */
export function ownProgram(
  { programs = [] }: Pick<YardView, "programs">,
  { id, version }: KeptOuting["program"],
): Pick<KeptOuting, "programFile"> {
  const programFile = programs.find((file) => file.id === id && file.version === version);
  return programFile ? { programFile } : {};
}

/** Begins an outing on this device: its head, and what counts as enough of each exercise. */
export async function beginOuting(
  plan: Omit<KeptOuting, "id" | "startedAt" | "isOver" | "clockOffset" | "dwellFrom">,
  head: Omit<BodyOf<"outing-start">, "type">,
): Promise<KeptOuting> {
  const id = newId();
  const startedAt = new Date().toISOString();
  const outing: KeptOuting = { ...plan, id, startedAt, isOver: false, clockOffset: 0, dwellFrom: null };
  const event = (body: EventBody, more: { id?: string } = {}): KeptEvent =>
    of(outing, stamp(body, { at: startedAt, ...more }));
  await (
    await keeper()
  ).keepOuting(outing, [
    event(
      {
        type: "outing-start",
        ...head,
        program: plan.program.id,
        programVersion: plan.program.version,
        ...plan.caps,
      },
      { id: `${id}:start` },
    ),
    ...(plan.checkUp
      ? [
          event({
            type: "check-up",
            steps: plan.checkUp.tests.map(({ step }) => step),
            spared: plan.checkUp.spared,
            held: plan.checkUp.tests.flatMap(({ step, held }) => (held ? [step] : [])),
            expected: Math.round(plan.checkUp.expected),
          }),
        ]
      : []),
    ...plan.exercises.map(({ step, line }) => event({ type: "finish-line", step, ...line })),
  ]);
  return outing;
}

/** Outings that run on this device, earliest first. Those nobody ended are closed first, as they were left. */
export async function runningOutings(now = Date.now()): Promise<KeptOuting[]> {
  const kept = await keeper();
  const open = (await kept.outings()).filter(({ isOver, isJoined }) => !isOver && !isJoined);
  const still = await Promise.all(open.map(async (one) => ((await closeForgotten(kept, one, now)) ? [] : [one])));
  return still.flat().toSorted((a, b) => a.startedAt.localeCompare(b.startedAt));
}

/** Closes an outing nobody ended: it ended with its last entry, and says so. */
async function closeForgotten(kept: Keeper, outing: KeptOuting, now: number): Promise<boolean> {
  const events = await kept.events(outing.id);
  // A clock that was measured meanwhile is nothing that happened in the pen.
  const entries = events.filter(({ event }) => event.type !== "clock-skew");
  const last = entries.reduce((latest, { event }) => (event.at > latest ? event.at : latest), outing.startedAt);
  if (now + outing.clockOffset - Date.parse(last) < FORGOTTEN_MS) return false;
  await kept.keepEvents([
    of(outing, stamp({ type: "outing-end", unended: true }, { id: `${outing.id}:end`, at: last })),
  ]);
  await kept.changeOuting(outing.id, { isOver: true });
  return true;
}
