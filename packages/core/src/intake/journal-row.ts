import { localValuesText } from '../account/combination';
import { LONGEST_TEXT } from './longest-text';
import { minorDigits } from '../currency/minor-units';
import { isIsoDate } from '../period/fiscal-calendar';
import {
  accountOfLine,
  type PostingCalendar,
  type PostingContext,
  type PostingEntity,
  type PostingPeriod,
} from './posting-context';
import { PostingRowReader } from './posting-row';
import { JOURNAL_COLUMNS, JOURNALS_FILE, REQUIRED_JOURNAL_COLUMNS } from './resources';
import type { Issue } from '../issue/issue';

export const JOURNAL_KINDS = ['normal', 'opening', 'closing'] as const;

export const BASES = ['books', 'adjustment', 'cash'] as const;

/** A journal line that has passed every check of its own. Units: minor units; quantity in 1/10,000. */
export interface JournalRow {
  entity: PostingEntity;
  fiscalYear: number;
  journal: string;
  /** Index into JOURNAL_KINDS and BASES. */
  kind: number;
  basis: number;
  lineNumber: number;
  date: string;
  period: PostingPeriod;
  account: number;
  debit: number;
  credit: number;
  currency: string;
  currencyAmount: number | null;
  quantity: number;
  combination: string;
  description: string;
  document: string;
  documentType: string;
  /** The day on which an open item is due; empty where it is none. */
  due: string;
  /** The document that the line settles. */
  settles: string;
  /** As the entity's own books have it, where another account or other values stand for it; see `local-codes`. */
  localAccount: string;
  /** Values of dimensions, `team=rot`, divided as those of a combination are. */
  localValues: string;
}

/** Checks the lines of journals.csv one by one; what concerns a whole journal is checked when all lines are in. */
export class JournalRowReader extends PostingRowReader {
  private readonly localValues = new Map<string, string>();

  constructor(context: PostingContext, report: (found: Issue) => void) {
    super(JOURNALS_FILE, context, report);
  }

  open(names: readonly string[]): boolean {
    return this.openWith(names, JOURNAL_COLUMNS, REQUIRED_JOURNAL_COLUMNS);
  }

  /** Entity and number of the journal of the row read last, whether or not it was refused. */
  get journalKey(): string {
    return `${this.text('entity')}|${this.text('journal')}`;
  }

  /** The checked line, or undefined when something in it is wrong; every finding of the line is reported. */
  read(fields: readonly string[], line: number): JournalRow | undefined {
    if (!this.begin(fields, line)) return undefined;
    const entity = this.lookUp('entity', this.context.entities, 'entities.csv');
    const journal = this.text('journal');
    if (journal === '') this.fail('CORE_CELL_EMPTY', { column: 'journal' }, 'journal');
    const kind = this.choice('kind', JOURNAL_KINDS);
    const basis = this.choice('basis', BASES);
    const lineNumber = this.lineNumber();
    const date = this.text('date');
    const period = entity && this.period(date, entity.calendar);
    // adjustments are made in the accounts and values of the group
    const isOwn = entity !== undefined && BASES[basis] !== 'adjustment';
    const found = accountOfLine(this.context, isOwn ? entity.code : '', this.text('account'), date);
    const account = found?.account ?? this.lookUp('account', this.context.accounts, 'accounts.csv');
    this.localValues.clear();
    const combination = this.combination(isOwn ? (...of) => this.localValue(entity.code, date, ...of) : undefined);
    const quantity = this.quantity();
    if (!entity || !account) return undefined;
    const debit = this.side('debit', entity);
    const credit = this.side('credit', entity);
    if (debit !== 0 && credit !== 0) this.fail('CORE_JOURNAL_BOTH_SIDES', {}, 'credit');
    if (account.isStatistic && (debit !== 0 || credit !== 0)) {
      this.fail('CORE_JOURNAL_STATISTIC_AMOUNT', { account: this.text('account') }, 'debit');
    }
    const currency = this.text('currency') || entity.currency;
    const currencyAmount = this.currencyAmount(currency);
    const description = this.freeText('description');
    const document = this.freeText('document');
    const documentType = this.freeText('document_type');
    const due = this.due();
    const settles = this.freeText('settles');
    if (this.failed || !period) return undefined;
    return {
      entity,
      fiscalYear: period.fiscalYear,
      journal,
      kind,
      basis,
      lineNumber,
      date,
      period,
      account: account.id,
      debit,
      credit,
      currency,
      currencyAmount,
      quantity,
      combination,
      description,
      document,
      documentType,
      due,
      settles,
      localAccount: found?.local ?? '',
      localValues: this.localValues.size === 0 ? '' : localValuesText(this.localValues),
    };
  }

  /** The value of the group, none for one that nothing is said of yet; undefined where the entity has none of its own. */
  private localValue(entity: string, day: string, dimension: string, delivered: string): string | undefined {
    const { local: codes } = this.context;
    if (!codes.hasOwnValues(entity, dimension)) return undefined;
    const mapped = codes.value(entity, dimension, delivered, day);
    if (mapped === delivered || (mapped === undefined && this.valuesOf(dimension)?.has(delivered))) return undefined;
    this.localValues.set(dimension, delivered);
    return mapped ?? '';
  }

  private due(): string {
    const text = this.text('due');
    if (text !== '' && !isIsoDate(text)) this.fail('CORE_CELL_DATE', { text }, 'due');
    return text;
  }

  private freeText(column: string): string {
    const text = this.text(column);
    if (text.length > LONGEST_TEXT)
      this.fail('CORE_CELL_LONG', { column, length: text.length, limit: LONGEST_TEXT }, column);
    return text;
  }

  private choice(column: string, choices: readonly string[]): number {
    const text = this.text(column);
    const found = text === '' ? 0 : choices.indexOf(text);
    if (found < 0) this.fail('CORE_CELL_CHOICE', { text, choices: choices.join(', ') }, column);
    return found;
  }

  private lineNumber(): number {
    const text = this.text('line');
    if (!/^\d{1,9}$/.test(text)) this.fail('CORE_CELL_INTEGER', { text }, 'line');
    return Number(text);
  }

  private side(column: 'debit' | 'credit', entity: PostingEntity): number {
    const amount = this.amount(column, entity.digits, entity.currency);
    if (amount < 0) this.fail('CORE_CELL_NEGATIVE', { text: this.text(column) }, column);
    return amount;
  }

  private currencyAmount(currency: string): number | null {
    const digits = minorDigits(currency);
    if (digits === undefined) {
      this.fail('CORE_CELL_CURRENCY', { text: currency }, 'currency');
      return null;
    }
    return this.text('currency_amount') === '' ? null : this.amount('currency_amount', digits, currency);
  }

  /** The period column decides where it is filled; it must hold the date. */
  private period(date: string, calendar: PostingCalendar): PostingPeriod | undefined {
    const byDate = calendar.ofDate(date);
    if (!byDate && !isIsoDate(date)) return this.fail('CORE_CELL_DATE', { text: date }, 'date');
    const key = this.text('period');
    if (key === '') {
      const name = calendar.calendar.code;
      return byDate ?? this.fail('CORE_JOURNAL_DATE_OUTSIDE', { date, calendar: name }, 'date');
    }
    const named = calendar.ofKey(key);
    if (!named)
      return this.fail('CORE_REFERENCE_UNKNOWN', { what: 'period', text: key, file: 'calendars.csv' }, 'period');
    const holdsDate = date >= named.start && date <= named.end;
    return holdsDate ? named : this.fail('CORE_JOURNAL_PERIOD_DATE', { date, period: key }, 'date');
  }
}
