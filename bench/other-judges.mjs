// Ours and two other judges before the same horses: how soon, for which holes, and how many words that are not true.
import { barFor } from "./proof-figures.mjs";

const HORSES = 2000;
const PLAN = { horses: HORSES, outings: 40, asksASide: 4, there: 0.75, seed: 7 };
const UNTRUE_AT_MOST = { ordinary: 0.03, handling: 0.03, force: 0.02, rider: 0.02 };
const HOLES_AT_MOST = 0.08;

const row = (...cells) => `| ${cells.join(" | ")} |`;
const heading = (...cells) => [row(...cells), row(...cells.map(() => "---"))];
const percent = (part, digits = 1) => (Number.isNaN(part) ? "–" : `${(part * 100).toFixed(digits)} %`);
const marked = (text, isKept) => (isKept ? text : `**${text} OVER**`);
const at = (all, share) => {
  const rising = all.toSorted((a, b) => a - b);
  const found = rising[Math.min(rising.length - 1, Math.ceil(share * rising.length) - 1)];
  return found === Infinity ? "never" : found;
};

/** The parts of docs/judge.md on what is said and is not true, and on the other judges. */
export function otherJudges(core) {
  return { "untrue words": untrueWords(core), "other judges": compared(core) };
}

function untrueWords(core) {
  const { anySides, mixedHorse, compareJudges, judgesBy, DEFAULT_NUMBERS } = core;
  const lines = heading(
    "bar",
    "untrue words of sides of any kind",
    "horses of the mixed crowd that pass",
    "of those, first asks of a side under 0.60",
  );
  for (const kind of ["ordinary", "handling", "force", "rider"]) {
    const judges = { ours: judgesBy(DEFAULT_NUMBERS, barFor(core, kind)).ours };
    const { ours: any } = compareJudges(judges, { ...PLAN, sharesOf: anySides });
    const { ours: crowd } = compareJudges(judges, { ...PLAN, sharesOf: mixedHorse });
    const untrue = any.untrue / any.words;
    const holes = crowd.passedWithHole / crowd.passed;
    lines.push(
      row(
        kind,
        marked(percent(untrue, 2), untrue <= UNTRUE_AT_MOST[kind]),
        percent(crowd.passed / HORSES),
        marked(percent(holes), holes <= HOLES_AT_MOST),
      ),
    );
  }
  return lines;
}

function compared(core) {
  const { alikeHorse, anySides, compareJudges, judgesBy, DEFAULT_NUMBERS } = core;
  const judges = judgesBy(DEFAULT_NUMBERS, barFor(core, "rider"));
  const crowds = {
    good: () => alikeHorse({ warm: 0.95 }),
    rho: () => alikeHorse({ warm: 0.95, rho: 0.1 }),
    hole: () => alikeHorse({ warm: 0.96 }, { warm: 0.7 }),
    deep: () => alikeHorse({ warm: 0.96 }, { warm: 0.6 }),
    any: anySides,
  };
  const found = Object.fromEntries(
    Object.entries(crowds).map(([name, sharesOf]) => [name, compareJudges(judges, { ...PLAN, sharesOf })]),
  );
  const lines = heading(
    "judge",
    "0.95: first open, median and 90th",
    "0.95: open from outing 25 on",
    "with rho 0.1",
    "passes with a side at 0.70",
    "at 0.60",
    "untrue words",
  );
  for (const name of Object.keys(judges)) {
    const of = (crowd) => found[crowd][name];
    lines.push(
      row(
        name,
        `${at(of("good").firstOpen, 0.5)}, ${at(of("good").firstOpen, 0.9)}`,
        percent(of("good").openLate),
        percent(of("rho").openLate),
        percent(of("hole").passed / HORSES),
        percent(of("deep").passed / HORSES),
        percent(of("any").untrue / of("any").words, 2),
      ),
    );
  }
  return lines;
}
