import { BarChart } from "echarts/charts";
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { useCallback, useMemo } from "react";
import type { StepView } from "@still-pine/contract/http";
import { sideInWords, type CountedAsk, type SideKey } from "@still-pine/core/readiness";
import { weekdayOf } from "../../parts/days";
import { tallyAsks, TALLIES } from "./tally";
import { useChart } from "./use-chart";

use([BarChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent, SVGRenderer]);

const ROW_PX = 96;
const ABOVE_PX = 40;

/** The asks of a step over its outings, a small chart a side; the table below says the same in words. */
export function AsksChart({ view }: { view: StepView }) {
  const sides = useMemo(() => Object.keys(view.judgement.sides) as SideKey[], [view]);
  const option = useCallback((theme: CSSStyleDeclaration) => optionFor(view.asks, sides, theme), [view, sides]);
  const place = useChart(option);
  return (
    <section aria-label="Asks over outings">
      <h2 className="mb-1 text-xl">Outing by outing</h2>
      {/* What was drawn into it must not keep the column as wide as it was. */}
      <div
        ref={place}
        role="img"
        className="[contain:inline-size]"
        aria-label="Asks of each side over the outings, clean, missed and uncounted; the table below has the same."
        style={{ height: ABOVE_PX + sides.length * ROW_PX }}
      />
    </section>
  );
}

function optionFor(asks: readonly CountedAsk[], sides: readonly SideKey[], theme: CSSStyleDeclaration) {
  const color = (name: string): string => theme.getPropertyValue(`--${name}`).trim();
  const { outings, counts } = tallyAsks(asks);
  const days = outings.map(({ day }) => weekdayOf(day));
  const text = { color: color("faint"), fontFamily: "inherit", fontSize: 11 };
  return {
    animation: false,
    textStyle: { fontFamily: theme.getPropertyValue("--font-sans") },
    aria: { enabled: true, decal: { show: true } },
    legend: { top: 0, left: 40, textStyle: text, itemHeight: 10 },
    tooltip: { trigger: "axis", axisPointer: { type: "shadow" } },
    grid: sides.map((_, index) => ({
      left: 40,
      right: 8,
      top: ABOVE_PX + index * ROW_PX,
      height: ROW_PX - 34,
    })),
    xAxis: sides.map((_, index) => ({
      type: "category",
      gridIndex: index,
      data: days,
      axisLabel: { ...text, show: index === sides.length - 1, hideOverlap: true },
      axisLine: { lineStyle: { color: color("line") } },
      axisTick: { show: false },
    })),
    yAxis: sides.map((side, index) => ({
      type: "value",
      gridIndex: index,
      name: sideInWords(side),
      nameTextStyle: { ...text, align: "left", padding: [0, 0, 0, -30] },
      minInterval: 1,
      splitNumber: 2,
      axisLabel: text,
      splitLine: { lineStyle: { color: color("line") } },
    })),
    series: sides.flatMap((side, index) =>
      TALLIES.map(({ name, tally, theme: own }) => ({
        name,
        type: "bar",
        stack: side,
        xAxisIndex: index,
        yAxisIndex: index,
        barMaxWidth: 18,
        itemStyle: { color: color(own) },
        data: outings.map(({ id }) => counts.get(`${id} ${side}`)?.[tally] ?? 0),
      })),
    ),
  };
}
