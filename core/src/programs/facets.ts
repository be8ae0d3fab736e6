import { refsOf } from "./graph";
import {
  PRESSURE,
  REWARD,
  LEAD,
  HEADGEAR,
  BEGIN,
  FIRST_MOUNT,
  FIRST_RIDES,
  STUCK,
  FRIGHT,
  type Words,
} from "./facet-words";
import type { Program, Stage, Step, StepMark } from "./types";

/** One question on which schools differ, and what a program answers. */
export interface Facet {
  id: string;
  question: string;
  /** Equal where two programs answer alike. */
  code: string;
  says: string;
  /** Why those who hold to it do. */
  because: string;
}

/** Up to so many pieces, and new ones, a card is a short one. */
const FEW_PIECES = 5;
const FEW_NEW = 2;

const yes = (value: boolean): string => String(value);
const fromList = <Value extends string>(
  words: Words<Value>,
  value: Value,
): { code: string } & Pick<Facet, "says" | "because"> => ({
  code: value,
  says: words[value][0],
  because: words[value][1],
});
const none = (says: string): { code: string } & Pick<Facet, "says" | "because"> => ({
  code: "none",
  says,
  because: "",
});

type Asked = (program: Program) => Omit<Facet, "id" | "question">;

const months = (value: number): string =>
  value % 12 === 0 ? `${value / 12} years` : `${Math.floor(value / 12)} years ${value % 12} months`;

/** Every question, by the name of its setting where it is one. The order is that of the work. */
const ASKED: readonly (readonly [id: string, question: string, ask: Asked])[] = [
  [
    "first",
    "What comes first",
    ({ steps }) => list(steps.slice(0, FIRST_SHOWN), "The beginning sets what he thinks a person is for."),
  ],
  [
    "exposure",
    "Before much exposure",
    ({ steps }) => {
      const under = commonNeeds(steps.filter(({ stage }) => stage === "getting-used"));
      return {
        code: under.join(" or ") || "none",
        says: under.length > 0 ? `Only with ${nameAll(steps, under, "or")} there.` : "Nothing in particular.",
        because: EXPOSURE[under[0] ?? ""] ?? "A horse that can only stand may be stuck, not quiet.",
      };
    },
  ],
  ["pressure", "Pressure", ({ ways }) => fromList(PRESSURE, ways.pressure)],
  [
    "pressureMost",
    "The most it uses",
    ({ ways }) => ({
      code: String(ways.pressureMost),
      says:
        ways.pressureMost === 4
          ? "All five phases, where he needs them."
          : `The first ${ways.pressureMost + 1} of the five phases, never more.`,
      because:
        ways.pressureMost === 4
          ? "An ask that is firm once is lighter ever after."
          : "Above that an ask is too big for him, and is made smaller.",
    }),
  ],
  ["stuck", "A stuck ask", ({ coach }) => fromList(STUCK, coach.stuck)],
  ["fright", "At a fright", ({ coach }) => fromList(FRIGHT, coach.fright)],
  ["reward", "What tells him he was right", ({ ways }) => fromList(REWARD, ways.reward)],
  [
    "twoEyes",
    "Two eyes before an ask",
    ({ ways }) => ({
      code: yes(ways.twoEyes),
      says: ways.twoEyes ? "Two eyes on the person, then the ask." : "An ask needs no two eyes first.",
      because: ways.twoEyes ? "Who looks elsewhere answers something else." : "He may look about; one ear is enough.",
    }),
  ],
  [
    "quarters",
    "Quarters towards the person",
    ({ ways }) => ({
      code: ways.quarters,
      says:
        ways.quarters === "never"
          ? "Never let stand: he is sent on until he faces."
          : "Not minded; the person keeps clear of them.",
      because: ways.quarters === "never" ? "A kick begins there." : "Turning away is often fear, and chasing feeds it.",
    }),
  ],
  [
    "spurtSeconds",
    "Change or stay",
    ({ coach: { spurtSeconds } }) => ({
      code: String(spurtSeconds),
      says:
        spurtSeconds === null
          ? "Stays with one ask as long as it takes."
          : `Changes after about ${spurtSeconds} seconds, and comes back.`,
      because:
        spurtSeconds === null
          ? "Leaving in the middle leaves a question open."
          : "Short and often tires neither of them.",
    }),
  ],
  [
    "spurtsMost",
    "How often it comes back",
    ({ coach: { spurtsMost } }) => ({
      code: String(spurtsMost),
      says:
        spurtsMost === null
          ? "As often as it takes."
          : `At most ${spurtsMost} times in an outing, then a good one ends it.`,
      because: spurtsMost === null ? "He says when it is enough." : "The next time is another day.",
    }),
  ],
  [
    "firstDay",
    "On the first day of a thing",
    ({ coach: { firstDay } }) => ({
      code: firstDay,
      says: firstDay === "build" ? "A first try is built on at once." : "A first try is the end of it for today.",
      because: firstDay === "build" ? "He has it in his head now." : "A night's sleep does half the work.",
    }),
  ],
  [
    "standing",
    "Standing with him, the second time of a day",
    ({ coach: { standing } }) => ({
      code: standing,
      says:
        standing === "stays"
          ? "As long as the last time; longer is for another day."
          : "A third longer after two quiet ones, and never longer than one he ended himself.",
      because: standing === "stays" ? "He learns that it ends, and when." : "He grows into it while he is quiet.",
    }),
  ],
  ["begin", "The side to begin on", ({ ways }) => fromList(BEGIN, ways.begin)],
  [
    "stickyShare",
    "How much more for the sticky side",
    ({ coach: { stickyShare } }) => ({
      code: String(stickyShare),
      says: stickyShare === 1 ? "Both sides get the same." : `${stickyShare} asks for each one of the other side.`,
      because: stickyShare === 1 ? "He is one horse; even work keeps him even." : "The weak side has farther to go.",
    }),
  ],
  [
    "spareAsks",
    "How soon the second side",
    ({ coach: { spareAsks } }) => ({
      code: String(spareAsks),
      says: spareAsks === 1 ? "The second side from the start, ask for ask." : `After a set of about ${spareAsks}.`,
      because: spareAsks === 1 ? "What one eye has seen the other has not." : "A few together make it plain.",
    }),
  ],
  [
    "pieces",
    "How much stands on a card",
    ({ coach: { pieces } }) => ({
      code: String(pieces),
      says: `${pieces} pieces at most, besides what is checked cold.`,
      because: pieces <= FEW_PIECES ? "Much at once is too much for him." : "Each is short, and one opens the next.",
    }),
  ],
  [
    "newPieces",
    "How much is new in a day",
    ({ coach: { newPieces } }) => ({
      code: String(newPieces),
      says: newPieces === 1 ? "One new thing at most." : `${newPieces} new things at most.`,
      because:
        newPieces <= FEW_NEW ? "He is to go home with little to think about." : "New things are begun small, and left.",
    }),
  ],
  [
    "lead",
    "Leading",
    ({ ways }) =>
      ways.lead === null
        ? none("He is led only as far as the rope asks; no place is held to.")
        : fromList(LEAD, ways.lead),
  ],
  ["headgear", "On his head", ({ ways }) => fromList(HEADGEAR, ways.headgear)],
  [
    "stop",
    "The stop shown before the first ride",
    ({ stop, steps }) => ({
      code: [...stop].toSorted().join(" ") || "none",
      says:
        stop.length > 0
          ? `${capital(nameAll(steps, stop, "and"))}, on the ground, that day.`
          : "Its road ends before riding.",
      because:
        stop.length === 0
          ? ""
          : marked(steps, "flexion").some((id) => stop.includes(id))
            ? "A bent horse that steps his quarters over cannot run."
            : "Who halts on a word in hand has a word for it above.",
    }),
  ],
  [
    "flexion",
    "Lateral flexion",
    ({ steps, stop, optional }) => {
      const flexions = marked(steps, "flexion");
      const code =
        flexions.length === 0
          ? "none"
          : flexions.some((id) => stop.includes(id))
            ? "much"
            : flexions.every((id) => optional.includes(id))
              ? "little"
              : "some";
      return {
        code,
        says: {
          none: "Not on its road.",
          much: "Much: it is half of the stop.",
          little: "Little, and nobody waits for it.",
          some: "Some, for the turn of the head.",
        }[code],
        because:
          code === "much" ? "The bend takes the run out of him." : "Too much of it unhooks the neck from the feet.",
      };
    },
  ],
  ["longReins", "Long reins", ({ steps, optional }) => longReins(steps, optional)],
  [
    "firstMount",
    "Coming up the first time",
    ({ ways }) =>
      ways.firstMount === null ? none("Its road ends before riding.") : fromList(FIRST_MOUNT, ways.firstMount),
  ],
  [
    "firstRidesIn",
    "First rides in",
    ({ ways }) =>
      ways.firstRidesIn === null ? none("Its road ends before riding.") : fromList(FIRST_RIDES, ways.firstRidesIn),
  ],
  [
    "contactWeeks",
    "Weeks of carrying the bit before contact",
    ({ ways: { contactWeeks } }) =>
      contactWeeks === null
        ? none("Its road ends before the bit.")
        : {
            code: String(contactWeeks),
            says: `${contactWeeks} ${contactWeeks === 1 ? "week" : "weeks"}.`,
            because:
              contactWeeks > 3
                ? "A mouth that has only carried stays soft."
                : "Once he carries it quietly more waiting teaches nothing.",
          },
  ],
  [
    "canterMonths",
    "Canter on the line from",
    ({ ways: { canterMonths } }) =>
      canterMonths === null
        ? none("No canter on its road.")
        : {
            code: String(canterMonths),
            says: `${months(canterMonths)} of age.`,
            because: "Small circles at speed are hard on growing legs.",
          },
  ],
  [
    "ridingMonths",
    "Ridden from",
    ({ ways: { ridingMonths } }) =>
      ridingMonths === null
        ? none("Its road ends before riding.")
        : {
            code: String(ridingMonths),
            says: `${months(ridingMonths)} of age.`,
            because:
              ridingMonths > 40
                ? "Backs close late; a well-muscled horse carries better."
                : "Light and short, on a grown enough back.",
          },
  ],
];

const STOP_RESPONSE = "A stop response: feet that stop on a cue stop in a fright.";

const EXPOSURE: Record<string, string> = {
  "move-off": "Control of the feet: a horse that can be moved need not stand frozen.",
  "head-down": "Relaxation: a lowered head is a horse that can take more in.",
  "body-rub": "Relaxation, and stillness held first: he is never chased.",
  target: "The choice to stay: he goes to a thing himself.",
  "step-up-back": STOP_RESPONSE,
  "step-back": STOP_RESPONSE,
  "circle-walk": "Forward: a horse that goes on has no time to boil.",
};

const FIRST_SHOWN = 6;

function list(steps: readonly Step[], because: string): Omit<Facet, "id" | "question"> {
  return { code: steps.map(({ id }) => id).join(" "), says: `${steps.map(({ name }) => name).join(", ")}.`, because };
}

const marked = (steps: readonly Step[], mark: StepMark): string[] =>
  steps.filter(({ marks }) => marks.includes(mark)).map(({ id }) => id);
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function nameAll(steps: readonly Step[], ids: readonly string[], word: string): string {
  const names = ids.map((id) => (steps.find((step) => step.id === id)?.name ?? id).toLowerCase());
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} ${word} ${names.at(-1)}`;
}

/** What all of some steps rest on directly: the ways of the one need they share. */
function commonNeeds(steps: readonly Step[]): string[] {
  const [first, ...others] = steps.map(
    ({ needs }) =>
      new Set(
        needs.map((need) =>
          refsOf([need])
            .map(({ step }) => step)
            .join(" "),
        ),
      ),
  );
  return [...(first ?? [])].filter((need) => others.every((own) => own.has(need))).flatMap((need) => need.split(" "));
}

function longReins(steps: readonly Step[], optional: readonly string[]): Omit<Facet, "id" | "question"> {
  const at = (mark: StepMark): number => steps.findIndex(({ marks }) => marks.includes(mark));
  const isBeside = (mark: StepMark): boolean => optional.includes(steps[at(mark)]?.id ?? "");
  if (at("long-reins") < 0) return none("Not on its road.");
  const code = isBeside("long-reins")
    ? isBeside("bit-asks")
      ? "optional"
      : "strings"
    : at("long-reins") < at("girthed")
      ? "early"
      : "some";
  const says = {
    optional: "Beside the road: worth having, nobody waits for them.",
    strings: "Loose side strings only; long reins stand beside the road.",
    early: "Early, from the halter, before the saddle.",
    some: "Some, after the saddle.",
  }[code];
  return { code, says, because: code === "early" ? "He is steered from behind before anybody is on top." : "" };
}

/** What a program answers to every question on which schools differ. */
export const facetsOf = (program: Program): Facet[] =>
  ASKED.map(([id, question, ask]) => ({ id, question, ...ask(program) }));

/** The questions on which programs do not all answer alike, with each one's answer, in the order of the programs. */
export function differencesOf(programs: readonly Program[]): { id: string; question: string; answers: Facet[] }[] {
  const all = programs.map(facetsOf);
  const [first] = all;
  return (first ?? []).flatMap(({ id, question }, index) => {
    const answers = all.flatMap((facets) => facets[index] ?? []);
    return new Set(answers.map(({ code }) => code)).size > 1 ? [{ id, question, answers }] : [];
  });
}

/** Stages of a program in the order in which its road first comes by them, with the steps of each. */
export function roadOf({ steps }: Program): { stage: Stage; steps: Step[] }[] {
  const stages: { stage: Stage; steps: Step[] }[] = [];
  for (const step of steps) {
    const last = stages.at(-1);
    if (last?.stage === step.stage) last.steps.push(step);
    else stages.push({ stage: step.stage, steps: [step] });
  }
  return stages;
}
