import { LineChart } from "echarts/charts";
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { useCallback, useMemo } from "react";
import type { StepView } from "@still-pine/contract/http";
import { inDialect, sidesOf, type Dialect, type Step } from "@still-pine/core/programs";
import { rungInWords } from "@still-pine/core/programs/ladder-words";
import { sideInWords } from "@still-pine/core/readiness";
import { weekdayOf } from "../../parts/days";
import { rungsByOuting } from "./rungs";
import { useChart } from "./use-chart";

use([LineChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent, SVGRenderer]);

const RUNG_PX = 30;
const ABOVE_PX = 40;
const BELOW_PX = 30;
const COLORS = ["pine", "resin", "ink", "clay"] as const;
const DASHES = ["solid", "dashed", "dotted", [8, 3, 2, 3]] as const;

interface RungsChartProps {
  view: StepView;
  step: Step;
  words: Dialect;
}

/** How far up its ladder a step came, outing by outing; the stair above says the same of the last time in words. */
export function RungsChart({ view: { asks }, step, words }: RungsChartProps) {
  const outings = useMemo(() => rungsByOuting(step, asks), [step, asks]);
  const option = useCallback(
    (theme: CSSStyleDeclaration) => {
      const color = (name: string): string => theme.getPropertyValue(`--${name}`).trim();
      const text = { color: color("faint"), fontFamily: "inherit", fontSize: 11 };
      const rungs = step.ladder.rungs.map(({ id }) => inDialect(rungInWords(step.id, id), words));
      return {
        animation: false,
        textStyle: { fontFamily: theme.getPropertyValue("--font-sans") },
        aria: { enabled: true },
        legend: { top: 0, textStyle: text, itemHeight: 10 },
        tooltip: { trigger: "axis" },
        grid: { left: 8, right: 12, top: ABOVE_PX, bottom: BELOW_PX, containLabel: true },
        xAxis: {
          type: "category",
          data: outings.map(({ day }) => weekdayOf(day)),
          axisLabel: { ...text, hideOverlap: true },
          axisLine: { lineStyle: { color: color("line") } },
          axisTick: { show: false },
        },
        yAxis: {
          type: "category",
          data: rungs,
          axisLabel: { ...text, width: 150, overflow: "truncate" },
          splitLine: { show: true, lineStyle: { color: color("line") } },
        },
        series: sidesOf(step).map((side, index) => ({
          name: sideInWords(side) || "asked",
          type: "line",
          connectNulls: true,
          symbolSize: 8,
          itemStyle: { color: color(COLORS[index] ?? "ink") },
          lineStyle: { width: 2, type: DASHES[index] ?? "solid" },
          data: outings.map(({ highest }) => highest[side] ?? null),
        })),
      };
    },
    [outings, step, words],
  );
  const place = useChart(option);
  return (
    <section aria-label="Rungs over outings">
      <h2 className="mb-1 text-xl">How far up, outing by outing</h2>
      <div
        ref={place}
        role="img"
        className="[contain:inline-size]"
        aria-label="The highest rung that came clean on each side, outing by outing; the stair above has when each was shown last."
        style={{ height: ABOVE_PX + BELOW_PX + step.ladder.rungs.length * RUNG_PX }}
      />
    </section>
  );
}
