import { v7 as newId } from "uuid";
import type { YardView } from "@still-pine/contract/http";
import type { BodyOf, EventBody } from "@still-pine/core/record";
import { beAgain } from "../outbox/device";
import { stamp } from "../outbox/stamp";
import { keeper, type KeptEvent, type KeptOuting } from "../outbox/kept";
import { entryOf } from "../outbox/running";

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
    entryOf(outing, stamp(body, { at: startedAt, ...more }));
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

/** Whoever began the outing here goes on with it under the same name and count. */
export function beTheBeginner({ id }: KeptOuting, events: readonly KeptEvent[]): void {
  const device = events.find(({ event }) => event.id === `${id}:start`)?.event.device;
  if (device === undefined) return;
  const seqs = events.flatMap(({ event }) => (event.device === device ? [event.seq ?? 0] : []));
  beAgain(device, Math.max(0, ...seqs));
}
