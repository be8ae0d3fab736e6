import type { AskEvent } from "../record";
import type { JudgeNumbers, NeedRef, Step } from "../programs";
import { isAtCanter, settingOf } from "./classify";
import type { Visit } from "./visit";

/** What a side has to have been shown clean with, besides often enough: asked for by its own step or by one that rests on it. */
export interface Watch {
  place: boolean;
  person: boolean;
  settings: boolean;
  parts: readonly string[];
  canter: boolean;
}

/** What it was shown clean with: names of places and people, at most as many as are asked for, and the rest as it is asked. */
export interface Shown {
  places: readonly string[];
  people: readonly string[];
  settings: readonly string[];
  parts: readonly string[];
  canter: boolean;
}

/** What is said of a whole outing and matters to each side asked in it. */
export interface OutingFacts {
  shutDown: readonly string[];
  /** A sign of ease was seen while this step was worked. */
  eased: boolean;
  /** A canter was seen, loose or on the line and asked for. */
  canter: { near: boolean; off: boolean };
  place: string | undefined;
  person: string | undefined;
}

/** An outing of which nothing is said. */
export const NOTHING_SAID: OutingFacts = {
  shutDown: [],
  eased: false,
  canter: { near: false, off: false },
  place: undefined,
  person: undefined,
};

/** What is watched of a step: what it asks for itself, and what those that rest on it ask of it. */
export function watchOf(step: Step, refs: readonly NeedRef[]): Watch {
  return {
    place: step.elsewhere.includes("place"),
    person: step.elsewhere.includes("person"),
    settings: step.elsewhere.includes("settings") || refs.some((ref) => ref.setting !== undefined),
    parts: [...new Set(refs.flatMap((ref) => ref.parts ?? []))],
    canter: refs.some((ref) => ref.gait === "canter"),
  };
}

/** Before the first clean ask. */
export const NOTHING_SHOWN: Shown = { places: [], people: [], settings: [], parts: [], canter: false };

/** With a clean ask: standing or moving, where on him, and whether it was at a canter. */
export function withAsk(shown: Shown, watch: Watch, ask: AskEvent): Shown {
  const { part } = ask;
  const setting = settingOf(ask);
  const isSetting = watch.settings && setting !== undefined && !shown.settings.includes(setting);
  const isCanter = watch.canter && !shown.canter && isAtCanter(ask);
  const isPart = part !== undefined && watch.parts.includes(part) && !shown.parts.includes(part);
  if (!isSetting && !isPart && !isCanter) return shown;
  return {
    ...shown,
    canter: shown.canter || isCanter,
    settings: isSetting ? [...shown.settings, setting] : shown.settings,
    parts: isPart ? [...shown.parts, part] : shown.parts,
  };
}

/** With an outing in which it came clean: its place, its person, and whether he cantered. */
export function withVisit(shown: Shown, { place, person, canter = false }: Visit, numbers: JudgeNumbers): Shown {
  const { places, people } = shown;
  const isPlace = place !== undefined && places.length < numbers.places && !places.includes(place);
  const isPerson = person !== undefined && people.length < numbers.people && !people.includes(person);
  if (!isPlace && !isPerson && (!canter || shown.canter)) return shown;
  return {
    ...shown,
    places: isPlace ? [...places, place] : places,
    people: isPerson ? [...people, person] : people,
    canter: shown.canter || canter,
  };
}
