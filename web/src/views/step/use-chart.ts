import { init } from "echarts/core";
import type { EChartsCoreOption } from "echarts/core";
import { useEffect, useRef, type RefObject } from "react";

/**
 * Draws a chart into an element, and anew whenever its size or the theme is another one.
 *
 * @param optionFor what to draw, in the colours of a theme; another function is another chart
 */
export function useChart(
  optionFor: (theme: CSSStyleDeclaration) => EChartsCoreOption,
): RefObject<HTMLDivElement | null> {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!place.current) return;
    const chart = init(place.current, null, { renderer: "svg" });
    const draw = (): void => chart.setOption(optionFor(getComputedStyle(document.documentElement)));
    draw();
    const resize = new ResizeObserver(() => chart.resize());
    resize.observe(place.current);
    const retheme = new MutationObserver(draw);
    retheme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    return () => {
      resize.disconnect();
      retheme.disconnect();
      chart.dispose();
    };
  }, [optionFor]);
  return place;
}
