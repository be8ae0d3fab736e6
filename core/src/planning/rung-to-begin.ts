import { asFarAsRung, heardBy, saidRung, sideOfAsk, worthOfAsk } from "../evidence";
import type { Exercise } from "../outing";
import { placeOfRung, sidesOf, type SideKey, type Step } from "../programs";
import type { SideJudgement } from "../readiness";
import { isAsk, type AskEvent, type FoldedOuting } from "../record";

/**
 * Ids of the rungs a step begins on today, by side; a side that is not named begins on the smallest. Where its rung was said the last
 * time: the highest that came clean then, up to the standard; where none did, the one under the lowest that was asked. Where it was
 * never said: the standard for a side that is steady. Common practice, no published source.
 *
 * @param outings of late, earliest first
 */
export function rungsToBegin(
  step: Step,
  outings: readonly Pick<FoldedOuting, "events">[],
  sides: Partial<Record<SideKey, Pick<SideJudgement, "status">>>,
): NonNullable<Exercise["from"]> {
  const { rungs, standard } = step.ladder;
  return Object.fromEntries(
    sidesOf(step).flatMap((side) => {
      const place = lastReached(step, side, outings) ?? (sides[side]?.status === "steady" ? standard : 0);
      const rung = rungs[Math.min(place, standard)];
      return place > 0 && rung ? [[side, rung.id] as const] : [];
    }),
  );
}

/** Place of the highest rung that came clean in the latest outing in which a rung was said; null where none was. */
function lastReached(step: Step, side: SideKey, outings: readonly Pick<FoldedOuting, "events">[]): number | null {
  for (const { events } of outings.toReversed()) {
    const asks = events
      .map((event) => heardBy(event, step))
      .filter(isAsk)
      .filter((ask) => ask.step === step.id && sideOfAsk(ask, step) === side)
      .flatMap((ask) => withPlace(ask, step));
    if (asks.length === 0) continue;
    const clean = asks.filter(({ ask, place }) => worthOfAsk(ask, asFarAsRung(step, place)) === "clean");
    if (clean.length > 0) return Math.max(...clean.map(({ place }) => place));
    return Math.max(0, Math.min(...asks.map(({ place }) => place)) - 1);
  }
  return null;
}

function withPlace(ask: AskEvent, step: Step): { ask: AskEvent; place: number }[] {
  const place = saidRung(ask, step);
  return place === null ? [] : [{ ask, place }];
}

/**
 * Where a side begins whose ladder has a gate within it that is shut: no higher than the rung before it.
 *
 * @param upTo id of the last rung that may be worked; nothing where the whole ladder may
 */
export function rungsUpTo(
  { ladder }: Step,
  from: NonNullable<Exercise["from"]>,
  upTo: string | undefined,
): NonNullable<Exercise["from"]> {
  const most = upTo === undefined ? -1 : placeOfRung(ladder, upTo);
  if (upTo === undefined || most < 0) return from;
  return Object.fromEntries(
    Object.entries(from).map(([side, rung]) => [side, placeOfRung(ladder, rung) > most ? upTo : rung]),
  );
}

/**
 * Whether every side was shown the rung before the gate already: then nothing is left to work before the gate is open.
 *
 * @param from as `rungsUpTo` gives it
 */
export const isShownUpTo = (step: Step, from: NonNullable<Exercise["from"]>, upTo: string): boolean =>
  sidesOf(step).every((side) => from[side] === upTo);
