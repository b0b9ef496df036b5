import type { LocalCodes } from '../account/local-codes';
import { periodOfDate, type FiscalCalendar, type FiscalPeriod } from '../period/fiscal-calendar';

/** An entity as postings need it: ids are those of the store. */
export interface PostingEntity {
  id: number;
  code: string;
  currency: string;
  digits: number;
  calendar: PostingCalendar;
}
export interface PostingAccount {
  id: number;
  number: string;
  isStatistic: boolean;
  isProfitOrLoss: boolean;
  /** The results of finished years stand here. */
  isRetainedEarnings: boolean;
  isCash: boolean;
  /** 1 when the natural reading is debit positive, −1 when credit. */
  naturalSign: 1 | -1;
}
export interface PostingPeriod extends FiscalPeriod {
  id: number;
}

/** A calendar with its period ids and a memory of dates already looked up. */
export class PostingCalendar {
  private readonly byDate = new Map<string, PostingPeriod | undefined>();
  private readonly byKey: ReadonlyMap<string, PostingPeriod>;

  constructor(
    readonly calendar: FiscalCalendar,
    idOf: (period: FiscalPeriod) => number,
  ) {
    this.byKey = new Map(calendar.periods.map((period) => [period.key, { ...period, id: idOf(period) }]));
  }

  /** The regular period of a day. */
  ofDate(date: string): PostingPeriod | undefined {
    const seen = this.byDate.get(date);
    if (seen) return seen;
    const found = periodOfDate(this.calendar, date);
    const period = found && this.byKey.get(found.key);
    if (period) this.byDate.set(date, period);
    return period;
  }

  ofKey(key: string): PostingPeriod | undefined {
    return this.byKey.get(key);
  }
}

/** The master data that postings are checked against. */
export interface PostingContext {
  entities: ReadonlyMap<string, PostingEntity>;
  /** Codes that a posting can be against: the entities, customers, suppliers and others. */
  partners: { has(code: string): boolean };
  accounts: ReadonlyMap<string, PostingAccount>;
  /** What stands for accounts and values of entities that have their own. */
  local: LocalCodes;
  /** Account that takes those that nothing is said of yet; undefined where the chart has none. */
  unmapped: PostingAccount | undefined;
  versions: ReadonlyMap<string, number>;
  /** Values by dimension. */
  dimensions: ReadonlyMap<string, ReadonlySet<string>>;
}

/** An account that a line is on, and the entity's own where that is another one; empty else. */
export interface AccountOfLine {
  account: PostingAccount;
  local: string;
}

/**
 * The account of the group that stands for one of a file: as it is mapped, else itself. One that nothing is said of is not
 * mapped yet, where the entity has accounts of its own and the chart one that takes them; undefined else.
 */
export function accountOfLine(
  { accounts, local: codes, unmapped }: Pick<PostingContext, 'accounts' | 'local' | 'unmapped'>,
  entity: string,
  code: string,
  day: string,
): AccountOfLine | undefined {
  const mapped = codes.account(entity, code, day);
  const account = accounts.get(mapped ?? code);
  if (account) return { account, local: mapped === undefined || mapped === code ? '' : code };
  return unmapped && code !== '' && codes.hasOwnAccounts(entity) ? { account: unmapped, local: code } : undefined;
}
