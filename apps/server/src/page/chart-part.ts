import { PAPER, type NativeChart } from '@margin-lens/core';

/**
 * The part of an office file that a chart is, written by hand: no library that is kept up writes it.
 * @source ECMA-376, part 1, 21.2: DrawingML charts; opened in LibreOffice
 */

/** Where a workbook holds what a chart draws, as references. @example { categories: "'Sheet'!$A$10:$A$21", … } */
export interface ChartPlaces {
  categories: string;
  series: readonly { name: string; values: string }[];
}

/** Colours of series in their order: what is compared with stands first. */
const SHADES = [PAPER.prior, PAPER.ink, PAPER.brass, PAPER.second, PAPER.favourable, PAPER.adverse];
/** Width of a line in EMU: 1.75 points. */
const LINE_EMU = 22_225;

export const xmlText = (text: string): string =>
  text
    .replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`)
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, ''); // eslint-disable-line no-control-regex

const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
const NAMESPACES = [
  'xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart"',
  'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"',
  'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"',
].join(' ');

/**
 * A chart as its part.
 * @param places where its workbook holds what it draws
 * @param external id of the relation to that workbook, where it is a file of its own
 */
export function chartPart(chart: NativeChart, places: ChartPlaces, external?: string): string {
  const { kind, isLying, isStacked, series } = chart;
  const body = chart.series.map((_, at) => seriesPart(chart, places, at)).join('');
  const axes = '<c:axId val="1"/><c:axId val="2"/>';
  const plot =
    kind === 'bars'
      ? `<c:barChart><c:barDir val="${isLying ? 'bar' : 'col'}"/><c:grouping val="${isStacked ? 'stacked' : 'clustered'}"/>` +
        `<c:varyColors val="0"/>${body}<c:gapWidth val="60"/>${isStacked ? '<c:overlap val="100"/>' : ''}${axes}</c:barChart>`
      : `<c:lineChart><c:grouping val="standard"/><c:varyColors val="0"/>${body}<c:marker val="1"/>${axes}</c:lineChart>`;
  const hasLegend = series.length > 1 && series.every(({ name }) => name !== '');
  return [
    `${XML}<c:chartSpace ${NAMESPACES}><c:roundedCorners val="0"/><c:chart><c:autoTitleDeleted val="1"/><c:plotArea><c:layout/>`,
    plot,
    axisPart('catAx', 1, 2, isLying ? 'l' : 'b', false),
    axisPart('valAx', 2, 1, isLying ? 'b' : 'l', true),
    '</c:plotArea>',
    hasLegend ? '<c:legend><c:legendPos val="b"/><c:overlay val="0"/></c:legend>' : '',
    '<c:plotVisOnly val="1"/><c:dispBlanksAs val="gap"/></c:chart>',
    '<c:spPr><a:noFill/><a:ln><a:noFill/></a:ln></c:spPr>',
    external === undefined ? '' : `<c:externalData r:id="${external}"><c:autoUpdate val="0"/></c:externalData>`,
    '</c:chartSpace>',
  ].join('');
}

/** Values beside the bars of a series; nothing of none. */
const LABELS = [
  '<c:dLbls><c:numFmt formatCode="#,##0;(#,##0);" sourceLinked="0"/><c:spPr><a:noFill/><a:ln><a:noFill/></a:ln></c:spPr>',
  '<c:txPr><a:bodyPr/><a:lstStyle/><a:p><a:pPr><a:defRPr sz="800"/></a:pPr><a:endParaRPr lang="en-GB"/></a:p></c:txPr>',
  '<c:showLegendKey val="0"/><c:showVal val="1"/><c:showCatName val="0"/><c:showSerName val="0"/>',
  '<c:showPercent val="0"/><c:showBubbleSize val="0"/></c:dLbls>',
].join('');

const solid = (colour: string): string => `<a:solidFill><a:srgbClr val="${colour}"/></a:solidFill>`;

function seriesPart({ kind, categories, series }: NativeChart, places: ChartPlaces, at: number): string {
  const { name, values, isHidden, fills } = series[at]!;
  const shade = series.length === 1 ? PAPER.ink : SHADES[at % SHADES.length]!;
  const look =
    kind === 'lines' ? `<a:ln w="${LINE_EMU}">${solid(shade)}</a:ln>` : isHidden ? '<a:noFill/>' : solid(shade);
  const points = (fills ?? []).map((fill, place) =>
    fill
      ? `<c:dPt><c:idx val="${place}"/><c:invertIfNegative val="0"/><c:bubble3D val="0"/><c:spPr>${solid(PAPER[fill])}</c:spPr></c:dPt>`
      : '',
  );
  const cached = (list: readonly (string | number | null)[]) =>
    `<c:ptCount val="${list.length}"/>${list
      .map((each, place) => (each === null ? '' : `<c:pt idx="${place}"><c:v>${xmlText(String(each))}</c:v></c:pt>`))
      .join('')}`;
  const { name: nameAt, values: valuesAt } = places.series[at]!;
  const isLabelled = kind === 'bars' && !isHidden && (fills !== undefined || at === series.length - 1);
  return [
    `<c:ser><c:idx val="${at}"/><c:order val="${at}"/>`,
    `<c:tx><c:strRef><c:f>${xmlText(nameAt)}</c:f><c:strCache>${cached([name])}</c:strCache></c:strRef></c:tx>`,
    `<c:spPr>${look}</c:spPr>`,
    kind === 'bars' ? `<c:invertIfNegative val="0"/>${points.join('')}` : '<c:marker><c:symbol val="none"/></c:marker>',
    isLabelled ? LABELS : '',
    `<c:cat><c:strRef><c:f>${xmlText(places.categories)}</c:f><c:strCache>${cached(categories)}</c:strCache></c:strRef></c:cat>`,
    `<c:val><c:numRef><c:f>${xmlText(valuesAt)}</c:f><c:numCache><c:formatCode>#,##0</c:formatCode>${cached(values)}</c:numCache></c:numRef></c:val>`,
    kind === 'lines' ? '<c:smooth val="0"/>' : '',
    '</c:ser>',
  ].join('');
}

const axisPart = (tag: 'catAx' | 'valAx', id: number, other: number, side: 'l' | 'b', isLeftOut: boolean): string =>
  [
    `<c:${tag}><c:axId val="${id}"/><c:scaling><c:orientation val="minMax"/></c:scaling><c:delete val="${isLeftOut ? 1 : 0}"/>`,
    `<c:axPos val="${side}"/><c:numFmt formatCode="#,##0" sourceLinked="0"/><c:majorTickMark val="none"/><c:minorTickMark val="none"/>`,
    `<c:tickLblPos val="low"/><c:spPr><a:ln w="6350">${solid(PAPER.rule)}</a:ln></c:spPr>`,
    `<c:crossAx val="${other}"/><c:crosses val="autoZero"/></c:${tag}>`,
  ].join('');

/** A cell by its column and row, from 0 and 1. @example cellName(27, 3) // 'AB3' */
export const columnLetter = (index: number): string =>
  index < 26 ? String.fromCharCode(65 + index) : columnLetter(Math.floor(index / 26) - 1) + columnLetter(index % 26);

/** Where the values of a chart stand on a sheet: categories down a column, a series to each column beside it, names above. */
export function placesOnSheet(sheet: string, chart: NativeChart, top: number): ChartPlaces {
  const name = `'${sheet.replaceAll("'", "''")}'`;
  const bottom = top + chart.categories.length;
  const range = (column: number) => `${name}!$${columnLetter(column)}$${top + 1}:$${columnLetter(column)}$${bottom}`;
  return {
    categories: range(0),
    series: chart.series.map((_, at) => ({ name: `${name}!$${columnLetter(at + 1)}$${top}`, values: range(at + 1) })),
  };
}

/** Graphic that shows a chart, by the id of the relation to its part. */
export const chartGraphic = (relation: string): string =>
  `<a:graphic xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:chart ${NAMESPACES.split(' ')[0]} ${NAMESPACES.split(' ')[2]} r:id="${relation}"/></a:graphicData></a:graphic>`;
