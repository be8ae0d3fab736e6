import type { AskEvent, SeriesEvent } from "../record";
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
  stretch: boolean;
}

/** What it was shown clean with: names of places and people, at most as many as are asked for, and the rest as it is asked. */
export interface Shown {
  places: readonly string[];
  people: readonly string[];
  settings: readonly string[];
  parts: readonly string[];
  canter: boolean;
  /** He was seen to stretch forward and down. */
  stretched: boolean;
}

/** What is said of a whole outing and matters to each side asked in it. */
export interface OutingFacts {
  shutDown: readonly string[];
  /** A sign of ease was seen while this step was worked. */
  eased: boolean;
  /** A canter was seen, loose or on the line and asked for. */
  canter: { near: boolean; off: boolean };
  /** He was seen to stretch in the work of this step. */
  stretched: { near: boolean; off: boolean };
  place: string | undefined;
  person: string | undefined;
}

/** An outing of which nothing is said. */
export const NOTHING_SAID: OutingFacts = {
  shutDown: [],
  eased: false,
  canter: { near: false, off: false },
  stretched: { near: false, off: false },
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
    stretch: step.elsewhere.includes("stretch"),
  };
}

/** Before the first clean ask. */
export const NOTHING_SHOWN: Shown = {
  places: [],
  people: [],
  settings: [],
  parts: [],
  canter: false,
  stretched: false,
};

/** With a clean ask, or a series that says it of all its asks: standing or moving, where on him, and whether it was at a canter. */
export function withAsk(shown: Shown, watch: Watch, ask: AskEvent | SeriesEvent): Shown {
  const part = watch.parts.length > 0 ? ask.part : undefined;
  const setting = watch.settings ? settingOf(ask) : undefined;
  const isSetting = setting !== undefined && !shown.settings.includes(setting);
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

/** Notes of an outing what is said of the whole of it, as far as it is asked for. @param way the side of the horse, or none */
export function noteWhole(visit: Visit, watch: Watch, facts: OutingFacts, way: "near" | "off" | "none"): void {
  visit.shutDown = facts.shutDown;
  if (watch.place && facts.place !== undefined) visit.place = facts.place;
  if (watch.person && facts.person !== undefined) visit.person = facts.person;
  if (watch.canter && isOn(facts.canter, way)) visit.canter = true;
  if (watch.stretch && isOn(facts.stretched, way)) visit.stretched = true;
}

const isOn = ({ near, off }: { near: boolean; off: boolean }, way: "near" | "off" | "none"): boolean =>
  way === "none" ? near || off : way === "near" ? near : off;

/** With an outing in which it came clean: its place, its person, and whether he cantered or stretched. */
export function withVisit(shown: Shown, visit: Visit, numbers: JudgeNumbers): Shown {
  const { place, person, canter = false, stretched = false } = visit;
  const { places, people } = shown;
  const isPlace = place !== undefined && places.length < numbers.places && !places.includes(place);
  const isPerson = person !== undefined && people.length < numbers.people && !people.includes(person);
  if (!isPlace && !isPerson && (!canter || shown.canter) && (!stretched || shown.stretched)) return shown;
  return {
    ...shown,
    places: isPlace ? [...places, place] : places,
    people: isPerson ? [...people, person] : people,
    canter: shown.canter || canter,
    stretched: shown.stretched || stretched,
  };
}
