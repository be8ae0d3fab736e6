// How fast horses come along the road by the product's own proposals: the card with its chain, the coach, the words and gates.

const OUTINGS = 150;
const LONG = 240;
const HORSES = 40;
const SEED = 13;

const FAMILIES = [
  ["quick", { less: 0.4, by: 6, never: 0.04 }, OUTINGS, 95],
  ["quick, rho 0.1, first asks 0.05 under", { less: 0.4, by: 6, never: 0.04, rho: 0.1, cold: 0.05 }, OUTINGS, null],
  ["average", { less: 0.6, by: 10, never: 0.05 }, LONG, 165],
  ["average, rho 0.1, first asks 0.05 under", { less: 0.6, by: 10, never: 0.05, rho: 0.1, cold: 0.05 }, LONG, null],
  ["slow", { less: 0.7, by: 20, never: 0.06 }, OUTINGS, null],
];
/** Outings within which a horse that never misses is there. */
const NEVER_MISSES = { "halter-on": 13, tie: 26, saddle: 32, astride: 44 };
const TRULY_THERE = 0.8;

const row = (...cells) => `| ${cells.join(" | ")} |`;
const heading = (...cells) => [row(...cells), row(...cells.map(() => "---"))];
const percent = (part, whole) => (whole === 0 ? "–" : `${((part / whole) * 100).toFixed(1)} %`);
const marked = (text, isKept) => (isKept ? text : `**${text} OVER**`);
const at = (all, share) => {
  const rising = all.toSorted((a, b) => a - b);
  return rising[Math.max(0, Math.min(rising.length, Math.ceil(share * rising.length)) - 1)];
};
const outings = (n) => (n === Infinity ? "never" : String(n));

/** The parts of docs/judge.md on pace. */
export function pace(core) {
  const { PROGRAMS, MILESTONES, findStep } = core;
  const riding = PROGRAMS.filter((program) => findStep(program, "astride"));
  return {
    "before and after": beforeAndAfter(core, riding),
    "shares before and after": sharesBeforeAndAfter(core),
    "pace, never misses": neverMisses(core),
    "pace, learners": learners(core, riding, MILESTONES),
  };
}

/** The two tables this judge was written for, with what the one before it came to. */
function beforeAndAfter({ keepPace, randomFrom }, programs) {
  const until = ["halter-on", "saddle", "astride"];
  const span = (all) =>
    at(all, 0) === at(all, 1) ? outings(at(all, 1)) : `${outings(at(all, 0))}–${outings(at(all, 1))}`;
  const run = (learner, horses, change = {}, minutes = undefined) =>
    programs.flatMap((program, place) =>
      Array.from({ length: horses }, (_, horse) =>
        keepPace({ ...program, coach: { ...program.coach, ...change } }, learner, {
          outings: OUTINGS,
          until,
          random: randomFrom(SEED + 7919 * place + 104_729 * horse),
          ...(minutes === undefined ? {} : { minutes }),
        }),
      ),
    );
  const crowds = [
    ["never misses, works what the card proposes", ["11–19", "50–65", "66–79"], run(null, 1)],
    [
      "never misses, works everything that may be begun, every day",
      ["9–18", "26–42", "40–56"],
      run(null, 1, { pieces: 99, newPieces: 99 }, 6000),
    ],
    ["learns quickly, 56 % clean at first and 96 % later", ["18–30", "102–117", "136–150"], run(FAMILIES[0][1], 8)],
  ];
  return [
    ...heading("horse", "halter on", "saddle", "someone sits on him"),
    ...crowds.map(([name, before, all]) =>
      row(
        name,
        ...until.map(
          (step, place) => `${span(all.map(({ steadyAt }) => steadyAt[step] ?? Infinity))} (${before[place]})`,
        ),
      ),
    ),
  ];
}

const LOOSE_BEFORE = { 0.98: [74, 48, 63], 0.95: [12, 2, 11], 0.92: [2, 0, 1] };

function sharesBeforeAndAfter({ PROGRAMS, tryGate, SidePool }) {
  const [program] = PROGRAMS;
  const lines = heading("clean share on every side", "saddle gate's steps all steady", "first ride's", "tie's");
  for (const [share, before] of Object.entries(LOOSE_BEFORE).toSorted((a, b) => b[0] - a[0])) {
    const plan = { horses: 2000, outings: 65, asksASide: 4, shares: { warm: Number(share) }, seed: 7 };
    const pool = new SidePool(plan);
    const cells = ["saddle", "first-ride", "tie"].map((id, place) => {
      const gate = program.gates.find((one) => one.id === id);
      const late = tryGate(program, gate, plan, pool).open.slice(25);
      const part = late.reduce((sum, one) => sum + one, 0) / late.length / plan.horses;
      return `${percent(part, 1)} (${before[place]} %)`;
    });
    lines.push(row(share, ...cells));
  }
  return lines;
}

function neverMisses({ PROGRAMS, MILESTONES, keepPace, randomFrom }) {
  const lines = heading(
    "program",
    ...MILESTONES.map((step) => `${step} (${NEVER_MISSES[step]})`),
    "asks an outing",
    "beyond a gate",
  );
  for (const program of PROGRAMS) {
    const one = keepPace(program, null, { outings: OUTINGS, until: MILESTONES, random: randomFrom(1) });
    const cells = MILESTONES.map((step) => {
      const after = one.steadyAt[step];
      return after === undefined ? "–" : marked(after, after <= NEVER_MISSES[step]);
    });
    lines.push(row(program.name, ...cells, Math.round(one.asks / one.outings), one.beyond.length));
  }
  return lines;
}

function learners({ keepPace, randomFrom }, programs, milestones) {
  const lines = heading(
    "horse",
    ...milestones.map((step) => `${step}: median, 90th`),
    `never astride in ${OUTINGS}`,
    "links opened",
    "base truly at 0.6",
    "at 0.75",
    "cold at 0.6",
    "beyond a gate",
    "held most often by",
  );
  for (const [name, learner, most, limit] of FAMILIES) {
    const all = programs.flatMap((program, place) =>
      Array.from({ length: HORSES }, (_, horse) =>
        keepPace(program, learner, {
          outings: most,
          until: milestones,
          random: randomFrom(SEED + 7919 * place + 104_729 * horse),
        }),
      ),
    );
    const links = all.flatMap((one) => one.links);
    const times = milestones.map((step) => all.map(({ steadyAt }) => steadyAt[step] ?? Infinity));
    const last = times.at(-1);
    const isThere = percent(links.filter(({ warm }) => warm >= 0.6).length, links.length);
    const isKept = links.filter(({ warm }) => warm >= 0.6).length >= links.length * TRULY_THERE;
    lines.push(
      row(
        name,
        ...times.map((each) => {
          const text = `${outings(at(each, 0.5))}, ${outings(at(each, 0.9))}`;
          return each === last && limit !== null ? marked(text, at(each, 0.5) <= limit) : text;
        }),
        percent(last.filter((one) => one > OUTINGS).length, all.length),
        links.length,
        marked(isThere, isKept),
        percent(links.filter(({ warm }) => warm >= 0.75).length, links.length),
        percent(links.filter(({ cold }) => cold >= 0.6).length, links.length),
        all.reduce((sum, { beyond }) => sum + beyond.length, 0),
        mostOften(all.flatMap(({ heldBy }) => heldBy)) || "–",
      ),
    );
  }
  return lines;
}

function mostOften(steps) {
  const counts = new Map();
  for (const step of steps) counts.set(step, (counts.get(step) ?? 0) + 1);
  return [...counts]
    .toSorted((a, b) => b[1] - a[1])
    .slice(0, 3)
    .map(([step, times]) => `${step} (${times})`)
    .join(", ");
}
