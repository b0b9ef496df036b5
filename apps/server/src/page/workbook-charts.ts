import type { NativeChart } from '@margin-lens/core';
import { chartGraphic, chartPart, placesOnSheet, xmlText } from './chart-part';
import { CHART_TYPE, declare, DRAWING_TYPE, put, relate, zipped } from './office-parts';

/** A chart on a sheet of a workbook: what it draws stands below its head on the same sheet. */
export interface SheetChart {
  /** Number of the sheet's part, and its name. */
  part: number;
  sheet: string;
  chart: NativeChart;
  /** What it shows, in words. */
  says: string;
  /** Row of the names of its series, from 1, and column of the first of them, from 0. */
  dataRow: number;
  column: number;
  /** Rows that it stands over, from 1, both included. */
  from: number;
  to: number;
}

/** Columns that a chart stands over. */
const COLUMNS_WIDE = 8;

/** Puts charts into a workbook that was written without them. */
export async function withCharts(file: Buffer, charts: readonly SheetChart[]): Promise<Buffer> {
  if (charts.length === 0) return file;
  const { default: library } = await import('jszip');
  const zip = await library.loadAsync(file);
  const parts = [...new Set(charts.map(({ part }) => part))];
  let number = 0;
  for (const part of parts) {
    const sheetPath = `xl/worksheets/sheet${part}.xml`;
    const drawing = await drawingOf(zip, sheetPath, part);
    const anchors: string[] = [];
    for (const each of charts.filter((chart) => chart.part === part)) {
      number++;
      const path = `xl/charts/chart${number}.xml`;
      put(zip, path, chartPart(each.chart, placesOnSheet(each.sheet, each.chart, each.dataRow, each.column)));
      await declare(zip, [{ path, type: CHART_TYPE }]);
      const relation = await relate(zip, drawing, 'chart', `../charts/chart${number}.xml`);
      anchors.push(anchor(each, relation, number));
    }
    const held = await zip.file(drawing)!.async('string');
    put(zip, drawing, held.replace('</xdr:wsDr>', `${anchors.join('')}</xdr:wsDr>`));
  }
  return zipped(zip);
}

/** The drawing of a sheet: the one that it has, for its pictures, or a new one. */
async function drawingOf(zip: import('jszip'), sheetPath: string, part: number): Promise<string> {
  const relations = (await zip.file(`xl/worksheets/_rels/sheet${part}.xml.rels`)?.async('string')) ?? '';
  const held = /Target="\.\.\/drawings\/(drawing\d+\.xml)"/.exec(relations)?.[1];
  if (held) return `xl/drawings/${held}`;
  const path = `xl/drawings/drawingOfSheet${part}.xml`;
  put(
    zip,
    path,
    '<?xml version="1.0" encoding="UTF-8" standalone="yes"?><xdr:wsDr xmlns:xdr="http://schemas.openxmlformats.org/drawingml/2006/spreadsheetDrawing" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"></xdr:wsDr>',
  );
  await declare(zip, [{ path, type: DRAWING_TYPE }]);
  const relation = await relate(zip, sheetPath, 'drawing', `../drawings/drawingOfSheet${part}.xml`);
  const sheet = await zip.file(sheetPath)!.async('string');
  const tag = `<drawing xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:id="${relation}"/>`;
  // it stands before what follows it in the schema. @source ECMA-376, part 1, 18.3.1.99
  const behind = /<(legacyDrawing|tableParts|extLst)\b/.exec(sheet)?.index ?? sheet.indexOf('</worksheet>');
  put(zip, sheetPath, sheet.slice(0, behind) + tag + sheet.slice(behind));
  return path;
}

const place = (tag: 'from' | 'to', column: number, row: number): string =>
  `<xdr:${tag}><xdr:col>${column}</xdr:col><xdr:colOff>0</xdr:colOff><xdr:row>${row}</xdr:row><xdr:rowOff>0</xdr:rowOff></xdr:${tag}>`;

const anchor = ({ says, from, to }: SheetChart, relation: string, number: number): string =>
  [
    `<xdr:twoCellAnchor>${place('from', 0, from - 1)}${place('to', COLUMNS_WIDE, to)}<xdr:graphicFrame macro="">`,
    `<xdr:nvGraphicFramePr><xdr:cNvPr id="${1000 + number}" name="Chart ${number}" descr="${xmlText(says)}"/><xdr:cNvGraphicFramePr/></xdr:nvGraphicFramePr>`,
    '<xdr:xfrm><a:off x="0" y="0"/><a:ext cx="0" cy="0"/></xdr:xfrm>',
    `${chartGraphic(relation)}</xdr:graphicFrame><xdr:clientData/></xdr:twoCellAnchor>`,
  ].join('');
