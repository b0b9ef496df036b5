import type { PostingContext } from '../intake/posting-context';
import { DIMENSION_PREFIX, FIGURE_COLUMNS } from '../intake/resources';
import { MONTH_PREFIX } from './mapping';
import { readPeriod } from './read-period';
import { RowConverter } from './row-converter';

/**
 * Plan, forecast or branch figures: one month a row, or many months side by side. An empty cell brings no figure; a
 * zero brings a zero.
 *
 * Units: movements, in the natural sign of the account, or debit positive where the mapping says so.
 */
export class FiguresConverter extends RowConverter {
  private readonly dimensions = Object.keys(this.mapping.columns).filter((name) => name.startsWith(DIMENSION_PREFIX));
  readonly header = [...FIGURE_COLUMNS, ...this.dimensions];
  private readonly months = Object.keys(this.mapping.columns)
    .filter((name) => name.startsWith(MONTH_PREFIX))
    .sort();

  constructor(
    private readonly context: PostingContext,
    ...rest: ConstructorParameters<typeof RowConverter>
  ) {
    super(...rest);
  }

  protected override rows(): string[][] {
    const account = this.code('account');
    if (account === '') {
      this.note('rows without an account, such as totals, were passed over');
      return [];
    }
    const cells: Partial<Record<string, string>> = {
      version: this.code('version'),
      entity: this.code('entity'),
      account,
      quantity: this.number('quantity'),
      partner: this.code('partner'),
      flow: this.code('flow'),
      ...Object.fromEntries(this.dimensions.map((name) => [name, this.code(name)])),
    };
    const stands = this.months.length > 0 ? this.months : ['amount'];
    return stands.flatMap((name) => {
      const text = this.number(name);
      if (text === '' && (cells['quantity'] ?? '') === '') return [];
      const period = name === 'amount' ? this.period(cells['entity']!) : name.slice(MONTH_PREFIX.length);
      const row = { ...cells, period, amount: this.signed(text, account) };
      return [this.header.map((column) => (row as Partial<Record<string, string>>)[column] ?? '')];
    });
  }

  private signed(text: string, account: string): string {
    const isTurned = this.mapping.sign === 'debit' && this.context.accounts.get(account)?.naturalSign === -1;
    if (!isTurned || text === '' || /^0*(\.0*)?$/.test(text)) return text;
    return text.startsWith('-') ? text.slice(1) : `-${text}`;
  }

  private period(entity: string): string {
    const text = this.code('period');
    const calendar = this.context.entities.get(entity)?.calendar.calendar;
    return (calendar && readPeriod(text, calendar, this.mapping.dateOrder)) ?? text;
  }
}
