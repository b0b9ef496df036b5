import type { ColumnSpec, ResourceSpec } from '../intake/resource-spec';
import { issue } from '../issue/issue';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { readPeriod } from './read-period';
import { RowConverter } from './row-converter';

const DAY_MS = 86_400_000;
const LAST_DAY = '9999-12-31';

/** Words of files for our choices, by column. */
const CHOICE_WORDS: Record<string, Record<string, string>> = {
  nature: {
    assets: 'asset',
    a: 'asset',
    liabilities: 'liability',
    l: 'liability',
    equities: 'equity',
    capital: 'equity',
    revenue: 'income',
    revenues: 'income',
    sale: 'income',
    sales: 'income',
    expenses: 'expense',
    cost: 'expense',
    costs: 'expense',
    statistics: 'statistic',
    statistical: 'statistic',
  },
  type: { avg: 'average', mean: 'average', close: 'closing', end: 'closing', 'month end': 'closing', daily: 'spot' },
  method: { 'full consolidation': 'full', proportional: 'proportionate', 'equity method': 'equity' },
};

const dayAfter = (day: string) => new Date(Date.parse(`${day}T00:00:00Z`) + DAY_MS).toISOString().slice(0, 10);

/** Moves the point of a plain decimal two places to the right, exactly. @example percentOf('0.8') // '80' */
export function percentOf(plain: string): string {
  const [whole = '', fraction = ''] = plain.split('.');
  const digits = fraction.padEnd(2, '0');
  const moved = `${whole}${digits.slice(0, 2)}`.replace(/^(-?)0+(?=\d)/, '$1');
  const rest = digits.slice(2).replace(/0+$/, '');
  return rest === '' ? moved : `${moved}.${rest}`;
}

interface ShareSpan {
  percent: string;
  from: string;
  to: string;
}

/** Rows of a master-data table: accounts, dimensions, rates, ownership. */
export class TableConverter extends RowConverter {
  readonly header: readonly string[];
  private readonly shares = new Map<string, ShareSpan[]>();

  constructor(
    private readonly resource: ResourceSpec,
    private readonly calendar: FiscalCalendar | undefined,
    ...rest: ConstructorParameters<typeof RowConverter>
  ) {
    super(...rest);
    this.header = resource.columns.map(({ name }) => name);
  }

  protected override rows(): string[][] {
    const row = this.resource.columns.map((column) => this.value(column));
    return this.resource.name === 'ownership' ? this.shareRows(row) : [row];
  }

  private value(column: ColumnSpec): string {
    const { name } = column;
    switch (column.type) {
      case 'integer':
      case 'decimal':
      case 'rate':
        return this.number(name);
      case 'percent':
        return this.share(name);
      case 'date':
        return this.has(name) ? this.date(name) : '';
      case 'period':
        return this.period(name);
      default:
        return column.choices ? this.choice(column) : column.name === 'name' ? this.text(name).trim() : this.code(name);
    }
  }

  private choice({ name, choices }: ColumnSpec): string {
    const text = this.code(name);
    const word = text.toLowerCase();
    if (choices!.includes(word)) return word;
    return CHOICE_WORDS[name]?.[word] ?? text;
  }

  private period(name: string): string {
    const text = this.code(name);
    return (this.calendar && readPeriod(text, this.calendar, this.mapping.dateOrder)) ?? text;
  }

  private share(name: string): string {
    const plain = this.number(name);
    return this.mapping.shareForm === 'fraction' && /^\d+(\.\d+)?$/.test(plain) ? percentOf(plain) : plain;
  }

  /** A share that ends is followed by a share of nothing; the method follows from its size where none is given. */
  private shareRows(row: string[]): string[][] {
    const at = (name: string) => this.header.indexOf(name);
    const [investor, investee, from, percent] = ['investor', 'investee', 'from', 'percent'].map((n) => row[at(n)]!);
    if (row[at('method')] === '') {
      row[at('method')] = Number(percent) > 50 ? 'full' : 'equity';
      this.note('shares over 50 % were taken as consolidated in full, others by the equity method');
    }
    const to = this.has('to') ? this.date('to') : '';
    this.keepSpan(`${investor} in ${investee}`, { percent: percent!, from: from!, to: to || LAST_DAY });
    if (to === '') return [row];
    const ended = [...row];
    ended[at('from')] = dayAfter(to);
    ended[at('percent')] = '0';
    return [row, ended];
  }

  private keepSpan(pair: string, span: ShareSpan): void {
    const others = this.shares.get(pair) ?? [];
    const twice = others.find((other) => other.from <= span.to && span.from <= other.to);
    if (twice) {
      const from = twice.from > span.from ? twice.from : span.from;
      const to = twice.to < span.to ? twice.to : span.to;
      const params = { pair, from, to: to === LAST_DAY ? 'now on' : to };
      this.report(issue('CORE_OWNERSHIP_OVERLAP', params, { file: this.file, line: this.line }));
    }
    this.shares.set(pair, [...others, span]);
  }
}
