import { QUANTITY_DIGITS } from '../figure/figure';
import type { IssueCode } from '../issue/codes';
import { issue, type Issue } from '../issue/issue';
import { parseAmount, type AmountProblem } from '../money/amount';
import { COMBINATION_SEPARATOR } from '../account/combination';
import type { PostingContext } from './posting-context';
import { readHeader, type Header } from './read-header';

const AMOUNT_CODES = {
  number: 'CORE_CELL_NUMBER',
  exponent: 'CORE_CELL_EXPONENT',
  decimals: 'CORE_CELL_DECIMALS',
  too_large: 'CORE_CELL_TOO_LARGE',
} as const satisfies Record<AmountProblem, IssueCode>;

/** Characters that are there and cannot be seen. */
const INVISIBLE = /[\u00ad\u200b-\u200f\u2060\ufeff]/;

/**
 * What rows of journals and of version figures have in common: a header with dimension columns, amounts, and the
 * combination of partner, flow and dimension values. Findings are reported as they are met.
 */
export class PostingRowReader {
  private header!: Header;
  private places: Readonly<Record<string, number>> = {};
  private dimensions: { dimension: string; at: number; values: ReadonlySet<string> | undefined }[] = [];
  protected fields: readonly string[] = [];
  protected line = 0;
  protected failed = false;

  constructor(
    protected readonly file: string,
    protected readonly context: PostingContext,
    private readonly report: (found: Issue) => void,
  ) {}

  /** Takes the header; false when nothing behind it can be read. */
  protected openWith(names: readonly string[], known: readonly string[], required: readonly string[]): boolean {
    this.header = readHeader(this.file, names, known, required, true);
    // read for every cell of every line
    this.places = Object.fromEntries(this.header.at);
    const { dimensions } = this.context;
    this.dimensions = this.header.dimensions
      .map(({ dimension, at }) => ({ dimension, at, values: dimensions.get(dimension) }))
      .sort((a, b) => (a.dimension < b.dimension ? -1 : 1));
    for (const { dimension, values } of this.dimensions) {
      if (!values)
        this.header.issues.push(this.unknown('dimension', dimension, 'dimensions.csv', `dim:${dimension}`, 1));
    }
    this.header.issues.forEach(this.report);
    return !this.header.issues.some((found) => found.severity === 'error');
  }

  /** Begins a row; false when it has another number of fields than the header. */
  protected begin(fields: readonly string[], line: number): boolean {
    this.fields = fields;
    this.line = line;
    this.failed = false;
    if (fields.length === this.header.width) return true;
    const params = { found: fields.length, expected: this.header.width };
    this.report(issue('CORE_TABLE_ROW_WIDTH', params, { file: this.file, line }));
    return false;
  }

  protected text(column: string): string {
    const at = this.places[column];
    return at === undefined ? '' : this.fields[at]!;
  }

  protected fail(code: Parameters<typeof issue>[0], params: Issue['params'], column?: string): undefined {
    this.failed = true;
    const place = column === undefined ? {} : { column };
    this.report(issue(code, params, { file: this.file, line: this.line, ...place }));
    return undefined;
  }

  /** Looks a code up; an empty or unknown one is a finding. */
  protected lookUp<T>(column: string, table: ReadonlyMap<string, T>, file: string): T | undefined {
    const text = this.text(column);
    if (text === '') return this.fail('CORE_CELL_EMPTY', { column }, column);
    return table.get(text) ?? this.unknownCode(column, text, file, column);
  }

  private unknownCode(what: string, text: string, file: string, column: string): undefined {
    const hidden = INVISIBLE.exec(text);
    if (!hidden) return this.fail('CORE_REFERENCE_UNKNOWN', { what, text, file }, column);
    const code = hidden[0].charCodeAt(0).toString(16).toUpperCase().padStart(4, '0');
    return this.fail('CORE_CELL_INVISIBLE', { what, text: text.replace(INVISIBLE, ''), code }, column);
  }

  /** An amount in minor units, 0 when empty. */
  protected amount(column: string, digits: number, unit: string): number {
    const text = this.text(column);
    if (text === '') return 0;
    const parsed = parseAmount(text, digits);
    if ('minor' in parsed) return parsed.minor;
    this.fail(AMOUNT_CODES[parsed.problem], { text, digits, unit }, column);
    return 0;
  }

  protected quantity(): number {
    return this.amount('quantity', QUANTITY_DIGITS, 'quantity');
  }

  /**
   * Partner, flow and dimension values as one text; the same combination always gives the same text.
   * @param local what stands for a value that is an entity's own; undefined where it has none
   */
  protected combination(local?: (dimension: string, value: string) => string | undefined): string {
    const partner = this.text('partner');
    if (partner !== '' && !this.context.partners.has(partner)) {
      this.fail('CORE_REFERENCE_UNKNOWN', { what: 'partner', text: partner, file: 'partners.csv' }, 'partner');
    }
    let key = partner + COMBINATION_SEPARATOR + this.text('flow');
    for (const { dimension, at, values } of this.dimensions) {
      const delivered = this.fields[at]!;
      const value = delivered === '' ? '' : (local?.(dimension, delivered) ?? delivered);
      if (value === '') continue;
      if (!values!.has(value)) {
        this.fail(
          'CORE_REFERENCE_UNKNOWN',
          { what: dimension, text: value, file: 'dimensions.csv' },
          `dim:${dimension}`,
        );
      }
      key += `${COMBINATION_SEPARATOR}${dimension}=${value}`;
    }
    return key;
  }

  /** The values of a dimension, as they are known. */
  protected valuesOf(dimension: string): ReadonlySet<string> | undefined {
    return this.context.dimensions.get(dimension);
  }

  private unknown(what: string, text: string, file: string, column: string, line: number): Issue {
    return issue('CORE_REFERENCE_UNKNOWN', { what, text, file }, { file: this.file, line, column });
  }
}
