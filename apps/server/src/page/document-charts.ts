import type { NativeChart } from '@margin-lens/core';
import { newWorkbook } from '../workbook/new-workbook';
import { chartGraphic, chartPart, placesOnSheet, xmlText } from './chart-part';
import { CHART_TYPE, declare, declareExtension, put, relate, zipped } from './office-parts';

/** A chart of a document, which stands where its mark does. Units: CSS pixels. */
export interface DocumentChart {
  /** Words that stand alone in a run where the chart is to be. */
  mark: string;
  chart: NativeChart;
  says: string;
  width: number;
  height: number;
}

/** English metric units in a CSS pixel. @source ECMA-376, part 1, 20.1.2.1: 914,400 to the inch */
const EMU_A_PX = 9525;
const SHEET = 'Data';
const WORKBOOK_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const DRAWING = 'http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing';

/** Puts charts into a document in place of their marks, each with the workbook that it is edited by. */
export async function withDocumentCharts(file: Buffer, charts: readonly DocumentChart[]): Promise<Buffer> {
  if (charts.length === 0) return file;
  const { default: library } = await import('jszip');
  const zip = await library.loadAsync(file);
  const body = 'word/document.xml';
  let text = await zip.file(body)!.async('string');
  await declareExtension(zip, 'xlsx', WORKBOOK_TYPE);
  for (const [at, each] of charts.entries()) {
    const path = `word/charts/chart${at + 1}.xml`;
    put(zip, `word/embeddings/chart${at + 1}.xlsx`, await dataOf(each.chart));
    const data = await relate(zip, path, 'package', `../embeddings/chart${at + 1}.xlsx`);
    put(zip, path, chartPart(each.chart, placesOnSheet(SHEET, each.chart, 1), data));
    await declare(zip, [{ path, type: CHART_TYPE }]);
    const relation = await relate(zip, body, 'chart', `charts/chart${at + 1}.xml`);
    text = replaceRun(text, each.mark, inline(each, relation, at + 1));
  }
  put(zip, body, text);
  return zipped(zip);
}

/** What a chart draws, as a workbook: categories down, a series to each column. */
async function dataOf({ categories, series }: NativeChart): Promise<Buffer> {
  const workbook = await newWorkbook();
  const sheet = workbook.addWorksheet(SHEET);
  sheet.addRow(['', ...series.map(({ name }) => name)]);
  categories.forEach((category, at) => sheet.addRow([category, ...series.map(({ values }) => values[at] ?? null)]));
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** Puts a run in place of the one that holds a mark. */
function replaceRun(text: string, mark: string, run: string): string {
  const at = text.indexOf(mark);
  const [from, to] = [text.lastIndexOf('<w:r>', at), text.indexOf('</w:r>', at) + '</w:r>'.length];
  return text.slice(0, from) + run + text.slice(to);
}

const inline = ({ says, width, height }: DocumentChart, relation: string, number: number): string =>
  [
    `<w:r><w:drawing><wp:inline xmlns:wp="${DRAWING}" distT="0" distB="0" distL="0" distR="0">`,
    `<wp:extent cx="${width * EMU_A_PX}" cy="${height * EMU_A_PX}"/>`,
    `<wp:docPr id="${2000 + number}" name="Chart ${number}" descr="${xmlText(says)}"/><wp:cNvGraphicFramePr/>`,
    `${chartGraphic(relation)}</wp:inline></w:drawing></w:r>`,
  ].join('');
