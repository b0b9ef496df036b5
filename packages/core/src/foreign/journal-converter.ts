import { DIMENSION_PREFIX, JOURNAL_COLUMNS } from '../intake/resources';
import { issue } from '../issue/issue';
import type { PostingContext } from '../intake/posting-context';
import { readPeriod } from './read-period';
import { RowConverter } from './row-converter';

/** Words for the credit side, as files write it. */
const CREDIT_SIDES = new Set(['c', 'cr', 'credit', 'h', 'haben', 'k', 'kredit']);
const isZero = (plain: string) => /^-?0*(\.0*)?$/.test(plain);

/** Splits a signed amount; zero stays on the debit side, so that the line is kept. */
export const sidesOf = (plain: string): [debit: string, credit: string] =>
  plain.startsWith('-') ? ['', plain.slice(1)] : [plain, ''];

/** Journal lines: one row of the file, one line of a journal. */
export class JournalConverter extends RowConverter {
  private readonly dimensions = Object.keys(this.mapping.columns).filter((name) => name.startsWith(DIMENSION_PREFIX));
  readonly header = [...JOURNAL_COLUMNS, ...this.dimensions];
  private readonly linesOfJournal = new Map<string, number>();

  constructor(
    private readonly context: PostingContext,
    ...rest: ConstructorParameters<typeof RowConverter>
  ) {
    super(...rest);
  }

  protected override rows(): string[][] {
    const entity = this.code('entity');
    const date = this.date('date');
    const journal = this.has('journal') ? this.code('journal') : date;
    const currency = this.code('currency').toUpperCase();
    if (this.isForeignAmount(entity, currency)) return [];
    const [debit, credit] = this.sides();
    if (isZero(debit) && isZero(credit) && !this.has('quantity')) this.note('lines without an amount were kept');
    const row: Record<(typeof JOURNAL_COLUMNS)[number], string> = {
      entity,
      journal,
      date,
      debit,
      credit,
      currency,
      kind: this.code('kind'),
      line: this.has('line') ? this.code('line') : this.nextLine(`${entity}|${journal}`),
      period: this.period(entity),
      account: this.code('account'),
      currency_amount: this.number('currency_amount'),
      quantity: this.number('quantity'),
      partner: this.code('partner'),
      flow: this.code('flow'),
      basis: this.code('basis'),
      description: this.text('description'),
      document: this.text('document'),
      document_type: this.code('document_type'),
      due: this.has('due') ? this.date('due') : '',
      settles: this.text('settles'),
    };
    return [[...JOURNAL_COLUMNS.map((name) => row[name]), ...this.dimensions.map((name) => this.code(name))]];
  }

  /** An amount in another currency than the entity's own cannot be added to its books without one in its own. */
  private isForeignAmount(entity: string, currency: string): boolean {
    const own = this.context.entities.get(entity)?.currency;
    if (currency === '' || own === undefined || currency === own || this.has('currency_amount')) return false;
    const place = { file: this.file, line: this.line, column: this.mapping.columns['currency'] ?? 'currency' };
    this.report(issue('CORE_JOURNAL_CURRENCY', { entity, own, currency, journal: this.code('journal') }, place));
    return true;
  }

  private sides(): [debit: string, credit: string] {
    if (this.has('amount')) {
      const amount = this.number('amount');
      if (!this.has('side')) return sidesOf(amount);
      const isCredit = CREDIT_SIDES.has(this.code('side').toLowerCase());
      if (!isCredit) return sidesOf(amount);
      return sidesOf(amount.startsWith('-') ? amount.slice(1) : `-${amount}`);
    }
    const [debit, credit] = [this.number('debit'), this.number('credit')].map((side) => (isZero(side) ? '' : side));
    const turned = [debit, credit].filter((side) => side!.startsWith('-'));
    if (turned.length === 0) return [debit!, credit!];
    this.note('a negative debit was read as a credit, and the reverse');
    const take = (side: string, other: string) =>
      [side.startsWith('-') ? '' : side, other.startsWith('-') ? other.slice(1) : ''].find(Boolean) ?? '';
    return [take(debit!, credit!), take(credit!, debit!)];
  }

  private period(entity: string): string {
    const text = this.code('period');
    const calendar = this.context.entities.get(entity)?.calendar.calendar;
    if (text === '' || !calendar) return text;
    return readPeriod(text, calendar, this.mapping.dateOrder) ?? text;
  }

  private nextLine(journal: string): string {
    const line = (this.linesOfJournal.get(journal) ?? 0) + 1;
    this.linesOfJournal.set(journal, line);
    return String(line);
  }
}
