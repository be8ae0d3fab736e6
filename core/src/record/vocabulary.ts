/** The words of one ask and of what is seen around it. One definition; contract and screens build on these lists. */

/** What an ask took, from a thought (0) to the most this handler will use (4). */
export const PHASES = [0, 1, 2, 3, 4] as const;
export type Phase = (typeof PHASES)[number];

/** How the horse was, from loose (0) to over (4). */
export const MOODS = [0, 1, 2, 3, 4] as const;
export type Mood = (typeof MOODS)[number];

/** From this mood on a horse is tight: braced, hurried, breath held. */
export const TIGHT: Mood = 3;
/** Over: he has lost himself, and hears nobody. */
export const OVER: Mood = 4;

export const ANSWERS = ["gave", "tried", "neutral", "none", "against"] as const;
export type Answer = (typeof ANSWERS)[number];

export const SIDES = ["near", "off", "none"] as const;
export type Side = (typeof SIDES)[number];

export const SIGNS_OF_EASE = ["long-breath", "neck-lowered", "soft-eye", "hind-rested", "yawn", "stretch"] as const;
export const SIGNS_OF_STRAIN = [
  "head-high",
  "white-eye",
  "tight-muzzle",
  "held-breath",
  "tail-clamp",
  "snort",
  "fidget",
  "freeze",
  "paw",
  "quarters-turned",
] as const;
/** `lick-chew` is logged and proves nothing alone; `shut-down` blocks a verdict of steady. */
export const SIGNS = [...SIGNS_OF_EASE, ...SIGNS_OF_STRAIN, "shut-down", "lick-chew"] as const;
export type Sign = (typeof SIGNS)[number];

/** What followed the release. A bolt is no answer. */
export const AFTERS = ["walked", "jumped", "bolted"] as const;
export type After = (typeof AFTERS)[number];

export const MISHAPS = [
  "bite",
  "kick",
  "strike",
  "rear",
  "buck",
  "bolt",
  "pull-back",
  "fall",
  "barge",
  "other",
] as const;
export type MishapKind = (typeof MISHAPS)[number];

export const SEVERITIES = [1, 2, 3, 4] as const;
export type Severity = (typeof SEVERITIES)[number];

export const SEXES = ["mare", "gelding", "stallion"] as const;
export type Sex = (typeof SEXES)[number];

export const PRECISIONS = ["day", "month", "year"] as const;
export type Precision = (typeof PRECISIONS)[number];

export const SETTINGS = ["standing", "moving"] as const;
export type Setting = (typeof SETTINGS)[number];

/** How he goes while he is asked, where the feet work; all of it is moving. */
export const GOINGS = ["turning", "walk", "trot", "canter"] as const;
export type Going = (typeof GOINGS)[number];

/** What keeps him there. */
export const RESTRAINTS = ["loose", "rope", "tied"] as const;
export type Restraint = (typeof RESTRAINTS)[number];

/** Where the person stands, seen from him, and how far off: at him, some two metres, at the end of the rope, or farther. */
export const STANDS = ["beside", "front", "behind"] as const;
export const REACHES = ["at-him", "two-metres", "ropes-end", "ten-metres"] as const;

/** How the pressure comes: it stays, or it taps or waves in a beat. */
export const MANNERS = ["still", "rhythm"] as const;

/** Who ended what was timed by a watch. */
export const ENDED_BY = ["person", "horse"] as const;
export type EndedBy = (typeof ENDED_BY)[number];

/** What an ask is for. A reminder and a probe show nothing of a lesson. */
export const PURPOSES = ["lesson", "reminder", "probe"] as const;

/** What was in the handler's hand. */
export const TOOLS = ["none", "rope-end", "stick", "flag", "whip", "target", "food", "hand", "rope"] as const;
export type Tool = (typeof TOOLS)[number];

/** What was wrong with an answer. */
export const FAULTS = [
  "walks-forward",
  "crosses-behind",
  "shoulder-in",
  "hip-in",
  "leans",
  "tilts",
  "rushes",
  "drags",
  "hits-the-end",
  "stuck",
  "away",
  "walks-away",
  "quarters-at-you",
  "barges",
  "feet-move",
  "turns-away",
  "falls-in",
  "falls-out",
  "stops-short",
  "braces",
  "head-up",
  "leans-away",
  "steps-off",
  "bites",
  "clamps",
  "kicks-out",
  "pops-up",
  "crooked",
  "swings-at-person",
  "hind-travels",
  "backs-off",
  "pulls-back",
  "paws",
  "swings-about",
  "calls",
  "squeals",
  "snatches",
  "must-be-kept-going",
  "past-the-mark",
  "over-three-strides",
  "hollow",
  "unasked-gait",
  "wrong-lead",
  "hip-leads",
  "hip-trails",
  "behind-the-vertical",
  "knocks",
  "tongue-over",
  "chomps",
  "teeth-shut",
  "humps",
  "rolls",
  "backs",
  "shoots-forward",
  "swings-away",
  "drifts",
] as const;
export type Fault = (typeof FAULTS)[number];

/** How long he kept doing it. */
export const KEPT = ["stops-at-once", "some-steps", "until-told"] as const;
export type Kept = (typeof KEPT)[number];

/** Zones of the horse, each on both sides, for touch and exposure. */
export const ZONES = [
  "muzzle",
  "face",
  "ear",
  "poll",
  "jaw-throat",
  "neck",
  "crest-mane",
  "withers",
  "shoulder",
  "chest",
  "forearm-knee",
  "fore-cannon-foot",
  "back",
  "barrel",
  "girth",
  "belly",
  "flank",
  "loin",
  "croup",
  "buttock-tail",
  "thigh-gaskin",
  "hock",
  "hind-cannon-foot",
  "sheath-udder",
] as const;
export type Zone = (typeof ZONES)[number];

/** The part of the horse an ask was about: a leg for feet, a zone for touch and exposure. */
export const PARTS = ["fore", "hind", ...ZONES] as const;
export type Part = (typeof PARTS)[number];

/** What became of the thing a horse startled at. */
export const HELD_OR_GONE = ["until-quiet", "gone-at-the-fright", "faced"] as const;

export const HEADGEARS = [
  "rope-halter",
  "headcollar-bridle",
  "rope",
  "flat-halter",
  "collar",
  "bridle",
  "halter-under-bridle",
] as const;

/** Where the handler stood. */
export const PLACES_ABOUT = ["front", "shoulder", "girth", "flank", "hip", "behind"] as const;

export const GAITS = ["halt", "walk", "trot", "canter"] as const;
/** How he came back from a gait that was not asked for. */
export const WAYS_BACK = ["brought", "himself"] as const;
export const WAYS_OF_WORK = ["loose", "line", "ridden"] as const;
export const FRAMES = ["stretches", "hollow", "behind-the-vertical", "trails-behind", "braces-downward"] as const;
export const EDGES = ["start", "end"] as const;
export const TIRED = ["stumbles", "forges", "loses-rhythm", "hangs", "sweat", "breath-slow"] as const;

export const WEATHERS = ["dry", "sun", "rain", "wind", "storm", "snow", "frost", "heat", "dark"] as const;
export const FOOTINGS = ["good", "soft", "deep", "hard", "slippery", "stony"] as const;
export const CATCHES = ["came", "stood", "walked-off", "ran", "cornered", "not-caught"] as const;
export const COMPANIES = ["alone", "mates-in-sight", "mates-beside"] as const;

export const CARES = ["feet", "teeth", "worming", "vaccination", "saddle-fit", "vet"] as const;
export type Care = (typeof CARES)[number];
export const WEIGHED_BY = ["scale", "tape", "guess"] as const;
export const MEDIA_KINDS = ["photo", "clip", "voice"] as const;

/** Why it is enough for a day, where it was not the horse. */
export const ENOUGH = ["patience", "weather", "noise", "time"] as const;
export type Enough = (typeof ENOUGH)[number];

/** Which answers a finish line counts: clean ones, or a first try at something new. */
export const LINE_WORTHS = ["clean", "tried"] as const;
