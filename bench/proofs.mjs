// Tries the judge on invented horses, many times over, and writes what came of it, and figures of its rules, into docs/judge.md.
import { readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { otherJudges } from "./other-judges.mjs";
import { pace } from "./pace.mjs";
import { barFor, drawFigures } from "./proof-figures.mjs";

const SIDES = 20_000;
const HORSES = 200;
const PLAN = { outings: 60, asksASide: 4, everyDays: 2, rest: { before: 40, days: 60 } };

const percent = (part, whole) => (whole === 0 ? "–" : `${((part / whole) * 100).toFixed(1)} %`);
const row = (...cells) => `| ${cells.join(" | ")} |`;
const heading = (...cells) => [row(...cells), row(...cells.map(() => "---"))];

/** Runs the long proofs and draws the figures; a few minutes. */
export function writeProofs(root, core) {
  const file = path.join(root, "docs/judge.md");
  const parts = {
    gates: gates(core),
    holes: holes(core),
    slips: slips(core),
    promise: promise(core),
    kept: kept(core),
    "first rule alone": firstRuleAlone(core),
    families: families(core),
    parameters: parameters(core),
    ...otherJudges(core),
    ...pace(core),
  };
  let text = readFileSync(file, "utf8");
  for (const [name, lines] of Object.entries(parts)) {
    const [begin, end] = [`<!-- ${name} -->`, `<!-- end of ${name} -->`];
    const [before, rest] = text.split(begin);
    const after = rest?.split(end)[1];
    if (after === undefined) throw new Error(`docs/judge.md has no place for ${name}`);
    text = `${before}${begin}\n\n${lines.join("\n")}\n\n${end}${after}`;
    console.log(lines.join("\n"));
  }
  writeFileSync(file, text);
  drawFigures(path.join(root, "docs/figures"), core);
}

const HORSES_AT_GATES = 2000;
const OUTINGS = 65;
const SEEN_FROM = 25;
const ASKS = 4;
const SEED = 7;
const HOLE_OUTINGS = 40;

const BAD_DAYS = { chance: 0.1, share: 0.85 };
const STEADY_SHARES = [
  ["0.98", { warm: 0.98 }],
  ["0.95", { warm: 0.95 }],
  ["0.95, rho 0.1", { warm: 0.95, rho: 0.1 }],
  ["0.95, rho 0.2", { warm: 0.95, rho: 0.2 }],
  ["0.92", { warm: 0.92 }],
  ["0.92, rho 0.1", { warm: 0.92, rho: 0.1 }],
  ["0.97, first asks 0.93, a day in ten at 0.85", { warm: 0.97, cold: 0.93 }, BAD_DAYS],
];
/** What the steps' part has to be at least, by kind of gate, in the order of the shares; as it was set before it was measured. */
const OPEN_AT_LEAST = {
  force: [0.95, 0.85, 0.8, 0.74, 0.58, 0.45],
  rider: [0.95, 0.82, 0.78, 0.7, 0.45, 0.38, 0.6],
  handling: [null, 0.9, 0.9],
};
const PASSED_AT_LEAST = { rider: [null, 0.65, 0.56] };
const HOLDS_AT_LEAST = [null, 0.8];

const HOLES = [
  ["0.70", { warm: 0.7 }],
  ["0.70, rho 0.2", { warm: 0.7, rho: 0.2 }],
  ["0.60", { warm: 0.6 }],
  ["0.60, rho 0.3", { warm: 0.6, rho: 0.3 }],
  ["0.85, first asks 0.60", { warm: 0.85, cold: 0.6 }],
  ["0.90, first asks 0.50", { warm: 0.9, cold: 0.5 }],
  ["0.90, first asks 0.70", { warm: 0.9, cold: 0.7 }],
];
/** How many horses may pass with each of those holes, the last one told. */
const PASS_AT_MOST = {
  rider: [0.05, 0.07, 0.01, 0.01, 0.12, 0.04, null],
  force: [0.06, 0.08, 0.015, 0.015, 0.2, 0.13, null],
  handling: [0.2, 0.4, 0.05, 0.05, null, null, null],
};

/** The gates of all programs, those that come to the same once, with the programs they stand in. */
function gatesOfAll({ PROGRAMS, shapeOf }) {
  const all = new Map();
  for (const program of PROGRAMS)
    for (const gate of program.gates) {
      const key = `${gate.id} ${shapeOf(program, gate)}`;
      const known = all.get(key);
      if (known) known.programs.push(program.name);
      else all.set(key, { program, gate, programs: [program.name] });
    }
  return [...all.values()].map((one) => ({
    ...one,
    name: one.programs.length === PROGRAMS.length ? one.gate.name : `${one.gate.name} (${one.programs.join(", ")})`,
  }));
}

/** A figure, marked where it is over its limit. */
const marked = (text, isKept) => (isKept ? text : `**${text} OVER**`);

/** Good horses at every gate: in how many outings its steps are open, and the day's check passes too. */
function gates(core) {
  const { tryGate, SidePool, asksForHolds } = core;
  const all = gatesOfAll(core);
  const rows = new Map(all.map(({ name, gate }) => [name, [name, gate.kind]]));
  STEADY_SHARES.forEach(([, shares, badDays], place) => {
    const plan = { horses: HORSES_AT_GATES, outings: OUTINGS, asksASide: ASKS, shares, badDays, seed: SEED };
    const pool = new SidePool(plan);
    for (const { program, gate, name } of all) {
      const { open, passed } = tryGate(program, gate, plan, pool);
      const mean = (counts) =>
        counts.slice(SEEN_FROM).reduce((sum, one) => sum + one, 0) / (OUTINGS - SEEN_FROM) / HORSES_AT_GATES;
      const hasHolds = asksForHolds(program, gate);
      const wanted = (hasHolds ? HOLDS_AT_LEAST : OPEN_AT_LEAST[gate.kind])?.[place] ?? 0;
      const wantedWhole = (hasHolds ? undefined : PASSED_AT_LEAST[gate.kind]?.[place]) ?? 0;
      const isKept = mean(open) >= wanted && mean(passed) >= wantedWhole;
      const cell = marked(`${percent(mean(open), 1)} / ${percent(mean(passed), 1)}`, isKept);
      rows.get(name).push(cell);
    }
  });
  return [
    ...heading("gate", "kind", ...STEADY_SHARES.map(([name]) => name)),
    ...[...rows.values()].map((cells) => row(...cells)),
  ];
}

/** The same with one hole: how many horses pass at least once in forty outings. */
function holes(core) {
  const { tryGate, SidePool, asksForHolds } = core;
  const all = gatesOfAll(core);
  const rows = new Map(all.map(({ name, gate }) => [name, [name, gate.kind]]));
  const tryAll = (plan, at) => {
    const pool = new SidePool(plan);
    for (const { program, gate, name } of all) {
      const part = tryGate(program, gate, plan, pool).everPassed(HOLE_OUTINGS) / HORSES_AT_GATES;
      const most = asksForHolds(program, gate) ? null : at(gate.kind);
      rows.get(name).push(marked(percent(part, 1), most === null || part <= most));
    }
  };
  const plan = { horses: HORSES_AT_GATES, outings: HOLE_OUTINGS, asksASide: ASKS, seed: SEED + 1 };
  HOLES.forEach(([, hole], place) =>
    tryAll({ ...plan, shares: { warm: 0.96, rho: hole.rho ?? 0 }, hole }, (kind) => PASS_AT_MOST[kind][place]),
  );
  tryAll({ ...plan, shares: { warm: 0.8 } }, () => 0);
  return [
    ...heading("gate", "kind", ...HOLES.map(([name]) => name), "all sides 0.80"),
    ...[...rows.values()].map((cells) => row(...cells)),
  ];
}

const KINDS = ["ordinary", "handling", "force", "rider"];
const nth = (rising, share) => rising[Math.min(rising.length - 1, Math.floor(rising.length * share))];

/** How long a word stays that is no longer true. */
function slips(core) {
  const { outingsUntilLost, DEFAULT_NUMBERS: numbers } = core;
  const falls = [
    ["at once to 0.50", { fallBy: 1, fallTo: 0.5, under: 0.75 }, 2, 5],
    ["at once to 0.30", { fallBy: 1, fallTo: 0.3, under: 0.75 }, 1, 2],
    ["0.01 an outing, under 0.75", { fallBy: 0.01, fallTo: 0, under: 0.75 }, 3, 12],
    ["0.02 an outing, under 0.75", { fallBy: 0.02, fallTo: 0, under: 0.75 }, 3, 9],
    ["0.03 an outing, under 0.75", { fallBy: 0.03, fallTo: 0, under: 0.75 }, 3, 8],
    ["0.01 an outing, under 0.60", { fallBy: 0.01, fallTo: 0, under: 0.6 }, 1, 4],
    ["0.02 an outing, under 0.60", { fallBy: 0.02, fallTo: 0, under: 0.6 }, 1, 4],
    ["0.03 an outing, under 0.60", { fallBy: 0.03, fallTo: 0, under: 0.6 }, 1, 4],
  ];
  return [
    ...heading("he goes off", "asked", ...KINDS),
    ...falls.map(([name, fall, median, late]) =>
      row(
        name,
        `${median}, ${late}`,
        ...KINDS.map((kind) => {
          const plan = { sides: 20_000, asksASide: ASKS, numbers, bar: barFor(core, kind), seed: SEED };
          const after = outingsUntilLost({ ...plan, good: 0.97, goodOutings: 25, ...fall });
          const [half, most] = [nth(after, 0.5), nth(after, 0.95)];
          return marked(`${half}, ${most} (${after.length})`, half <= median && most <= late);
        }),
      ),
    ),
  ];
}

/** Sides whose share is drawn evenly: how many first calls are right. */
function promise(core) {
  const { tryFixedShares, DEFAULT_NUMBERS: numbers } = core;
  const asked = { ordinary: 0.8, handling: 0.8, force: 0.9, rider: 0.9 };
  const ways = [
    ["rho 0", {}],
    ["rho 0.1", { rho: 0.1 }],
    ["rho 0.2", { rho: 0.2 }],
    ["first asks 0.1 under, judged by them", { coldLess: 0.1 }],
  ];
  return [
    ...heading("bar", "promised", ...ways.map(([name]) => name)),
    ...KINDS.map((kind) =>
      row(
        kind,
        percent(asked[kind], 1),
        ...ways.map(([, way], place) => {
          const bar = barFor(core, kind);
          const plan = { sides: SIDES, asksAnOuting: ASKS, countAfter: [40], numbers, bar, miss: "none", seed: SEED };
          const [{ ever, now }] = tryFixedShares({ ...plan, ...way });
          const isKept = place === 3 || ever.right / ever.called >= asked[kind];
          return marked(
            `${percent(ever.right, ever.called)} of ${ever.called}; now ${percent(now.right, now.called)}`,
            isKept,
          );
        }),
      ),
    ),
  ];
}

/** Of the outings after the first call the part in which the word stands. */
function kept(core) {
  const { keptBy, DEFAULT_NUMBERS: numbers } = core;
  const shares = [
    ["0.95", 0.95, 0.97],
    ["0.90", 0.9, 0.85],
    ["0.81", 0.81, null],
    ["0.71", 0.71, null],
  ];
  return [
    ...heading("bar", ...shares.map(([name]) => name)),
    ...KINDS.map((kind) =>
      row(
        kind,
        ...shares.map(([, warm, least]) => {
          const plan = { sides: 2000, asksASide: ASKS, numbers, bar: barFor(core, kind), seed: SEED };
          const part = keptBy(plan, { warm, rho: 0.1 }, OUTINGS);
          return part === null ? "–" : marked(percent(part, 1), least === null || part >= least);
        }),
      ),
    ),
  ];
}

/** The first rule alone, nothing forgotten: looked at after every ask and stopped at the first call. */
function firstRuleAlone({ tryFixedShares, DEFAULT_NUMBERS }) {
  const numbers = { ...DEFAULT_NUMBERS, forgetBy: 1 };
  const lines = heading("bar", "asks", "called at some time", "of them right", "called now", "of them right");
  for (const bar of [numbers.sure, numbers.gateSure]) {
    const plan = { sides: SIDES, asksAnOuting: 1, countAfter: [40, 80, 200], numbers, bar, miss: "none", seed: SEED };
    for (const { outings, ever, now } of tryFixedShares(plan))
      lines.push(
        row(
          bar.toFixed(2),
          `${outings} outings of 1`,
          ever.called,
          percent(ever.right, ever.called),
          now.called,
          percent(now.right, now.called),
        ),
      );
  }
  return lines;
}

/** The whole judge on horses of other kinds than its arithmetic assumes. */
function families({ FAMILIES, tryJudge, sumTrials, DEFAULT_NUMBERS }) {
  const lines = heading(
    "family",
    "bar",
    "side",
    "called",
    "right",
    "late",
    "kept",
    "slips",
    "noticed",
    "outings later",
  );
  for (const [family, { nature }] of Object.entries(FAMILIES))
    for (const kind of ["ordinary", "force"])
      for (const side of nature.offBehind > 0 ? ["near", "off"] : ["near"]) {
        const trials = triedOn({ tryJudge }, nature, { ...PLAN, kind }).filter((one) => one.side === side);
        const sums = sumTrials(trials, DEFAULT_NUMBERS.share);
        lines.push(
          row(
            family,
            kind === "force" ? "gate" : "step",
            side,
            sums.called,
            percent(sums.right, sums.called),
            sums.late ?? "–",
            sums.kept === null ? "–" : percent(sums.kept, 1),
            sums.slips,
            sums.noticed,
            sums.slips === 0 ? "–" : `${sums.noticedAfter}, at most ${sums.noticedLast}`,
          ),
        );
      }
  return lines;
}

/** What other numbers would change for a horse that never gets there, and what they cost one that does. */
function parameters({ FAMILIES, tryJudge, sumTrials, DEFAULT_NUMBERS }) {
  const lines = heading("numbers", "not quite: called at some time", "plain: late", "plain: kept");
  const tries = [
    ["as they are", {}],
    ["sure 0.90", { sure: 0.9 }],
    ["sure 0.95", { sure: 0.95 }],
    ["forgetBy 0.90", { forgetBy: 0.9 }],
    ["later asks weigh 1", { laterAsks: 0.99 }],
    ["lost under 0.50", { lostUnder: 0.5 }],
  ];
  for (const [name, judge] of tries) {
    const [wrong, plain] = ["not quite", "plain"].map((family) =>
      sumTrials(
        triedOn({ tryJudge }, FAMILIES[family].nature, { ...PLAN, kind: "ordinary", judge }),
        DEFAULT_NUMBERS.share,
      ),
    );
    lines.push(row(name, percent(wrong.called, wrong.horses), plain.late, percent(plain.kept, 1)));
  }
  return lines;
}

const triedOn = ({ tryJudge }, nature, plan) =>
  Array.from({ length: HORSES }, (_, n) => tryJudge(nature, plan, n + 1)).flat();
