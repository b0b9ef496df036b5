import {
  accountOfLine,
  type AccountOfLine,
  type PostingContext,
  type PostingEntity,
  type PostingPeriod,
} from '../intake/posting-context';
import { JOURNAL_COLUMNS } from '../intake/resources';
import { formatMinor, parseAmount } from '../money/amount';
import { fiscalYearName } from '../period/period-name';
import { periodKey } from '../period/fiscal-calendar';
import { sidesOf } from './journal-converter';
import { MONTH_PREFIX } from './mapping';
import { readPeriod } from './read-period';
import { RowConverter } from './row-converter';

/**
 * What an account stood at, in minor units, before a period: the year to date for income and expense.
 * @param local of the account, what stands on this one of the entity's own, or for an empty text on none; undefined for all
 * @param hasResults whether the results of finished years count in the account of retained earnings
 */
export type StandBefore = (
  entity: string,
  account: string,
  period: PostingPeriod,
  local: string | undefined,
  hasResults: boolean,
) => number;

/** Rows of a file that sum others up. */
const TOTAL_WORDS = /^(grand |sub-?)?(totals?|summen?|totaux|totale)\b/i;

/** Number of the journal of what a year opened with. @example 'TB-OPENING-FY2027' */
const openingJournal = (year: number): string => `TB-OPENING-FY${year}`;

/** Number of the journal that a trial balance of a period becomes. @example 'TB-FY2027-P05' */
const trialBalanceJournal = (period: string): string => `TB-${period}`;

/** A closing balance of the file, and the line that it was first read from. */
interface Closing {
  period: PostingPeriod;
  minor: number;
  line: number;
}

/** Closings of an account by the key of their period; several rows of one period add up. */
type Closings = Map<string, Closing>;

const inOrder = (a: Closing, b: Closing): number =>
  a.period.fiscalYear - b.period.fiscalYear || a.period.number - b.period.number;

/**
 * A trial balance, of one month, of many months side by side, or with a row an account and month: each entity and month
 * becomes one journal of what moved in it, dated on its last day.
 *
 * Where the books hold nothing before, what the balance sheet first stands at is taken as what its year opened with, unless
 * it is said to have come about in the month. What the result to date has brought in is taken to have come in as cash, so
 * that the opening is whole.
 *
 * Closing balances become movements: less what the account stood at before, which is its month before in the file, in
 * any order of rows, or else in the books. Income and expense begin anew each year; what they closed with stands before
 * the first month of the next year in the account of retained earnings.
 */
export class TrialBalanceConverter extends RowConverter {
  readonly header = JOURNAL_COLUMNS;
  private readonly months = Object.keys(this.mapping.columns)
    .filter((name) => name.startsWith(MONTH_PREFIX))
    .sort();
  /** Which account took the results of finished years, by entity and period. */
  private readonly resultsTo = new Map<string, string>();
  private readonly linesOfJournal = new Map<string, number>();
  /** Closings by entity and account, until all rows are there. */
  private readonly closings = new Map<PostingEntity, Map<string, Closings>>();

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
    return stands.flatMap((name) => {
      const key = name === 'period' ? this.periodOf(entity) : name.slice(MONTH_PREFIX.length);
      const period = entity.calendar.ofKey(key);
      const text = name === 'period' ? this.amount() : this.number(name);
      const parsed = text === '' ? { minor: 0 } : parseAmount(text, entity.digits);
      if (!period || !('minor' in parsed)) return [this.rowOf(entity, account, key, period, text)];
      if (this.mapping.measure === 'movement') return this.movement(entity, account, period, parsed.minor);
      this.hold(entity, account, period, parsed.minor);
      return [];
    });
  }

  /** What moved in each month, account by account, now that all closings are known. */
  override rest(): { fields: string[]; line: number }[] {
    return [...this.closings].flatMap(([entity, accounts]) => {
      const opened = this.mapping.start === 'opened' ? this.opened(entity, accounts) : undefined;
      const openings = [...(opened?.amounts ?? [])].flatMap(([account, minor]) =>
        this.openingRow(entity, account, opened!.first, minor),
      );
      const movements = [...accounts].flatMap(([account, closings]) => {
        let before: Closing | undefined;
        return [...closings.values()].sort(inOrder).flatMap((closing) => {
          const stood = before ? undefined : opened?.amounts.get(account);
          const moved = closing.minor - (stood ?? this.standing(entity, account, before, closing.period));
          before = closing;
          const rows = this.movement(entity, account, closing.period, moved);
          return rows.map((fields) => ({ fields, line: closing.line }));
        });
      });
      return [...openings.map((fields) => ({ fields, line: 1 })), ...movements];
    });
  }

  /** What accounts of the balance sheet opened the first year of the file with, where the books hold nothing before it. */
  private opened(entity: PostingEntity, accounts: ReadonlyMap<string, Closings>) {
    const all = [...accounts].flatMap(([account, closings]) =>
      [...closings.values()].map((each) => ({ account, ...each })),
    );
    const first = all.sort(inOrder)[0]?.period;
    if (!first) return undefined;
    const firsts = all.filter(({ period }) => period.key === first.key);
    const isKnown = ({ account }: { account: string }) =>
      this.standBefore(
        entity.code,
        this.accountOf(entity, account, first)?.account.number ?? account,
        first,
        undefined,
        false,
      ) !== 0;
    if (firsts.some(isKnown)) return undefined;
    const ofSheet = firsts.filter(({ account }) => {
      const of = this.accountOf(entity, account, first)?.account;
      return of && !of.isProfitOrLoss && !of.isStatistic;
    });
    const amounts = new Map(ofSheet.map(({ account, minor }) => [account, minor]));
    const result = ofSheet.reduce((sum, { minor }) => sum + minor, 0);
    if (result !== 0) {
      const cash = ofSheet.filter(({ account }) => this.accountOf(entity, account, first)!.account.isCash);
      const taker = cash.sort((a, b) => Math.abs(b.minor) - Math.abs(a.minor))[0];
      if (!taker) {
        this.note(
          'no account is said to be cash, so that what accounts first stood at came in as movements of the month',
        );
        return undefined;
      }
      amounts.set(taker.account, taker.minor - result);
      this.note(`what the result up to ${first.label} has brought in was taken to be in ${taker.account}`);
    }
    this.note(`what accounts first stood at was taken as what ${fiscalYearName(first.fiscalYear)} opened with`);
    return { first, amounts };
  }

  private openingRow(entity: PostingEntity, account: string, { fiscalYear }: PostingPeriod, minor: number): string[][] {
    const opens = entity.calendar.ofKey(periodKey(fiscalYear, 1));
    if (minor === 0 || !opens) return [];
    const [debit, credit] = sidesOf(formatMinor(minor, entity.digits));
    const journal = openingJournal(fiscalYear);
    return [
      this.row({
        ...{ entity: entity.code, journal, kind: 'opening', line: this.nextLine(entity, journal), date: opens.start },
        ...{ account, debit, credit, description: `Balances that ${fiscalYearName(fiscalYear)} opened with` },
      }),
    ];
  }

  private nextLine({ code }: PostingEntity, journal: string): string {
    const line = (this.linesOfJournal.get(`${code}|${journal}`) ?? 0) + 1;
    this.linesOfJournal.set(`${code}|${journal}`, line);
    return String(line);
  }

  private hold(entity: PostingEntity, account: string, period: PostingPeriod, minor: number): void {
    const accounts = this.closings.get(entity) ?? new Map<string, Closings>();
    this.closings.set(entity, accounts);
    const closings = accounts.get(account) ?? (new Map() as Closings);
    accounts.set(account, closings);
    const held = closings.get(period.key);
    if (held) held.minor += minor;
    else closings.set(period.key, { period, minor, line: this.line });
  }

  /** What an account stood at before a period: by the closing before it in the file, where there is one. */
  private standing(entity: PostingEntity, account: string, before: Closing | undefined, period: PostingPeriod): number {
    const { account: of, local } = this.accountOf(entity, account, period) ?? { account: undefined, local: '' };
    if (!before) {
      const hasResults = of?.isRetainedEarnings === true && this.takesResults(entity, account, period);
      const own = this.context.local.hasOwnAccounts(entity.code) ? local : undefined;
      return this.standBefore(entity.code, of?.number ?? account, period, own, hasResults);
    }
    if (before.period.fiscalYear === period.fiscalYear) return before.minor;
    if (of?.isProfitOrLoss) return 0;
    return of?.isRetainedEarnings && this.takesResults(entity, account, period)
      ? before.minor + this.results(entity, before.period.fiscalYear, period.fiscalYear)
      : before.minor;
  }

  private accountOf({ code }: PostingEntity, account: string, { end }: PostingPeriod): AccountOfLine | undefined {
    return accountOfLine(this.context, code, account, end);
  }

  /** Of several accounts of an entity that are its retained earnings, results move into the first. */
  private takesResults({ code }: PostingEntity, account: string, { key }: PostingPeriod): boolean {
    const taker = this.resultsTo.get(`${code}|${key}`) ?? account;
    this.resultsTo.set(`${code}|${key}`, taker);
    return taker === account;
  }

  /** What income and expense closed with in the years from one to before another. */
  private results(entity: PostingEntity, from: number, to: number): number {
    let sum = 0;
    for (const [account, closings] of this.closings.get(entity) ?? []) {
      const [any] = closings.values();
      if (!any || !this.accountOf(entity, account, any.period)?.account.isProfitOrLoss) continue;
      const last = new Map<number, Closing>();
      for (const closing of [...closings.values()].sort(inOrder)) last.set(closing.period.fiscalYear, closing);
      for (const [year, { minor }] of last) if (year >= from && year < to) sum += minor;
    }
    return sum;
  }

  private movement(entity: PostingEntity, account: string, period: PostingPeriod, moved: number): string[][] {
    return moved === 0 ? [] : [this.rowOf(entity, account, period.key, period, formatMinor(moved, entity.digits))];
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
    const date = period?.end ?? '';
    return this.row({
      entity: entity.code,
      journal,
      line: this.nextLine(entity, journal),
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
