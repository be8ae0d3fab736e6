/** The words of one ask and of what is seen around it. One definition; contract and screens build on these lists. */

/** What an ask took, from a thought (0) to the most this handler will use (4). */
export const PHASES = [0, 1, 2, 3, 4] as const;
export type Phase = (typeof PHASES)[number];

/** How the horse was, from loose (0) to over (4). */
export const MOODS = [0, 1, 2, 3, 4] as const;
export type Mood = (typeof MOODS)[number];

/** From this mood on a horse is tight: braced, hurried, breath held. */
export const TIGHT: Mood = 3;

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
