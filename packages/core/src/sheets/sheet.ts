import type { ChartOption } from '../page/chart-notation';
import type { PAPER } from '../page/paper-colours';

/** A colour of paper by what it stands for. */
export type Colour = keyof typeof PAPER;

export type PaperFont = 'sans' | 'strong' | 'slanted' | 'strong_slanted' | 'serif';

/** Width of a text in points. @param size of the font, in points */
export type Measure = (text: string, font: PaperFont, size: number) => number;

/** What is drawn on a sheet. Units: points, from its top left corner; the `y` of a text is its baseline. */
export type Mark =
  | { kind: 'text'; x: number; y: number; text: string; font: PaperFont; size: number; colour: Colour; align: Align }
  | { kind: 'line'; x: number; y: number; length: number; thickness: number; colour: Colour }
  | { kind: 'box'; x: number; y: number; width: number; height: number; colour: Colour }
  | { kind: 'chart'; x: number; y: number; width: number; height: number; option: ChartOption; says: string };

/** Where the `x` of a text stands in it. */
export type Align = 'left' | 'right' | 'center';

/** What a part of a sheet is to a reader who does not see it. @source ISO 32000-1, 14.8.4: standard structure types */
export type Tag =
  'H1' | 'H2' | 'P' | 'Table' | 'THead' | 'TBody' | 'TR' | 'TH' | 'TD' | 'Figure' | 'TOC' | 'TOCI' | 'L' | 'LI';

/** A part of a sheet: marks, or parts of its own; without a tag it only adorns. */
export interface SheetPart {
  tag?: Tag | undefined;
  marks?: readonly Mark[];
  parts?: readonly SheetPart[];
  /** What a figure says, in words. */
  says?: string;
  /** Of a head: what it heads. */
  scope?: 'Column' | 'Row';
  /** Id of the page that is gone to from here. */
  goTo?: string;
}

/** A sheet of paper, as it is printed and as it is previewed. Units: points. */
export interface Sheet {
  /** Id of the page that it belongs to. */
  page: string;
  width: number;
  height: number;
  parts: readonly SheetPart[];
}

/** A4 in points, on its short side. @source ISO 216: 210 by 297 mm */
export const A4 = { width: 595.28, height: 841.89 };
/** Left and right of what is printed, in points. */
export const MARGIN = 36;
/** CSS pixels in a point. @source CSS Values 4: 96 px and 72 pt are an inch */
export const PX = 96 / 72;

export type Orientation = 'portrait' | 'landscape';

export const sizeOf = (orientation: Orientation): { width: number; height: number } =>
  orientation === 'portrait' ? A4 : { width: A4.height, height: A4.width };

/** All marks of parts, as they are drawn one after the other. */
export const marksOfParts = (parts: readonly SheetPart[]): Mark[] =>
  parts.flatMap(({ marks = [], parts: within = [] }) => [...marks, ...marksOfParts(within)]);
