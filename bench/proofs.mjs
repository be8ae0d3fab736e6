// Tries the judge on invented horses, many times over, and writes what came of it, and figures of its rules, into docs/judge.md.
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import * as echarts from "echarts";

const SIDES = 20_000;
const HORSES = 200;
const PLAN = { outings: 60, asksASide: 4, everyDays: 2, rest: { before: 40, days: 60 } };

const percent = (part, whole) => (whole === 0 ? "–" : `${((part / whole) * 100).toFixed(1)} %`);
const row = (...cells) => `| ${cells.join(" | ")} |`;
const heading = (...cells) => [row(...cells), row(...cells.map(() => "---"))];

/** Runs the long proofs and draws the figures; a few minutes. */
export function writeProofs(root, core) {
  const file = path.join(root, "docs/judge.md");
  const parts = { "fixed shares": fixedShares(core), families: families(core), parameters: parameters(core) };
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

/** Rule 1 alone, on sides whose true share never changes: looked at after every ask and stopped at the first call, then as it is used. */
function fixedShares({ tryFixedShares, DEFAULT_NUMBERS }) {
  const lines = heading(
    "forgetting",
    "bar",
    "asks",
    "called at some time",
    "of them right",
    "called now",
    "of them right",
  );
  const ways = [
    { forgetting: "off", numbers: { ...DEFAULT_NUMBERS, forgetBy: 1 }, asksAnOuting: 1, countAfter: [40, 80, 200] },
    { forgetting: "on", numbers: DEFAULT_NUMBERS, asksAnOuting: 4, countAfter: [10, 20, 40, 100] },
  ];
  for (const { forgetting, numbers, asksAnOuting, countAfter } of ways)
    for (const sure of [numbers.sure, numbers.gateSure]) {
      const plan = { sides: SIDES, asksAnOuting, countAfter, numbers, sure, miss: "none", seed: 7 };
      for (const { outings, ever, now } of tryFixedShares(plan))
        lines.push(
          row(
            forgetting,
            sure.toFixed(2),
            `${outings} outings of ${asksAnOuting}`,
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
    for (const isGate of [false, true])
      for (const side of nature.offBehind > 0 ? ["near", "off"] : ["near"]) {
        const trials = triedOn({ tryJudge }, nature, { ...PLAN, isGate }).filter((one) => one.side === side);
        const sums = sumTrials(trials, DEFAULT_NUMBERS.share);
        lines.push(
          row(
            family,
            isGate ? "gate" : "step",
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
    ["forgetBy 0.90, sure 0.90", { forgetBy: 0.9, sure: 0.9 }],
    ["one cold ask", { colds: 1 }],
  ];
  for (const [name, judge] of tries) {
    const [wrong, plain] = ["not quite", "plain"].map((family) =>
      sumTrials(
        triedOn({ tryJudge }, FAMILIES[family].nature, { ...PLAN, isGate: false, judge }),
        DEFAULT_NUMBERS.share,
      ),
    );
    lines.push(row(name, percent(wrong.called, wrong.horses), plain.late, percent(plain.kept, 1)));
  }
  return lines;
}

const triedOn = ({ tryJudge }, nature, plan) =>
  Array.from({ length: HORSES }, (_, n) => tryJudge(nature, plan, n + 1)).flat();

function drawFigures(folder, core) {
  mkdirSync(folder, { recursive: true });
  const figures = { sureness: sureness(core), "called-by-share": calledByShare(core), "going-off": goingOff(core) };
  for (const [name, option] of Object.entries(figures)) {
    const chart = echarts.init(null, null, { renderer: "svg", ssr: true, width: 640, height: 320 });
    chart.setOption({ animation: false, backgroundColor: "#fff", textStyle: { fontFamily: "sans-serif" }, ...option });
    writeFileSync(path.join(folder, `${name}.svg`), `${chart.renderToSVGString()}\n`);
    chart.dispose();
  }
}

const COLOURS = ["#1f5f4a", "#b3541e", "#5b5b8f"];
const axes = (x, y, most) => ({
  color: COLOURS,
  legend: { top: 0, itemGap: 48 },
  grid: { left: 56, right: 16, top: 40, bottom: 44 },
  xAxis: { type: "value", name: x, nameLocation: "middle", nameGap: 26, ...most },
  yAxis: { type: "value", name: y, nameLocation: "middle", nameGap: 36, min: 0, max: 1 },
});
const line = (name, data, more = {}) => ({ type: "line", name, data, showSymbol: false, ...more });

/** Rule 1: how sure so many clean asks make us, after none, one and two missed. */
function sureness({ sureOf, DEFAULT_NUMBERS }) {
  const { share, sure, gateSure } = DEFAULT_NUMBERS;
  const clean = Array.from({ length: 17 }, (_, n) => n);
  const bars = {
    symbol: "none",
    lineStyle: { color: "#777" },
    data: [
      { yAxis: sure, label: { formatter: `a step: ${sure}`, position: "insideStartTop" } },
      { yAxis: gateSure, label: { formatter: `a gate: ${gateSure}`, position: "insideStartTop" } },
    ],
  };
  return {
    ...axes("clean asks", "sure", { max: 16 }),
    series: [0, 1, 2].map((missed) =>
      line(
        `${missed} missed`,
        clean.map((n) => [n, sureOf(n, missed, share)]),
        { showSymbol: true, ...(missed === 0 ? { markLine: bars } : {}) },
      ),
    ),
  };
}

/** Of sides with one true share each: the part called often enough clean at some time. */
function calledByShare({ tryFixedShares, DEFAULT_NUMBERS: numbers }) {
  const shares = Array.from({ length: 25 }, (_, n) => 0.4 + n * 0.025);
  const called = (sure, at) =>
    shares.map((share) => {
      const plan = { sides: 500, asksAnOuting: 4, countAfter: [10, 40], numbers, sure, miss: "none", seed: 11, share };
      return [share, tryFixedShares(plan)[at].ever.called / 500];
    });
  const asked = {
    symbol: "none",
    lineStyle: { color: "#777" },
    data: [{ xAxis: numbers.share, label: { formatter: "asked" } }],
  };
  return {
    ...axes("true share of clean asks", "called at some time", { min: 0.4, max: 1 }),
    series: [
      line("a step, within 10 outings", called(numbers.sure, 0), { markLine: asked }),
      line("a step, within 40", called(numbers.sure, 1)),
      line("a gate, within 40", called(numbers.gateSure, 1)),
    ],
  };
}

/** An established side, all clean for ten outings, that goes off and comes right two times in four. */
function goingOff({ sureAfter, DEFAULT_NUMBERS }) {
  const pattern = Array.from({ length: 20 }, (_, outing) => [true, outing < 10, true, outing < 10]);
  const points = (numbers) => sureAfter(pattern, numbers).map((sure, outing) => [outing + 1, sure]);
  const bar = {
    symbol: "none",
    lineStyle: { color: "#777" },
    data: [{ yAxis: DEFAULT_NUMBERS.sure, label: { formatter: "asked", position: "insideStartTop" } }],
  };
  return {
    ...axes("outings", "sure", { min: 1, max: 20 }),
    series: [
      line("with forgetting", points(DEFAULT_NUMBERS), { showSymbol: true, markLine: bar }),
      line("without", points({ ...DEFAULT_NUMBERS, forgetBy: 1 }), { showSymbol: true }),
    ],
  };
}
