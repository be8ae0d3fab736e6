import type { CoachSettings, Ways } from "./types";

/** What a setting says and why, by its value: the sentences of every page that shows a program. */

type Answer = readonly [says: string, because: string];
export type Words<Value extends string> = Record<Value, Answer>;

export const PRESSURE: Words<Ways["pressure"]> = {
  phases: ["Pressure rises in phases and goes at the first try.", "He finds the lightest one worth answering."],
  rhythm: [
    "A soft, rhythmic feel; the hand rubs more than it asks.",
    "Rhythm soothes, and a steady pull invites him to lean.",
  ],
  nearness: [
    "The person's nearness is all the pressure there is.",
    "A half-wild horse feels a person long before a rope.",
  ],
  none: ["Hardly any pressure, and it never grows.", "What he offers himself he offers gladly and again."],
  gentle: ["As much as does not frighten, no more.", "A foal that is frightened once remembers it for years."],
  scale: [
    "A light cue, two rising steps, a tap, each on the same short count.",
    "The same scale every time lets him foretell what comes.",
  ],
  tap: [
    "Leg or voice, and a tap of the whip behind it.",
    "Forward comes first; an aid that is backed once need not be nagged.",
  ],
};
export const REWARD: Words<Ways["reward"]> = {
  rest: ["Release and rest.", "The moment it goes tells him what was right; the rest lets it sink in."],
  rub: ["A rub, a massage, the voice.", "Rubbing lowers his pulse and makes the hand welcome."],
  leave: ["The person goes away.", "For a horse that has hardly met people, distance is worth most."],
  "mark-food": ["The mark, then food.", "The mark names the instant; food makes him want to find it again."],
  scratch: ["Release, then a scratch at the withers.", "Relief teaches; the scratch is what mates do for each other."],
  "walk-break": ["A walk on a long line, and a pat.", "Work that goes forward is paid with easy work."],
};
export const LEAD: Words<Exclude<Ways["lead"], null>> = {
  behind: [
    "He walks behind the person.",
    "There he can be seen to stop and give room, and a spook goes past, not over, the person.",
  ],
  shoulder: ["The person walks at his shoulder.", "From there the hand is where the rein will be."],
  beside: ["He walks beside the person.", "Both see the same, and nobody is dragged or driven."],
};
export const HEADGEAR: Words<Ways["headgear"]> = {
  "rope-halter": ["Rope or leather halter.", "A light feel comes through, and it holds."],
  "headcollar-bridle": ["Headcollar, then the bridle over it.", "Broad and mild until the mouth is ready."],
  rope: ["A catching rope that cannot close; the halter comes after touch.", "It is on before a hand can be."],
  "flat-halter": ["A flat halter.", "It is not meant to press."],
  collar: [
    "First nothing, then a halter that comes off again; a collar to tie.",
    "A weanling's neck and head are soft and he outgrows a halter in weeks.",
  ],
  bridle: ["A bridle, in hand too.", "The cue in hand is the cue in the saddle."],
  "halter-under-bridle": [
    "A rope halter under the bridle; the line runs from the halter.",
    "The mouth learns to carry, and nothing pulls on it.",
  ],
};
export const BEGIN: Words<Ways["begin"]> = {
  sticky: ["Begins on the stiff side, which gets more.", "He is freshest at the start, and the weak side needs it."],
  soft: ["Begins on the soft side.", "What he can do gives him heart for what he cannot."],
  "by-turns": ["Begins on either side by turns.", "Neither side becomes the first one."],
};
export const FIRST_MOUNT: Words<Exclude<Ways["firstMount"], null>> = {
  fence: ["First mounted from the fence.", "He has met the person up there for weeks."],
  "leg-up": ["A leg-up, one holding, one lifting.", "The weight comes across slowly and can slide off at once."],
  block: ["From a block, where he stands alone until asked.", "Standing of his own accord is the answer."],
};
export const FIRST_RIDES: Words<Exclude<Ways["firstRidesIn"], null>> = {
  halter: ["First rides in a halter.", "Green hands and a green mouth stay apart."],
  snaffle: ["First rides in a snaffle he has long carried.", "The rein means what it will always mean."],
};
export const STUCK: Words<CoachSettings["stuck"]> = {
  angle: ["A stuck ask: another angle, a rhythm, a step to the side.", "More force on the same line makes a brace."],
  smaller: ["A stuck ask is made smaller.", "He has not understood; a piece of it he can find."],
  wait: ["A stuck ask is held, and waited on.", "Time costs nothing and he will look for the way out."],
  more: ["A stuck ask grows by one step, then a tap.", "An ask that ends unanswered has taught that."],
  aim: ["A stuck ask gets something to aim at: a pole, a mark.", "A horse goes somewhere more easily than away."],
};
export const FRIGHT: Words<CoachSettings["fright"]> = {
  "keep-on": [
    "At a fright: keep on at that level until he is still, then stop; or go farther off.",
    "Stopping while he runs teaches that running stops it.",
  ],
  "keep-hand": ["At a fright: the hand stays, a small turn, a rub.", "The hand stays what it was before."],
  "when-still": ["At a fright: step away only when he stands.", "Standing is what makes the person go."],
  smaller: [
    "At a fright: smaller, before it is fear; let him follow it.",
    "A thing that goes away from him is no hunter.",
  ],
  "touch-stays": ["At a fright: the touch stays until the legs stay still.", "Only the legs' standing takes it away."],
  again: ["At a fright: past it again, quietly insisting.", "The fourth time it is a thing among others."],
};
