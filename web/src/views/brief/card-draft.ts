import type { HorseId, StepId } from "@still-pine/core/record";
import type { BriefView } from "@still-pine/contract/http";
import type { Brief } from "@still-pine/core/planning";
import type { Caps, Exercise, FinishLine } from "@still-pine/core/outing";

/** What is filled in on the opening card. Kept in this browser until the outing begins, so that no reload loses it. */
export interface CardDraft {
  day: string;
  exercises: (Exercise & { isCold: boolean })[];
  caps: Caps;
  capReason: string;
  place: string;
  handler: string;
  helper: string;
  gear: string[];
  caught: string;
  caughtSeconds: number | null;
  /** When the stop watch was started; milliseconds since 1970. */
  watchFrom: number | null;
  /** States said of him: sore, fresh and so on. */
  state: string[];
}

const KEY = "still-pine.cards";

function readAll(): Record<string, CardDraft> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, CardDraft>;
  } catch {
    return {};
  }
}

/** The card as it was left today, or a fresh one as the brief proposes it. */
export function openCard({ horse, yard, brief }: BriefView): CardDraft {
  const kept = readAll()[horse.id];
  return kept?.day === yard.today ? kept : proposeCard(brief, yard.today);
}

export function proposeCard(brief: Brief, day: string): CardDraft {
  const { last } = brief;
  return {
    day,
    exercises: [
      ...brief.checkCold.map((one) => ({ ...one, isCold: true })),
      ...brief.edge.map((one) => ({ ...one, isCold: false })),
    ],
    caps: { workingMinutes: brief.caps.workingMinutes, inHandMinutes: brief.caps.inHandMinutes },
    capReason: "",
    place: last?.place ?? "",
    handler: last?.handler ?? "",
    helper: "",
    gear: [],
    caught: "",
    caughtSeconds: null,
    watchFrom: null,
    state: [],
  };
}

export function keepCard(horse: HorseId, card: CardDraft | null): void {
  try {
    const { [horse]: _before, ...others } = readAll();
    localStorage.setItem(KEY, JSON.stringify(card ? { ...others, [horse]: card } : others));
  } catch {
    // Refused: the card holds for this page.
  }
}

/** What is missing or wrong before going in, by field. */
export function cardErrors(card: CardDraft, brief: Brief): Partial<Record<"place" | "handler" | "capReason", string>> {
  const isMore =
    card.caps.workingMinutes > brief.caps.workingMinutes || card.caps.inHandMinutes > brief.caps.inHandMinutes;
  return {
    ...(card.place.trim() ? {} : { place: "Say where." }),
    ...(card.handler.trim() ? {} : { handler: "Say who handles him." }),
    ...(isMore && !card.capReason.trim()
      ? { capReason: `More than ${brief.caps.name} is to do: say why, or take it back.` }
      : {}),
  };
}

/** The outing's head as the card has it; what was left open is left out. */
export function headOf(card: CardDraft): Record<string, unknown> {
  const { place, handler, helper, gear, caught, caughtSeconds, capReason, state } = card;
  const said = (name: string, text: string): Record<string, string> => (text.trim() ? { [name]: text.trim() } : {});
  return {
    ...said("place", place),
    ...said("handler", handler),
    ...said("helper", helper),
    ...said("caught", caught),
    ...said("capReason", capReason),
    ...(gear.length > 0 ? { gear } : {}),
    ...(caughtSeconds === null ? {} : { caughtSeconds }),
    ...Object.fromEntries(state.map((name) => (COMPANIES.has(name) ? ["company", name] : [name, true]))),
  };
}

const COMPANIES = new Set(["alone", "mates-in-sight", "mates-beside"]);

export const withLine = (card: CardDraft, step: StepId, change: Partial<FinishLine>): CardDraft => ({
  ...card,
  exercises: card.exercises.map((one) => (one.step === step ? { ...one, line: { ...one.line, ...change } } : one)),
});
