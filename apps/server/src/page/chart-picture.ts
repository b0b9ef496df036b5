import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { ChartOption } from '@margin-lens/core';
import { drawChart } from './draw-chart';
import { FONT_FAMILIES, PAPER_FONTS } from './paper-fonts';

/** How much finer a picture is than the screen. */
const FINER = 2;

let ready: Promise<typeof import('@resvg/resvg-wasm')> | undefined;

/** A chart as a PNG picture, for programs that read no vectors. Units: CSS pixels. */
export async function chartPicture(option: ChartOption, size: { width: number; height: number }): Promise<Buffer> {
  ready ??= loaded();
  const [{ Resvg }, svg] = await Promise.all([ready, drawChart(option, size)]);
  const picture = new Resvg(svg, {
    fitTo: { mode: 'width', value: size.width * FINER },
    font: {
      fontBuffers: [new Uint8Array(readFileSync(PAPER_FONTS.sans)), new Uint8Array(readFileSync(PAPER_FONTS.strong))],
      defaultFontFamily: FONT_FAMILIES.sans,
    },
  });
  return Buffer.from(picture.render().asPng());
}

async function loaded() {
  const resvg = await import('@resvg/resvg-wasm');
  await resvg.initWasm(readFileSync(createRequire(import.meta.url).resolve('@resvg/resvg-wasm/index_bg.wasm')));
  return resvg;
}
