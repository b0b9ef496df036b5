import { issue, type Issue } from '../issue/issue';
import { dateOfSerial, readDate } from './date-format';
import type { Mapping } from './mapping';
import { readNumber, type NumberHabit } from './number-format';
import type { ForeignCell } from './propose-mapping';
import { sentenceCase } from '../words/in-words';

const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f]/; // eslint-disable-line no-control-regex
/** Significant digits that a spreadsheet keeps of a number; what lies beyond is noise of its arithmetic. */
const SHEET_DIGITS = 15;

/** Unknown codes listed of one target. */
const UNMATCHED_LISTED = 500;

const HABIT_WORDS: Record<NumberHabit, string> = {
  thousands: 'thousands separators were taken out',
  decimal_comma: 'a comma was read as the decimal sign',
  brackets: 'brackets were read as a minus',
  trailing_minus: 'a trailing minus was read as a minus',
  minus_sign: 'the sign U+2212 was read as a minus',
  side_letters: 'CR was read as a minus, DR as a plus',
};

const plainOfNumber = (number: number): string => String(Number(number.toPrecision(SHEET_DIGITS)));

/** Codes that a target takes, and those that are called by a name. */
export interface KnownOfTarget {
  has(code: string): boolean;
  byName?: ReadonlyMap<string, string>;
}

/** What a name is found again by: capitals and spaces count not. */
export const nameKey = (name: string): string => name.trim().replace(/\s+/g, ' ').toLowerCase();

interface Note {
  words: string;
  count: number;
  firstLine: number;
}

/**
 * Turns the rows of a foreign file into rows of a ledger package: codes replaced, numbers, dates and signs written our
 * way. What cannot be read is handed on as it stands, so that the check of the package names it.
 *
 * Nothing is repaired silently: what was other than plain is counted and reported at the end.
 */
export abstract class RowConverter {
  /** Column names of the rows made. */
  abstract readonly header: readonly string[];
  protected cells: readonly ForeignCell[] = [];
  protected line = 0;
  private readonly at = new Map<string, number>();
  private readonly notes = new Map<string, Note>();
  /** Codes that the workspace does not have, with how often they stand there, by target. */
  readonly unmatched = new Map<string, Map<string, number>>();

  constructor(
    protected readonly file: string,
    protected readonly mapping: Mapping,
    private readonly fileHeader: readonly string[],
    protected readonly report: (found: Issue) => void,
    /** Codes that a target's values must be among; targets that are absent take any. */
    private readonly known: ReadonlyMap<string, KnownOfTarget>,
  ) {
    const names = fileHeader.map((name) => name.trim());
    for (const [target, column] of Object.entries(mapping.columns)) {
      const position = names.indexOf(column);
      if (position >= 0) this.at.set(target, position);
    }
  }

  /** The package rows of one row of the file; none when it brings nothing or was refused. */
  convert(cells: readonly ForeignCell[], line: number): string[][] {
    this.cells = cells;
    this.line = line;
    if (cells.length !== this.fileHeader.length) {
      const params = { found: cells.length, expected: this.fileHeader.length };
      this.report(issue('CORE_TABLE_ROW_WIDTH', params, { file: this.file, line }));
      return [];
    }
    const control = cells.findIndex((cell) => typeof cell === 'string' && CONTROL.test(cell));
    if (control >= 0) {
      const code = String(cells[control]).match(CONTROL)![0].charCodeAt(0).toString(16).padStart(4, '0');
      this.report(issue('CORE_CELL_CONTROL', { code }, { file: this.file, line, column: this.fileHeader[control]! }));
      return [];
    }
    return this.rows();
  }

  /** Package rows that can be made once all rows of the file are there, each with the line that it comes from. */
  rest(): { fields: string[]; line: number }[] {
    return [];
  }

  /** Reports what concerns the file as a whole. */
  finish(): void {
    for (const { words, count, firstLine } of this.notes.values()) {
      const times = count === 1 ? 'once' : `${count} times`;
      const said = sentenceCase(words);
      this.report(
        issue('CORE_FOREIGN_READ', { words: said, times, first: firstLine }, { file: this.file, line: firstLine }),
      );
    }
  }

  protected abstract rows(): string[][];

  /** Position of a target's column, for those that a file need not have. */
  protected has(target: string): boolean {
    return this.at.has(target) || (this.mapping.constants[target] ?? '') !== '';
  }

  protected note(words: string): void {
    const held = this.notes.get(words);
    if (held) held.count++;
    else this.notes.set(words, { words, count: 1, firstLine: this.line });
  }

  private cell(target: string): ForeignCell {
    const at = this.at.get(target);
    return at === undefined ? (this.mapping.constants[target] ?? '') : (this.cells[at] ?? '');
  }

  /** Free text, exactly as it stands. */
  protected text(target: string): string {
    return String(this.cell(target));
  }

  /** A code without spaces around it, in our own spelling where the mapping has one. */
  protected code(target: string): string {
    const text = this.text(target);
    const trimmed = text.trim();
    if (trimmed !== text) this.note('spaces round codes were taken off');
    const known = this.known.get(target);
    const code = this.mapping.values[target]?.[trimmed] ?? trimmed;
    if (code === '' || !known || known.has(code)) return code;
    const named = known.byName?.get(nameKey(code));
    if (named === undefined) this.tally(target, trimmed);
    else this.note(`${named} was found by its name`);
    return named ?? code;
  }

  private tally(target: string, text: string): void {
    const texts = this.unmatched.get(target) ?? new Map<string, number>();
    this.unmatched.set(target, texts);
    if (texts.has(text) || texts.size < UNMATCHED_LISTED) texts.set(text, (texts.get(text) ?? 0) + 1);
  }

  protected number(target: string): string {
    const cell = this.cell(target);
    if (typeof cell === 'number') return plainOfNumber(cell);
    if (cell.trim() === '') return '';
    const read = readNumber(cell, this.mapping.decimal);
    read?.habits.forEach((habit) => this.note(HABIT_WORDS[habit]));
    return read?.plain ?? cell.trim();
  }

  protected date(target: string): string {
    const cell = this.cell(target);
    if (typeof cell !== 'number') return readDate(cell, this.mapping.dateOrder) ?? cell.trim();
    this.note('day numbers of a spreadsheet were read as dates (1900 system)');
    return dateOfSerial(cell);
  }
}
