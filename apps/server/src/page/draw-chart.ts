import { onPaper, type ChartOption } from '@margin-lens/core';

/** A chart as SVG, of a size in CSS pixels; the library is loaded when the first one is drawn. */
export async function drawChart(option: ChartOption, size: { width: number; height: number }): Promise<string> {
  const [{ init, use }, charts, components, { SVGRenderer }] = await Promise.all([
    import('echarts/core'),
    import('echarts/charts'),
    import('echarts/components'),
    import('echarts/renderers'),
  ]);
  const { BarChart, LineChart, TreemapChart } = charts;
  const { AriaComponent, GridComponent, TitleComponent } = components;
  use([BarChart, LineChart, TreemapChart, AriaComponent, GridComponent, TitleComponent, SVGRenderer]);
  const chart = init(null, null, { renderer: 'svg', ssr: true, ...size });
  chart.setOption({ animation: false, ...option });
  const svg = chart.renderToSVGString();
  chart.dispose();
  return onPaper(svg);
}
