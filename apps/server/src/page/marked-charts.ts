import type JSZip from 'jszip';
import type { NativeChart } from '@margin-lens/core';
import { newWorkbook } from '../workbook/new-workbook';
import { chartGraphic, chartPart, placesOnSheet, xmlText } from './chart-part';
import { CHART_TYPE, declare, declareExtension, put, relate, zipped } from './office-parts';

/** A chart of a document or of slides, which stands where its mark does. */
export interface MarkedChart {
  /** Words that stand alone in a run of a document, or in a box of a slide, where the chart is to be. */
  mark: string;
  chart: NativeChart;
  /** What it shows, in words. */
  says: string;
  /** In a document, in CSS pixels; on a slide it takes the place of its box. */
  width: number;
  height: number;
}

/** Kinds of files: where their parts are, what a mark stands in, and what stands there in its place. */
interface Host {
  folder: string;
  parts: RegExp;
  /** Tag of what is replaced. */
  tag: string;
  frame(chart: MarkedChart, relation: string, number: number, replaced: string): string;
}

/** English metric units in a CSS pixel. @source ECMA-376, part 1, 20.1.2.1: 914,400 to the inch */
const EMU_A_PX = 9525;
const SHEET = 'Data';
const WORKBOOK_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const DRAWING = 'http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing';
/** Numbers of charts among other drawings. */
const FIRST_NUMBER = 2000;

const named = (number: number, says: string): string =>
  `id="${FIRST_NUMBER + number}" name="Chart ${number}" descr="${xmlText(says)}"`;

const HOSTS = {
  document: {
    folder: 'word',
    parts: /^word\/document\.xml$/,
    tag: 'w:r',
    frame: ({ says, width, height }, relation, number) =>
      [
        `<w:r><w:drawing><wp:inline xmlns:wp="${DRAWING}" distT="0" distB="0" distL="0" distR="0">`,
        `<wp:extent cx="${Math.round(width) * EMU_A_PX}" cy="${Math.round(height) * EMU_A_PX}"/>`,
        `<wp:docPr ${named(number, says)}/><wp:cNvGraphicFramePr/>`,
        `${chartGraphic(relation)}</wp:inline></w:drawing></w:r>`,
      ].join(''),
  },
  slides: {
    folder: 'ppt',
    parts: /^ppt\/slides\/slide\d+\.xml$/,
    tag: 'p:sp',
    frame: ({ says }, relation, number, replaced) =>
      [
        `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr ${named(number, says)}/><p:cNvGraphicFramePr/><p:nvPr/></p:nvGraphicFramePr>`,
        `<p:xfrm>${/<a:off [^>]*\/><a:ext [^>]*\/>/.exec(replaced)![0]}</p:xfrm>${chartGraphic(relation)}</p:graphicFrame>`,
      ].join(''),
  },
} satisfies Record<string, Host>;

/** Puts charts in place of their marks, each with the workbook that it is edited by. */
export async function withMarkedCharts(
  kind: keyof typeof HOSTS,
  file: Buffer,
  charts: readonly MarkedChart[],
): Promise<Buffer> {
  if (charts.length === 0) return file;
  const { default: library } = await import('jszip');
  const zip = await library.loadAsync(file);
  const host: Host = HOSTS[kind];
  await declareExtension(zip, 'xlsx', WORKBOOK_TYPE);
  for (const path of Object.keys(zip.files).filter((each) => host.parts.test(each))) {
    let text = await zip.file(path)!.async('string');
    for (const [at, each] of charts.entries()) {
      const found = around(text, each.mark, host.tag);
      if (!found) continue;
      const relation = await relate(zip, path, 'chart', `/${await chartOf(zip, host, each.chart, at + 1)}`);
      text = text.slice(0, found.from) + host.frame(each, relation, at + 1, found.text) + text.slice(found.to);
    }
    put(zip, path, text);
  }
  return zipped(zip);
}

/** Puts a chart into a file, with its workbook. @returns path of its part */
async function chartOf(zip: JSZip, { folder }: Host, chart: NativeChart, number: number): Promise<string> {
  const path = `${folder}/charts/chart${number}.xml`;
  put(zip, `${folder}/embeddings/chart${number}.xlsx`, await dataOf(chart));
  const data = await relate(zip, path, 'package', `../embeddings/chart${number}.xlsx`);
  put(zip, path, chartPart(chart, placesOnSheet(SHEET, chart, 1), data));
  await declare(zip, [{ path, type: CHART_TYPE }]);
  return path;
}

/** What a chart draws, as a workbook: categories down, a series to each column. */
async function dataOf({ categories, series }: NativeChart): Promise<Buffer> {
  const workbook = await newWorkbook();
  const sheet = workbook.addWorksheet(SHEET);
  sheet.addRow(['', ...series.map(({ name }) => name)]);
  categories.forEach((category, at) => sheet.addRow([category, ...series.map(({ values }) => values[at] ?? null)]));
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** The element of a tag that holds a mark. */
function around(text: string, mark: string, tag: string): { from: number; to: number; text: string } | undefined {
  const at = text.indexOf(`>${mark}<`);
  if (at < 0) return undefined;
  const [from, to] = [text.lastIndexOf(`<${tag}>`, at), text.indexOf(`</${tag}>`, at) + `</${tag}>`.length];
  return { from, to, text: text.slice(from, to) };
}
