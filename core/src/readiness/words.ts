import type { StepId } from "../record";
import { percent } from "./percent";
import { findStep, findStepAnywhere, nameIn, type Dialect, type Ends, type Program, type Stage } from "../programs";
import type { Finding, FindingCode, FindingOf, NextStep, SideKey, Status } from "./types";

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
  steady: "every rule was met, and nothing of late takes it away",
};

/** Stages of the road by name. */
export const STAGE_WORDS: Record<Stage, string> = {
  "first-handling": "First handling",
  halter: "Halter and lead",
  "getting-used": "Getting used to things",
  feet: "Feet, care, travel",
  line: "On the line",
  bit: "Bit and bridle",
  saddle: "Saddle",
  "long-reins": "Long reins",
  riding: "First rides",
  schooling: "Early schooling",
};

/** What ends the pressure, and what then counts as against it. */
export const ENDS_WORDS: Record<Ends, string> = {
  move: "The pressure ends when the feet move. Leaning into it, or swinging the quarters at you, is against.",
  stop: "It ends when the feet stop. Leaving, barging or pulling away is against.",
  give: "It ends when he gives. Leaning, bracing or pulling is against.",
  look: "It ends when he looks. Turning away or leaving is against.",
};

/** Why a step is named next. */
export function reasonInWords(
  { reason, days, gate, months, onTrust }: Pick<NextStep, "reason" | "days" | "gate" | "months" | "onTrust">,
  program: Program,
): string {
  switch (reason) {
    case "slipped":
      return "it has slipped: mend it first";
    case "base":
      return "its last first ask failed: back to it before what rests on it";
    case "gate":
      return `the next gate asks for it: ${gateName(program, gate ?? "").toLowerCase()}`;
    case "longest":
      return days === undefined ? "begun" : days === 0 ? "worked today" : `last asked ${agoInDays(days)}`;
    case "untried":
      return onTrust ? "what it rests on is steady or good today" : "all it rests on is steady";
    case "smaller":
      return `its smaller rungs may be worked; ${gateName(program, gate ?? "")} stands before more`;
    case "beside":
      return "beside the road of this program";
    case "held":
      return "held by a person";
    case "too-young":
      return `this program waits until he is ${monthsInWords(months ?? 0)}`;
    case "bit-weeks":
      return `this program lets him carry the bit ${plural(days ?? 0, "day")} more first`;
    case "back":
      return "back after a break: it is wanted clean cold before he is ridden";
    case "rusty":
      return days === undefined || days >= 0
        ? "a cold check is due"
        : `a cold check is due since ${plural(-days, "day")}`;
    case "soon":
      return `a cold check falls due in ${plural(days ?? 0, "day")}`;
    default:
      return reason satisfies never;
  }
}

/** "3 years", "3 years 6 months". */
export function monthsInWords(months: number): string {
  const years = plural(Math.floor(months / 12), "year");
  return months % 12 === 0 ? years : `${years} ${plural(months % 12, "month")}`;
}

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

/** A step's name in the yard's own words, also where only another program has it; its id where nobody knows it. */
export function stepName(program: Program, id: string, words: Dialect = "american"): string {
  const step = findStepAnywhere(program, id);
  return step ? nameIn(step, words) : id;
}

/** A gate's name in the yard's own words. */
export function gateName(program: Program, id: string, words: Dialect = "american"): string {
  const gate = program.gates.find((one) => one.id === id);
  return gate ? nameIn(gate, words) : id;
}

export { percent };

interface OpenFacts {
  code: FindingCode;
  side?: SideKey;
  count?: number;
  outings?: number;
  step?: StepId;
  what?: string;
}

/** One thing to do, as a sentence without a full stop: "3 more clean asks on the off side". */
export function openInWords(action: OpenFacts, program: Program): string {
  const { code, side, step, what, outings } = action;
  const count = action.count ?? 1;
  if (outings !== undefined)
    return `about ${plural(outings, "quiet outing")} of three or four clean asks${onSide(side)}`;
  switch (code) {
    case "clean-share":
    case "light":
      return what === "days"
        ? `clean${onSide(side)} on ${plural(count, "further day")}`
        : `${plural(count, "more clean ask")}${onSide(side)}`;
    case "different-days":
      return `clean${onSide(side)} on ${plural(count, "further day")}, the first ask included`;
    case "cold-asks":
      return count === 1
        ? `a clean first ask${onSide(side)} in another outing`
        : `a clean first ask${onSide(side)} in each of ${count} outings`;
    case "relaxed":
      return count === 1
        ? `one quiet, clean outing${onSide(side)}`
        : `${count} quiet, clean outings in a row${onSide(side)}`;
    case "not-proven-relaxed":
      return `a sign of ease seen${onSide(side)}: a long breath, a lowered neck, a rested leg`;
    case "elsewhere":
      return elsewhereInWords(what, count, onSide(side));
    case "fresh":
      return `one clean cold ask${onSide(side)}`;
    case "rests-on": {
      const far = what?.startsWith("rung ")
        ? rungInWords(program, step ?? "", what)
        : what
          ? `, ${shownInWords(what)}`
          : "";
      return `first make steady: ${stepName(program, step ?? "")}${far}`;
    }
    default:
      return `${code}${onSide(side)}`;
  }
}

function elsewhereInWords(what: string | undefined, count: number, side: string): string {
  if (what === "place")
    return count > 1 ? `clean once${side} in each of two places` : `clean once${side} in another place`;
  if (what === "person")
    return count > 1 ? `clean once${side} for each of two people` : `clean once${side} for another person`;
  if (what === "stretch") return `stretching forward and down, seen once${side} when it comes clean`;
  return `clean once${side} ${what === "standing and moving" ? "standing and once moving" : what}`;
}

function rungInWords(program: Program, step: StepId, what: string): string {
  const [rung = "", ...rest] = what.split(", ");
  const said = rung.slice("rung ".length);
  const name = findStep(program, step)?.rungs[Number(said) - 1] ?? said.replaceAll("-", " ");
  return ` as far as ${name}${rest.length > 0 ? `, ${shownInWords(rest.join(", "))}` : ""}`;
}

function shownInWords(what: string): string {
  const words = what
    .split(", ")
    .map((one) =>
      one === "moving" || one === "standing"
        ? one
        : one === "canter"
          ? "shown in canter"
          : `at the ${one.replaceAll("-", " ")}`,
    );
  return words.join(" and ");
}

/** What asks for further days, however it is named. */
const DAY_CODES: readonly FindingCode[] = ["different-days", "cold-asks", "relaxed"];

/** What would open a step, as it is said: where about so many outings are named on a side, their days need no mention. */
export function actionsToSay<Action extends OpenFacts>(actions: readonly Action[]): Action[] {
  const told = new Set(actions.filter(({ outings }) => outings !== undefined).map(({ side = "none" }) => side));
  return actions.filter(({ code, side = "none" }) => !told.has(side) || !DAY_CODES.includes(code));
}

/** All that would open a step in one line, side by side: "off side: 3 more clean asks, a clean first ask another day". */
export function openSummary(actions: readonly OpenFacts[], program: Program): string {
  const first = actions.filter((action) => action.code === "rests-on").map((action) => openInWords(action, program));
  const own = actionsToSay(actions.filter((action) => action.code !== "rests-on"));
  const sides = [...new Set(own.map(({ side = "none" }) => side))];
  const lists = sides.map((wanted) =>
    own
      .filter(({ side = "none" }) => side === wanted)
      .map((action) => openInWords({ ...action, side: "none" }, program))
      .join(", "),
  );
  const same = lists.length > 1 && lists.every((list) => list === lists[0]);
  const all = sides.length === 2 ? "both sides" : "all four legs";
  const named = same
    ? [`${sides.length === 3 ? "each of the three" : all}: ${lists[0]}`]
    : sides.map((side, index) => (side === "none" ? `${lists[index]}` : `${SIDE_WORDS[side]}: ${lists[index]}`));
  return [...first, ...named].join("; ");
}

function gateInWords({ need, have: { lacks, ground = 0, again } }: FindingOf<"gate-shut">, program: Program): string {
  const names = lacks.map((lack) =>
    lack
      .split(" and ")
      .map((step) => stepName(program, step))
      .join(" with "),
  );
  const wanted = [
    ...(ground > 0 ? [plural(ground, "outing on the ground", "outings on the ground")] : []),
    ...(names.length > 0 ? [`${names.join(", ")}${again ? ", clean cold" : ""}`] : []),
  ];
  return `${gateName(program, need)} ${again ? "lies ahead again after the break" : "is shut"}: it asks first for ${wanted.join(" and for ")}.`;
}

/** A finding as a sentence: what was seen, and against which number. */
export function findingInWords(finding: Finding, program: Program): string {
  const { code, met, have, need } = finding;
  const side = onSide(finding.side);
  const seen = finding.evidence.length;
  switch (code) {
    case "clean-share":
      return typeof have === "object"
        ? holdInWords(finding, side)
        : `${percent(have)} sure by the long record that three of four come clean${side}; ${finding.keeps ? `the word was earned at ${percent(need)}` : `${percent(need)} is asked`}.`;
    case "lately":
      return `${percent(have)} sure by the last asks alone${side}; ${finding.keeps ? `the word is lost under ${percent(need)}` : `${percent(need)} is asked`}.`;
    case "both-sides":
      return met ? "Every side stands by itself." : `Not every side is there: ${sidesHave(have)}.`;
    case "different-days":
      return `Worked on ${plural(have, "different day")}${side}; ${need} are asked.`;
    case "first-asks":
      return `${percent(have)} sure by the first asks of the days alone${side}; ${finding.keeps ? `the word is lost under ${percent(need)}` : `${percent(need)} is asked`}.`;
    case "wobble":
      return wobbleInWords(finding, side);
    case "cold-asks":
      if (finding.keeps && have < seen)
        return `${have} of the last ${plural(seen, "first ask")} of a day ${have === 1 ? "was" : "were"} clean${side}; with none of them clean the word is lost.`;
      return met
        ? `The last ${seen === 1 ? "first ask of a day was" : "two first asks of a day were"} clean${side}.`
        : Number(need) === 1 && seen === 0
          ? `No first ask of a later outing yet${side}: nothing shows what stayed.`
          : `${have} of the last ${plural(Number(need), "first ask")} of a day ${have === 1 ? "was" : "were"} clean${side}; all must be.`;
    case "relaxed":
      return have === 0
        ? `Quiet in the last two outings${side}.`
        : `Tight, over, shut down or a mishap, ${plural(have, "time")} in the last two outings${side}${finding.keeps ? ": in both of them, and the word is lost" : ""}.`;
    case "light":
      return have === null
        ? `No answer given yet${side} to weigh the feel by.`
        : `Usual phase ${have}${side}; at most ${need} is asked.`;
    case "not-proven-relaxed":
      return `Still${side}, not proven relaxed: no sign of ease seen since the last tight moment.`;
    case "elsewhere":
      return elsewhereSeen(have, met, side);
    case "force-creep":
      return `Force creep${side}: it took more in each of the last outings, ${have.toFixed(1)} of a phase in all. Start with the least again, and wait.`;
    case "anticipates":
      return `Offered unasked ${plural(have, "time")} of late: a guess, or a pattern being run. Vary order and side, and wait before each change.`;
    case "cold-check-due":
      return `A cold check falls due in ${plural(have, "day")}${side}.`;
    case "overridden":
      return `A person lets the next steps start: “${have}”. It changes no word here, and opens no gate.`;
    case "held":
      return `Held by a person: “${have}”.`;
    case "fresh":
      return met
        ? `Shown clean, here or in what rests on it, ${agoInDays(have ?? 0)}${side}; good for ${need} days.`
        : `Last shown clean ${agoInDays(have ?? 0)}${side}; a cold check falls due after ${need} days.`;
    case "rests-on": {
      if (have === null) return "Rests on a step that is not there.";
      const { step, status, missing } = have;
      const lacks = missing ? `, and was not yet shown ${shownInWords(missing.join(", "))}` : "";
      return met && status !== "steady"
        ? `Rests on ${stepName(program, step)}, which lacks only its second person.`
        : `Rests on ${stepName(program, step)}, which ${STATUS_IS[status]}${lacks}.`;
    }
    case "gate-shut":
      return gateInWords(finding, program);
    case "needs-slipped": {
      return `${stepName(program, have?.step ?? "")}, which it rests on, has slipped since. This step keeps its word; mend the piece first.`;
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
    case "unsaid":
      return `${plural(have, "entry", "entries")} of late${side} ${have === 1 ? "says" : "say"} no rung: what is unsaid counts for the smallest.`;
    case "spoiled":
      return `${plural(have, "answer")} of late${side} came, and ${have === 1 ? "was" : "were"} spoiled by a fault or a bolt: how well is part of the answer.`;
    case "late":
      return `Late${side}: ${plural(have, "answer")} of late took longer than ${String(need)} s from the cue to the first right movement.`;
    case "lucky":
      return `${plural(have, "good answer")} right after a miss${side}, not tested yet: ask again at once, as light or lighter.`;
    default:
      return finding satisfies never;
  }
}

function agoInDays(days: number): string {
  return days === 0 ? "today" : days === 1 ? "yesterday" : `${days} days ago`;
}

function sidesHave(have: FindingOf<"both-sides">["have"]): string {
  return Object.entries(have)
    .map(([side, status]) => `${SIDE_WORDS[side as SideKey]} ${STATUS_WORDS[status as Status].toLowerCase()}`)
    .join(", ");
}

/** What the last outing has against a word that stands, and what to show next. */
function wobbleInWords({ have: { missed, cold, tight } }: FindingOf<"wobble">, side: string): string {
  const misses =
    missed === 1
      ? cold > 0
        ? "the first ask missed"
        : "one miss"
      : `misses${cold > 0 ? ", the first ask among them," : ""}`;
  const seen = [...(missed > 0 ? [misses] : []), ...(tight > 0 ? ["something tight"] : [])];
  return `A wobble${side}: ${seen.join(" and ")} in the last outing. The word stands; next time show one clean, quiet first ask.`;
}

function holdInWords({ have, need, keeps }: FindingOf<"clean-share">, side: string): string {
  if (typeof have === "number" || typeof need === "number") return "";
  const { days, missed } = have;
  const { days: asked, missed: most } = need;
  if (keeps) {
    const last = missed === 0 ? "none of the last missed" : `${missed} of the last missed`;
    return `Clean on ${plural(days, "day")}${side}, ${last}; the word is lost with ${most + 1} missed of the last ${asked}.`;
  }
  const misses = missed === 0 ? "none of the last missed" : `${missed} of the last ${asked} missed`;
  return `Clean on ${plural(days, "day")}${side}, ${misses}; ${asked} days are asked, and no miss in the last ${asked}.`;
}

function elsewhereSeen({ what, shown }: FindingOf<"elsewhere">["have"], met: boolean, side: string): string {
  const names = shown.length > 0 ? shown.join(", ") : "none that is written down";
  if (what === "settings")
    return met
      ? `Clean standing and moving${side}.`
      : `Clean${side} only ${shown[0] ?? "where nobody said whether he stood or moved"}; standing and moving are asked.`;
  if (what === "stretch")
    return met ? `Seen to stretch forward and down${side}.` : `Not yet seen to stretch forward and down${side}.`;
  const kind = what === "place" ? "place" : "person";
  return met
    ? `Clean${side} with a second ${kind}: ${names}.`
    : `Clean${side} with one ${kind} only: ${names}. A second one is asked.`;
}
