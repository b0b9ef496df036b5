import type { PostingContext, PostingEntity, PostingPeriod } from '../intake/posting-context';
import { JOURNAL_COLUMNS } from '../intake/resources';
import { formatMinor, parseAmount } from '../money/amount';
import { sidesOf } from './journal-converter';
import { MONTH_PREFIX } from './mapping';
import { readPeriod } from './read-period';
import { RowConverter } from './row-converter';

/** What an account stood at, in minor units, before a period: the year to date for income and expense. */
export type StandBefore = (entity: string, account: string, period: PostingPeriod) => number;

/** Rows of a file that sum others up. */
const TOTAL_WORDS = /^(grand |sub-?)?(totals?|summen?|totaux|totale)\b/i;

/** Number of the journal that a trial balance of a period becomes. @example 'TB-FY2027-P05' */
export const trialBalanceJournal = (period: string): string => `TB-${period}`;

/**
 * A trial balance, of one month or of many months side by side: each entity and month becomes one journal of what
 * moved in it, dated on its last day.
 *
 * Closing balances become movements: less what the month before closed with, in the file or else in the books.
 */
export class TrialBalanceConverter extends RowConverter {
  readonly header = JOURNAL_COLUMNS;
  private readonly months = Object.keys(this.mapping.columns)
    .filter((name) => name.startsWith(MONTH_PREFIX))
    .sort();
  private readonly linesOfJournal = new Map<string, number>();

  constructor(
    private readonly context: PostingContext,
    private readonly standBefore: StandBefore,
    ...rest: ConstructorParameters<typeof RowConverter>
  ) {
    super(...rest);
  }

  protected override rows(): string[][] {
    const account = this.code('account');
    if (account === '' || (TOTAL_WORDS.test(account) && !this.context.accounts.has(account))) {
      this.note('rows without an account, such as totals, were passed over');
      return [];
    }
    const entity = this.context.entities.get(this.code('entity'));
    if (!entity) return [this.row({ entity: this.code('entity'), account, line: '1', journal: '?' })];
    const stands = this.months.length > 0 ? this.months : ['period'];
    let previous: { period: PostingPeriod; minor: number } | undefined;
    return stands.flatMap((name) => {
      const key = name === 'period' ? this.periodOf(entity) : name.slice(MONTH_PREFIX.length);
      const period = entity.calendar.ofKey(key);
      const text = name === 'period' ? this.amount() : this.number(name);
      const parsed = text === '' ? { minor: 0 } : parseAmount(text, entity.digits);
      if (!period || !('minor' in parsed)) return [this.rowOf(entity, account, key, period, text)];
      const before = previous && this.carries(account, previous.period, period) ? previous.minor : undefined;
      const stand =
        this.mapping.measure === 'movement'
          ? 0
          : (before ?? this.before(entity, account, period, previous !== undefined));
      previous = { period, minor: parsed.minor };
      const moved = parsed.minor - stand;
      return moved === 0 ? [] : [this.rowOf(entity, account, key, period, formatMinor(moved, entity.digits))];
    });
  }

  /** Income and expense begin anew each year. */
  private carries(account: string, from: PostingPeriod, to: PostingPeriod): boolean {
    return !this.context.accounts.get(account)?.isProfitOrLoss || from.fiscalYear === to.fiscalYear;
  }

  private before(entity: PostingEntity, account: string, period: PostingPeriod, isNewYear: boolean): number {
    return isNewYear ? 0 : this.standBefore(entity.code, account, period);
  }

  private amount(): string {
    if (this.has('amount')) return this.number('amount');
    const [debit, credit] = [this.number('debit'), this.number('credit')];
    if (credit === '' || /^0*(\.0*)?$/.test(credit)) return debit;
    return credit.startsWith('-') ? credit.slice(1) : `-${credit}`;
  }

  private periodOf(entity: PostingEntity): string {
    const text = this.code('period');
    return readPeriod(text, entity.calendar.calendar, this.mapping.dateOrder) ?? text;
  }

  private rowOf(
    entity: PostingEntity,
    account: string,
    key: string,
    period: PostingPeriod | undefined,
    amount: string,
  ) {
    const [debit, credit] = sidesOf(amount);
    const journal = trialBalanceJournal(key);
    const line = (this.linesOfJournal.get(`${entity.code}|${key}`) ?? 0) + 1;
    this.linesOfJournal.set(`${entity.code}|${key}`, line);
    const date = period?.end ?? '';
    return this.row({
      entity: entity.code,
      journal,
      line: String(line),
      date,
      period: key,
      account,
      debit,
      credit,
      description: `Trial balance, ${period?.label ?? key}`,
    });
  }

  private row(cells: Partial<Record<(typeof JOURNAL_COLUMNS)[number], string>>): string[] {
    return JOURNAL_COLUMNS.map((name) => cells[name] ?? '');
  }
}
