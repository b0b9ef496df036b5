import type { ChartOption } from '@margin-lens/core';

/** What the tokens of the interface are on paper. */
const ON_PAPER: Record<string, string> = {
  '--ink': '#22282B',
  '--ink-2': '#5A6165',
  '--paper': '#FFFFFF',
  '--sheet': '#FFFFFF',
  '--prior': '#9A978E',
  '--brass': '#A87418',
  '--favourable': '#12706B',
  '--adverse': '#B04A1F',
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
  return svg.replace(/var\((--[\w-]+)\)/g, (_, token: string) => ON_PAPER[token] ?? '#000000');
}
