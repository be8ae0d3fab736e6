import type { Program } from "../programs";
import type { Finding, FindingCode, SideKey, Status } from "./types";

export type { Status };

/** Every sentence a person reads about a verdict is made here, from codes; web, report and command line say the same. */

export const STATUS_WORDS: Record<Status, string> = {
  untried: "Untried",
  begun: "Begun",
  coming: "Coming",
  slipped: "Slipped",
  rusty: "Rusty",
  steady: "Steady",
};

export const STATUS_MEANS: Record<Status, string> = {
  untried: "not asked yet",
  begun: "asked, not enough to say more",
  coming: "more than half of it clean",
  slipped: "was steady, newer asks say otherwise",
  rusty: "was steady, a cold check is due",
  steady: "every rule is met",
};

const STATUS_IS: Record<Status, string> = {
  untried: "has not been tried",
  begun: "is only begun",
  coming: "is coming and not there yet",
  slipped: "has slipped",
  rusty: "waits for a cold check",
  steady: "is steady",
};

const SIDE_WORDS: Record<SideKey, string> = {
  near: "near side",
  off: "off side",
  none: "",
  "near-fore": "near fore",
  "near-hind": "near hind",
  "off-fore": "off fore",
  "off-hind": "off hind",
};

export function sideInWords(side: SideKey | undefined): string {
  return side ? SIDE_WORDS[side] : "";
}

const onSide = (side: SideKey | undefined): string => (side && side !== "none" ? ` on the ${SIDE_WORDS[side]}` : "");

const plural = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

export function stepName(program: Program, id: string): string {
  return program.steps.find((step) => step.id === id)?.name ?? id;
}

const percent = (value: unknown): string => `${Math.round(Number(value) * 100)} %`;

interface OpenFacts {
  code: FindingCode;
  side?: SideKey;
  count?: number;
  step?: string;
}

/** One thing to do, as a sentence without a full stop: "3 more clean asks on the off side". */
export function openInWords(action: OpenFacts, program: Program): string {
  const { code, side, step } = action;
  const count = action.count ?? 1;
  switch (code) {
    case "clean-share":
    case "light":
      return `${plural(count, "more clean ask")}${onSide(side)}`;
    case "different-days":
      return `work it on ${plural(count, "further day")}${onSide(side)}`;
    case "cold-asks":
      return count === 1
        ? `a clean first ask${onSide(side)} another day`
        : `a clean first ask${onSide(side)} on ${count} days running`;
    case "relaxed":
      return count === 1 ? `one quiet outing${onSide(side)}` : `${count} quiet outings in a row${onSide(side)}`;
    case "fresh":
      return `one clean cold ask${onSide(side)}`;
    case "rests-on":
      return `first make steady: ${stepName(program, step ?? "")}`;
    default:
      return `${code}${onSide(side)}`;
  }
}

/** All that would open a step in one line, side by side: "off side: 3 more clean asks, a clean first ask another day". */
export function openSummary(actions: readonly OpenFacts[], program: Program): string {
  const first = actions.filter((action) => action.code === "rests-on").map((action) => openInWords(action, program));
  const sides = [
    ...new Set(actions.flatMap((action) => (action.code === "rests-on" || !action.side ? [] : [action.side]))),
  ];
  const lists = sides.map((side) =>
    actions
      .filter((action) => action.side === side)
      .map((action) => openInWords({ ...action, side: "none" }, program))
      .join(", "),
  );
  const same = lists.length > 1 && lists.every((list) => list === lists[0]);
  const named = same
    ? [`both sides: ${lists[0]}`]
    : sides.map((side, index) => (side === "none" ? `${lists[index]}` : `${SIDE_WORDS[side]}: ${lists[index]}`));
  return [...first, ...named].join("; ");
}

/** A finding as a sentence: what was seen, and against which number. */
export function findingInWords(finding: Finding, program: Program): string {
  const { code, met, have, need } = finding;
  const side = onSide(finding.side);
  const seen = finding.evidence.length;
  switch (code) {
    case "clean-share":
      return `${percent(have)} sure that three of four come clean${side}; ${percent(need)} is asked.`;
    case "both-sides":
      return met ? "Both sides stand by themselves." : `The sides are not both there: ${sidesHave(have)}.`;
    case "different-days":
      return `Worked on ${plural(Number(have), "different day")}${side}; ${need} are asked.`;
    case "cold-asks":
      return met
        ? `The last ${Number(need) === 1 ? "first ask of a day was" : "two first asks of a day were"} clean${side}.`
        : Number(need) === 1 && seen === 0
          ? `No first ask of a later outing yet${side}: nothing shows what stayed.`
          : `${have} of the last ${plural(Number(need), "first ask")} of a day ${have === 1 ? "was" : "were"} clean${side}; all must be.`;
    case "relaxed":
      return met
        ? `Quiet in the last two outings${side}.`
        : `Tight, over or shut down ${plural(Number(have), "time")} in the last two outings${side}.`;
    case "light":
      return have === null
        ? `No answer given yet${side} to weigh the feel by.`
        : `Usual phase ${have}${side}; at most ${need} is asked.`;
    case "fresh":
      return met
        ? `Shown clean, here or in what rests on it, ${agoInDays(Number(have))}${side}; good for ${need} days.`
        : `Last shown clean ${agoInDays(Number(have))}${side}; a cold check falls due after ${need} days.`;
    case "rests-on": {
      const { step, status } = have as { step: string; status: Status };
      return `Rests on ${stepName(program, step)}, which ${STATUS_IS[status]}.`;
    }
    case "needs-slipped": {
      const { step } = have as { step: string };
      return `${stepName(program, step)}, which it rests on, has slipped since. This step keeps its word; mend the piece first.`;
    }
    case "side-gap":
      return `The ${sideInWords(finding.side)} is behind: ${percent(have)} clean against ${percent(need)}.`;
    case "reacts":
      return `Light but tight${side}: reacting more than answering. Stay until it is quiet.`;
    case "dull":
      return `Loose but heavy${side}: dull. First rule out tired, ill, sore or shut down.`;
    case "braced":
      return `Heavy and tight${side}: braced or afraid. Make it smaller.`;
    case "shut-down":
      return "Shut down: nobody can answer like that. Rest, and a vet's eye if it lasts.";
    case "lucky":
      return `${plural(seen, "good answer")} right after a miss${side}, not tested yet: ask again at once, as light or lighter.`;
    default:
      return `${code}: ${met ? "met" : "not met"}${side}.`;
  }
}

function agoInDays(days: number): string {
  return days === 0 ? "today" : days === 1 ? "yesterday" : `${days} days ago`;
}

function sidesHave(have: Finding["have"]): string {
  if (have === null || typeof have !== "object") return "";
  return Object.entries(have)
    .map(([side, status]) => `${SIDE_WORDS[side as SideKey]} ${STATUS_WORDS[status as Status].toLowerCase()}`)
    .join(", ");
}

/** What each rule asks, for someone who opens it. */
export const RULE_TITLES: Partial<Record<FindingCode, string>> = {
  "clean-share": "Often enough clean",
  "both-sides": "Both sides",
  "different-days": "On different days",
  "cold-asks": "Cold asks",
  relaxed: "Relaxed",
  light: "Light",
  fresh: "Fresh",
  "rests-on": "What it rests on",
  "needs-slipped": "A piece has slipped",
  "side-gap": "One side behind",
  reacts: "Reacts",
  dull: "Dull",
  braced: "Braced",
  "shut-down": "Shut down",
  lucky: "Not tested yet",
};
