// Figures of the judge's rules, drawn into docs/figures.
import { mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import * as echarts from "echarts";

/** What the steps of a gate of some kind are asked for, or those of none. */
export const barFor = ({ barOf, DEFAULT_NUMBERS }, kind) =>
  barOf(kind === "ordinary" ? [] : [{ kind }], DEFAULT_NUMBERS);

export function drawFigures(folder, core) {
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
function calledByShare(core) {
  const { tryFixedShares, DEFAULT_NUMBERS: numbers } = core;
  const shares = Array.from({ length: 25 }, (_, n) => 0.4 + n * 0.025);
  const called = (kind, at) =>
    shares.map((share) => {
      const bar = barFor(core, kind);
      const plan = { sides: 500, asksAnOuting: 4, countAfter: [10, 40], numbers, bar, miss: "none", seed: 11, share };
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
      line("a step, within 10 outings", called("ordinary", 0), { markLine: asked }),
      line("a step, within 40", called("ordinary", 1)),
      line("before a rider, within 40", called("rider", 1)),
    ],
  };
}

/** An established side, all clean for ten outings, that goes off and comes right two times in four. */
function goingOff({ sureAfter, DEFAULT_NUMBERS: numbers }) {
  const pattern = Array.from({ length: 20 }, (_, outing) => [outing < 10, true, true, outing < 10]);
  const seen = sureAfter(pattern, numbers);
  const points = (memory) => seen.map((one, outing) => [outing + 1, one[memory]]);
  const bars = {
    symbol: "none",
    lineStyle: { color: "#777" },
    data: [
      { yAxis: numbers.sure, label: { formatter: `earned: ${numbers.sure}`, position: "insideStartTop" } },
      { yAxis: numbers.lostUnder, label: { formatter: `lost: ${numbers.lostUnder}`, position: "insideStartTop" } },
    ],
  };
  return {
    ...axes("outings", "sure", { min: 1, max: 20 }),
    series: [
      line("the long record", points("long"), { showSymbol: true, markLine: bars }),
      line("the last asks", points("lately"), { showSymbol: true }),
    ],
  };
}
