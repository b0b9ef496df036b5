import { PAPER, type NativeChart, type NativeLook, type NativeSeries } from '@margin-lens/core';

/**
 * The part of an office file that a chart is, written by hand: no library that is kept up writes it.
 * @source ECMA-376, part 1, 21.2: DrawingML charts; opened in LibreOffice
 */

/** Where a workbook holds what a chart draws, as references. @example { categories: "'Sheet'!$A$10:$A$21", … } */
export interface ChartPlaces {
  categories: string;
  series: readonly { name: string; values: string }[];
}

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
  const { title, isLying, isFromTop, least, most } = chart;
  const sides = isLying ? (['l', 'b'] as const) : (['b', 'l'] as const);
  const [bars, lines, shares] = [plot(chart, places, 'bars'), plot(chart, places, 'lines'), shareLines(chart, places)];
  return [
    `${XML}<c:chartSpace ${NAMESPACES}><c:roundedCorners val="0"/><c:chart>`,
    title === '' ? '' : titlePart(title),
    `<c:autoTitleDeleted val="${title === '' ? 1 : 0}"/><c:plotArea><c:layout/>`,
    ...[bars, lines, shares],
    axisPart('catAx', { ids: [1, 2], side: sides[0], isFromTop }),
    axisPart('valAx', { ids: [2, 1], side: sides[1], isLeftOut: true, least, most }),
    shares && axisPart('catAx', { ids: [3, 4], side: 'b', isLeftOut: true }),
    shares && axisPart('valAx', { ids: [4, 3], side: 'r', isUnseen: true, least: 0, most: 1 }),
    '</c:plotArea>',
    hasLegend(chart) ? '<c:legend><c:legendPos val="b"/><c:overlay val="0"/></c:legend>' : '',
    '<c:plotVisOnly val="1"/><c:dispBlanksAs val="gap"/></c:chart>',
    '<c:spPr><a:noFill/><a:ln><a:noFill/></a:ln></c:spPr>',
    external === undefined ? '' : `<c:externalData r:id="${external}"><c:autoUpdate val="0"/></c:externalData>`,
    '</c:chartSpace>',
  ].join('');
}

/** Height of a legend, in CSS pixels. */
export const LEGEND_PX = 36;

/** Whether its series are told apart by a legend. */
export const hasLegend = ({ series }: NativeChart): boolean =>
  series.filter(({ look, name }) => look.fill !== undefined && name !== '').length > 1;

/** The bars, or the lines, of a chart on its common scale; empty where there are none. */
function plot(chart: NativeChart, places: ChartPlaces, kind: NativeSeries['kind']): string {
  const { isLying, isStacked, series } = chart;
  const own = series.map((each) => each.kind === kind && !each.isShare);
  if (!own.includes(true)) return '';
  const body = series.map((_, at) => (own[at] ? seriesPart(chart, places, at) : '')).join('');
  const axes = '<c:axId val="1"/><c:axId val="2"/>';
  if (kind === 'lines')
    return `<c:lineChart><c:grouping val="standard"/><c:varyColors val="0"/>${body}<c:marker val="1"/>${axes}</c:lineChart>`;
  const overlap = isStacked ? 100 : own.filter(Boolean).length === 2 ? OVERLAP : 0;
  return (
    `<c:barChart><c:barDir val="${isLying ? 'bar' : 'col'}"/><c:grouping val="${isStacked ? 'stacked' : 'clustered'}"/>` +
    `<c:varyColors val="0"/>${body}<c:gapWidth val="60"/><c:overlap val="${overlap}"/>${axes}</c:barChart>`
  );
}

/** How far a bar lies on that which it is compared with, in percent of its width. */
const OVERLAP = 55;

function shareLines(chart: NativeChart, places: ChartPlaces): string {
  const body = chart.series.map(({ isShare }, at) => (isShare ? seriesPart(chart, places, at) : '')).join('');
  return body === ''
    ? ''
    : `<c:lineChart><c:grouping val="standard"/><c:varyColors val="0"/>${body}<c:marker val="1"/><c:axId val="3"/><c:axId val="4"/></c:lineChart>`;
}

const small = (size: number): string =>
  `<a:bodyPr/><a:lstStyle/><a:p><a:pPr><a:defRPr sz="${size}"/></a:pPr><a:endParaRPr lang="en-GB"/></a:p>`;

const titlePart = (title: string): string =>
  `<c:title><c:tx><c:rich><a:bodyPr/><a:lstStyle/><a:p><a:r><a:rPr lang="en-GB" sz="1000" b="1"/><a:t>${xmlText(title)}</a:t></a:r></a:p></c:rich></c:tx><c:overlay val="0"/></c:title>`;

/** Values beside the bars of a series, nothing of none; parts above its line. */
const labels = (isShare: boolean): string =>
  [
    `<c:dLbls><c:numFmt formatCode="${isShare ? SHARE : '#,##0;(#,##0);'}" sourceLinked="0"/>`,
    `<c:spPr><a:noFill/><a:ln><a:noFill/></a:ln></c:spPr><c:txPr>${small(800)}</c:txPr>`,
    isShare ? '<c:dLblPos val="t"/>' : '',
    '<c:showLegendKey val="0"/><c:showVal val="1"/><c:showCatName val="0"/><c:showSerName val="0"/>',
    '<c:showPercent val="0"/><c:showBubbleSize val="0"/></c:dLbls>',
  ].join('');

/** Codes of numbers. @source ECMA-376, part 1, 18.8.31 */
const SHARE = '0%';
const WHOLE = '#,##0';

const solid = (colour: string): string => `<a:solidFill><a:srgbClr val="${colour}"/></a:solidFill>`;

function barLook({ fill, edge, isHatched }: NativeLook): string {
  if (fill === undefined) return '<a:noFill/>';
  const inside = isHatched
    ? `<a:pattFill prst="wdUpDiag"><a:fgClr><a:srgbClr val="${edge ?? fill}"/></a:fgClr><a:bgClr><a:srgbClr val="${fill}"/></a:bgClr></a:pattFill>`
    : solid(fill);
  return edge === undefined ? inside : `${inside}<a:ln w="9525">${solid(edge)}</a:ln>`;
}

const lineLook = ({ fill = PAPER.ink, isDashed }: NativeLook): string =>
  `<a:ln w="${LINE_EMU}">${solid(fill)}${isDashed ? '<a:prstDash val="dash"/>' : ''}</a:ln>`;

function seriesPart({ categories, series }: NativeChart, places: ChartPlaces, at: number): string {
  const { name, kind, values, look, looks = [], isLabelled, isShare } = series[at]!;
  const points = looks.map(
    (each, place) =>
      `<c:dPt><c:idx val="${place}"/><c:invertIfNegative val="0"/><c:bubble3D val="0"/><c:spPr>${barLook(each)}</c:spPr></c:dPt>`,
  );
  const cached = (list: readonly (string | number | null)[]) =>
    `<c:ptCount val="${list.length}"/>${list
      .map((each, place) => (each === null ? '' : `<c:pt idx="${place}"><c:v>${xmlText(String(each))}</c:v></c:pt>`))
      .join('')}`;
  const { name: nameAt, values: valuesAt } = places.series[at]!;
  return [
    `<c:ser><c:idx val="${at}"/><c:order val="${at}"/>`,
    `<c:tx><c:strRef><c:f>${xmlText(nameAt)}</c:f><c:strCache>${cached([name])}</c:strCache></c:strRef></c:tx>`,
    `<c:spPr>${kind === 'bars' ? barLook(look) : lineLook(look)}</c:spPr>`,
    kind === 'bars' ? `<c:invertIfNegative val="0"/>${points.join('')}` : '<c:marker><c:symbol val="none"/></c:marker>',
    isLabelled ? labels(isShare) : '',
    `<c:cat><c:strRef><c:f>${xmlText(places.categories)}</c:f><c:strCache>${cached(categories)}</c:strCache></c:strRef></c:cat>`,
    `<c:val><c:numRef><c:f>${xmlText(valuesAt)}</c:f><c:numCache><c:formatCode>${isShare ? SHARE : WHOLE}</c:formatCode>${cached(values)}</c:numCache></c:numRef></c:val>`,
    kind === 'lines' ? '<c:smooth val="0"/>' : '',
    '</c:ser>',
  ].join('');
}

interface AxisToWrite {
  /** Its own, and that of the axis which it crosses. */
  ids: readonly [number, number];
  side: 'l' | 'b' | 'r';
  isLeftOut?: boolean;
  /** It is there, for a scale of its own, and not seen. */
  isUnseen?: boolean;
  isFromTop?: boolean;
  least?: number | undefined;
  most?: number | undefined;
}

const axisPart = (
  tag: 'catAx' | 'valAx',
  { ids: [id, other], side, isLeftOut = false, isUnseen = false, isFromTop = false, least, most }: AxisToWrite,
): string =>
  [
    `<c:${tag}><c:axId val="${id}"/><c:scaling><c:orientation val="${isFromTop ? 'maxMin' : 'minMax'}"/>`,
    most === undefined ? '' : `<c:max val="${most}"/>`,
    least === undefined ? '' : `<c:min val="${least}"/>`,
    `</c:scaling><c:delete val="${isLeftOut ? 1 : 0}"/>`,
    `<c:axPos val="${side}"/><c:numFmt formatCode="${WHOLE}" sourceLinked="0"/><c:majorTickMark val="none"/><c:minorTickMark val="none"/>`,
    `<c:tickLblPos val="${isUnseen ? 'none' : 'low'}"/><c:spPr><a:ln w="6350">${isUnseen ? '<a:noFill/>' : solid(PAPER.rule)}</a:ln></c:spPr><c:txPr>${small(900)}</c:txPr>`,
    `<c:crossAx val="${other}"/><c:crosses val="${side === 'r' ? 'max' : 'autoZero'}"/></c:${tag}>`,
  ].join('');

/** Letters of a column, from 0. @example columnLetter(27) // 'AB' */
export const columnLetter = (index: number): string =>
  index < 26 ? String.fromCharCode(65 + index) : columnLetter(Math.floor(index / 26) - 1) + columnLetter(index % 26);

/**
 * Where the values of a chart stand on a sheet: categories down the first column, a series to each column, names above.
 * @param top row of the names, from 1
 * @param first column of the first series, from 0
 */
export function placesOnSheet(sheet: string, chart: NativeChart, top: number, first = 1): ChartPlaces {
  const name = `'${sheet.replaceAll("'", "''")}'`;
  const bottom = top + chart.categories.length;
  const range = (column: number) => `${name}!$${columnLetter(column)}$${top + 1}:$${columnLetter(column)}$${bottom}`;
  return {
    categories: range(0),
    series: chart.series.map((_, at) => ({
      name: `${name}!$${columnLetter(first + at)}$${top}`,
      values: range(first + at),
    })),
  };
}

/** Graphic that shows a chart, by the id of the relation to its part. */
export const chartGraphic = (relation: string): string =>
  `<a:graphic xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:chart ${NAMESPACES.split(' ')[0]} ${NAMESPACES.split(' ')[2]} r:id="${relation}"/></a:graphicData></a:graphic>`;
