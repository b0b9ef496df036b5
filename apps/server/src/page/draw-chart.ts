import type { ChartOption } from '@margin-lens/core';
import { PAPER } from '@margin-lens/core';

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
  const { BarChart, CustomChart, LineChart, TreemapChart } = charts;
  const { AriaComponent, GridComponent, TitleComponent } = components;
  use([BarChart, CustomChart, LineChart, TreemapChart, AriaComponent, GridComponent, TitleComponent]);
  use(renderers.SVGRenderer);
  const chart = init(null, null, { renderer: 'svg', ssr: true, ...size });
  chart.setOption({ animation: false, ...option });
  const svg = chart.renderToSVGString();
  chart.dispose();
  return svg
    .replace(/var\((--[\w-]+)\)/g, (_, token: string) => `#${TOKENS[token] ?? PAPER.ink}`)
    .replace(/color-mix\(in srgb, #(\w{6}) (\d+)%, #(\w{6})\)/g, (_, colour: string, part: string, other: string) =>
      mixed(colour, Number(part) / 100, other),
    );
}

/** Two colours in one, as six hexadecimal digits each. @param part of the first, 0 to 1 */
function mixed(colour: string, part: number, other: string): string {
  const channel = (of: string, at: number) => parseInt(of.slice(2 * at, 2 * at + 2), 16);
  const mix = (at: number) => Math.round(part * channel(colour, at) + (1 - part) * channel(other, at));
  return `#${[0, 1, 2].map((at) => mix(at).toString(16).padStart(2, '0')).join('')}`;
}
