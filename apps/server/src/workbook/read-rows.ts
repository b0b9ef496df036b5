import type { ForeignCell } from '@margin-lens/core';
import type { Workbook } from './open-workbook';
import { fileWrong } from '../base/words';

/** Sizes of a sheet. @source ECMA-376 (SpreadsheetML): 1,048,576 rows of 16,384 columns, texts of 32,767 characters */
const ROWS = 1_048_576;
const COLUMNS = 16_384;
const TEXT = 32_767;
/** Cells and shared texts that are read of one sheet. */
const CELLS_AT_MOST = 25_000_000;
const TEXTS_AT_MOST = 2_000_000;
const LETTERS_AT_MOST = 120_000_000;
/** Days from 30 December 1899 to 1 January 1904, the first day of workbooks that count from there. */
const DAYS_TO_1904 = 1462;
const MS_A_DAY = 86_400_000;

export interface SheetName {
  name: string;
  part: string;
  isVisible: boolean;
}

export interface SheetRow {
  /** Line of the sheet, counted from 1. */
  line: number;
  /** Cells by their place, counted from 0; places without a cell are empty. */
  cells: ForeignCell[];
}

export interface RowHandlers {
  /** Takes a row; true when nothing more is wanted. Throws to stop. */
  row(row: SheetRow): boolean | void;
  /** Tells of a cell that holds a formula, of which the stored value is read. */
  formula?(address: string): void;
}

/** The sheets of a workbook in order, and whether its days count from 1904. */
export async function sheetsOf(workbook: Workbook): Promise<{ sheets: SheetName[]; isFrom1904: boolean }> {
  const targets = new Map<string, string>();
  await workbook.read('xl/_rels/workbook.xml.rels', {
    open: (name, { Id, Target }) => {
      if (name === 'Relationship' && Id && Target)
        targets.set(Id, Target.startsWith('/') ? Target.slice(1) : `xl/${Target}`);
    },
  });
  const sheets: SheetName[] = [];
  let isFrom1904 = false;
  await workbook.read('xl/workbook.xml', {
    open: (name, attributes) => {
      if (name === 'workbookPr') isFrom1904 = ['1', 'true'].includes(attributes['date1904'] ?? '');
      if (name !== 'sheet') return;
      const part = targets.get(
        attributes['r:id'] ?? Object.entries(attributes).find(([key]) => key.endsWith(':id'))?.[1] ?? '',
      );
      if (part && workbook.has(part))
        sheets.push({
          name: attributes['name'] ?? '',
          part,
          isVisible: (attributes['state'] ?? 'visible') === 'visible',
        });
    },
  });
  return { sheets, isFrom1904 };
}

/** Texts that cells refer to by their place; what stands for the reading of others (phonetic) is left out. */
async function sharedTexts(workbook: Workbook): Promise<string[]> {
  const part = 'xl/sharedStrings.xml';
  const texts: string[] = [];
  if (!workbook.has(part)) return texts;
  let [text, letters, isText, isPhonetic] = ['', 0, false, false];
  await workbook.read(part, {
    open: (name) => {
      if (name === 'si') text = '';
      isText = name === 't' && !isPhonetic;
      if (name === 'rPh') isPhonetic = true;
    },
    close: (name) => {
      if (name === 'rPh') isPhonetic = false;
      if (name === 't') isText = false;
      if (name !== 'si') return;
      letters += text.length;
      if (text.length > TEXT) throw workbook.problem('CORE_WORKBOOK_LIMIT', { problem: fileWrong.textTooLong });
      if (texts.length >= TEXTS_AT_MOST || letters > LETTERS_AT_MOST)
        throw workbook.problem('CORE_WORKBOOK_LIMIT', { problem: fileWrong.tooManyTexts });
      texts.push(text);
    },
    text: (more) => {
      if (isText) text += more;
    },
  });
  return texts;
}

/** Number formats that show a day. @source ECMA-376, 18.8.30 numFmt, built-in formats */
const isBuiltInDate = (id: number): boolean =>
  (id >= 14 && id <= 22) || (id >= 27 && id <= 36) || (id >= 45 && id <= 47) || (id >= 50 && id <= 58);

/** Whether a format of one's own shows a day or a time, once its texts, colours and spaces are taken out. */
const isDateFormat = (format: string): boolean =>
  /[dmyhs]/i.test(format.replace(/"[^"]*"|\\.|_.|\*.|\[(?!h|m|s)[^\]]*\]/gi, ''));

/** Whether each style of a cell shows a day. */
async function dateStyles(workbook: Workbook): Promise<boolean[]> {
  const part = 'xl/styles.xml';
  const styles: boolean[] = [];
  if (!workbook.has(part)) return styles;
  const formats = new Map<number, string>();
  let isOfCells = false;
  await workbook.read(part, {
    open: (name, attributes) => {
      if (name === 'numFmt') formats.set(Number(attributes['numFmtId']), attributes['formatCode'] ?? '');
      if (name === 'cellXfs') isOfCells = true;
      if (name !== 'xf' || !isOfCells) return;
      const id = Number(attributes['numFmtId'] ?? 0);
      styles.push(isBuiltInDate(id) || isDateFormat(formats.get(id) ?? ''));
    },
    close: (name) => {
      if (name === 'cellXfs') isOfCells = false;
    },
  });
  return styles;
}

/** The column of an address, counted from 0. @example columnOf('AB12') // 27 */
function columnOf(address: string): number {
  let column = 0;
  for (const letter of address) {
    const at = letter.charCodeAt(0) - 64;
    if (at < 1 || at > 26) break;
    column = column * 26 + at;
    if (column > COLUMNS) return COLUMNS;
  }
  return column - 1;
}

/** A day by its number; days before March 1900 are one off, since that count has a 29 February 1900. */
function dayOf(serial: number, isFrom1904: boolean): string | undefined {
  const days = isFrom1904 ? serial + DAYS_TO_1904 : serial < 61 ? serial + 1 : serial;
  const at = new Date(Date.UTC(1899, 11, 30) + Math.round(days * MS_A_DAY));
  return Number.isNaN(at.getTime()) ? undefined : at.toISOString().slice(0, 10);
}

/**
 * Hands the rows of a sheet on as they come; rows without a cell are passed over, memory does not grow with the sheet.
 * Dates come as ISO days, formulas as their stored values.
 * @throws WorkbookProblem
 */
export async function readRows(
  workbook: Workbook,
  { part }: SheetName,
  isFrom1904: boolean,
  handlers: RowHandlers,
): Promise<void> {
  const [texts, styles] = [await sharedTexts(workbook), await dateStyles(workbook)];
  const limit = (problem: string) => workbook.problem('CORE_WORKBOOK_LIMIT', { problem });
  let [line, count, isEnough] = [0, 0, false];
  let cells: ForeignCell[] | undefined;
  let cell: { at: number; address: string; type: string; style: number; text: string } | undefined;
  let isValue = false;
  const valueOf = ({ type, style, text }: NonNullable<typeof cell>): ForeignCell => {
    if (type === 's') return texts[Number(text)] ?? '';
    if (type === 'b') return text === '1' ? 'true' : 'false';
    if (type === 'd') return text.slice(0, 10);
    if (type === 'str' || type === 'inlineStr' || type === 'e') return text;
    if (text === '') return '';
    const number = Number(text);
    if (!Number.isFinite(number)) return '';
    return styles[style] && number >= 1 ? (dayOf(number, isFrom1904) ?? number) : number;
  };
  await workbook.read(part, {
    isEnough: () => isEnough,
    open: (name, attributes) => {
      if (name === 'row') {
        line = attributes['r'] === undefined ? line + 1 : Number(attributes['r']);
        if (!(line >= 1 && line <= ROWS)) throw limit(fileWrong.rowBeyond);
        cells = [];
      } else if (name === 'c' && cells) {
        const at = attributes['r'] === undefined ? cells.length : columnOf(attributes['r']);
        if (at < 0 || at >= COLUMNS) throw limit(fileWrong.cellBeyond);
        // places without a cell count, too: they are filled
        count += Math.max(1, at + 1 - cells.length);
        if (count > CELLS_AT_MOST) throw limit(fileWrong.tooManyCells(CELLS_AT_MOST / 1e6));
        cell = {
          at,
          address: attributes['r'] ?? addressOf(at, line),
          type: attributes['t'] ?? 'n',
          style: Number(attributes['s'] ?? 0),
          text: '',
        };
      } else if (cell) {
        isValue = name === 'v' || (name === 't' && cell.type === 'inlineStr');
        if (name === 'f') handlers.formula?.(cell.address);
      }
    },
    text: (more) => {
      if (!isValue || !cell) return;
      cell.text += more;
      if (cell.text.length > TEXT) throw limit(fileWrong.textTooLong);
    },
    close: (name) => {
      isValue = false;
      if (name === 'c' && cell && cells) {
        while (cells.length < cell.at) cells.push('');
        cells[cell.at] = valueOf(cell);
        cell = undefined;
      } else if (name === 'row' && cells) {
        if (cells.length > 0) isEnough = handlers.row({ line, cells }) === true;
        cells = undefined;
      }
    },
  });
}

function addressOf(column: number, line: number): string {
  let letters = '';
  for (let left = column + 1; left > 0; left = Math.floor((left - 1) / 26))
    letters = String.fromCharCode(65 + ((left - 1) % 26)) + letters;
  return letters + line;
}
