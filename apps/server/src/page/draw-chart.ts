import type { ChartOption } from '@margin-lens/core';
import { PAPER } from './paper-colours';

/** The tokens that charts name, on paper. */
const TOKENS: Record<string, string> = {
  '--ink': PAPER.ink,
  '--ink-2': PAPER.second,
  '--sheet': PAPER.sheet,
  '--prior': PAPER.prior,
  '--brass': PAPER.brass,
  '--favourable': PAPER.favourable,
  '--adverse': PAPER.adverse,
};

/** A chart as SVG, of a size in CSS pixels; the library is loaded when the first one is drawn. */
export async function drawChart(option: ChartOption, size: { width: number; height: number }): Promise<string> {
  const [{ init, use }, charts, components, renderers] = await Promise.all([
    import('echarts/core'),
    import('echarts/charts'),
    import('echarts/components'),
    import('echarts/renderers'),
  ]);
  const { BarChart, CustomChart, LineChart } = charts;
  use([BarChart, CustomChart, LineChart, components.AriaComponent, components.GridComponent, renderers.SVGRenderer]);
  const chart = init(null, null, { renderer: 'svg', ssr: true, ...size });
  chart.setOption({ animation: false, ...option });
  const svg = chart.renderToSVGString();
  chart.dispose();
  return svg.replace(/var\((--[\w-]+)\)/g, (_, token: string) => `#${TOKENS[token] ?? PAPER.ink}`);
}
