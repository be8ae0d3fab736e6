import type { Nature } from "./horse";

/** A horse without any habit of note. Invented; no source. */
export const PLAIN: Nature = {
  known: {},
  start: 0.35,
  learns: 0.04,
  offBehind: 0,
  plateau: null,
  setback: null,
  fades: null,
  breakLoss: 0.02,
  coldLoss: 0.1,
  worry: 0.01,
  swing: 0.02,
  habits: {},
};

/** Families of horses, to try the judge on: none learns as the judge's arithmetic assumes. */
export const FAMILIES: Readonly<Record<string, { says: string; nature: Nature }>> = {
  plain: { says: "learns a little with each right answer", nature: PLAIN },
  plateau: {
    says: "stays for forty asks at six of ten, then goes on",
    nature: { ...PLAIN, plateau: { level: 0.6, asks: 40 } },
  },
  setbacks: {
    says: "one outing in twelve frightens him and costs a third of all he has",
    nature: { ...PLAIN, learns: 0.08, setback: { chance: 0.08, drop: 0.35 } },
  },
  "side gap": {
    says: "learns half as fast on the off side, and starts there with half",
    nature: { ...PLAIN, offBehind: 0.5 },
  },
  forgetful: {
    says: "loses a quarter of a thing in thirty days without it",
    nature: { ...PLAIN, learns: 0.06, breakLoss: 0.25 },
  },
  fading: {
    says: "from the thirtieth outing on he learns nothing more and goes off, a fortieth of all he has with each outing",
    nature: { ...PLAIN, learns: 0.08, fades: { after: 30, drop: 0.025 } },
  },
  moody: {
    says: "moods that come and go: good weeks and tight ones",
    nature: { ...PLAIN, worry: 0.04, swing: 0.18 },
  },
  "just enough": {
    says: "stops for good where eight of ten come clean",
    nature: { ...PLAIN, learns: 0.1, plateau: { level: 0.88, asks: 100_000 } },
  },
  "not quite": {
    says: "stops for good where seven of ten come clean: he never gets there",
    nature: { ...PLAIN, learns: 0.1, plateau: { level: 0.81, asks: 100_000 } },
  },
};
