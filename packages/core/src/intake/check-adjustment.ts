import { combinationOf } from '../account/combination';
import { minorDigits } from '../currency/minor-units';
import { LONGEST_TEXT } from './longest-text';
import { issue, type Issue } from '../issue/issue';
import { formatMinor, parseAmount } from '../money/amount';
import { isIsoDate } from '../period/fiscal-calendar';
import type { PostingContext, PostingEntity, PostingPeriod } from './posting-context';

/** A line of an adjustment as a person types it; amounts as plain decimal text. */
export interface AdjustmentLine {
  account: string;
  description: string;
  debit: string;
  credit: string;
  /** Code of a partner; empty for none. */
  partner: string;
  /** Values by the names of their dimensions. */
  values: Readonly<Record<string, string>>;
  document: string;
  /** ISO 4217 code of the document and its amount, debit positive; empty where it is in the entity's currency. */
  currency: string;
  currencyAmount: string;
}

export interface Adjustment {
  entity: string;
  date: string;
  /** Key of an adjustment period; empty where the date decides. */
  period: string;
  reason: string;
  lines: readonly AdjustmentLine[];
}

export interface CheckedAdjustment {
  entity: PostingEntity;
  period: PostingPeriod;
  lines: CheckedLine[];
}

/** A line that has passed every check. Units: minor units, the amount of its document in those of its currency. */
export interface CheckedLine {
  account: number;
  description: string;
  debit: number;
  credit: number;
  combination: string;
  document: string;
  currency: string;
  currencyAmount: number | null;
}

type Money = Pick<PostingEntity, 'currency' | 'digits'>;

const FILE = 'adjustment';

/**
 * Checks an adjustment journal: its entity, period, accounts and values exist, amounts are exact, and it balances.
 *
 * Shape: the checked journal, or every finding; lines are counted from 1.
 */
export function checkAdjustment(
  adjustment: Adjustment,
  context: PostingContext,
): { checked: CheckedAdjustment } | { issues: Issue[] } {
  const issues: Issue[] = [];
  const report = (code: Parameters<typeof issue>[0], params: Issue['params'], column: string, line?: number) =>
    issues.push(issue(code, params, { file: FILE, column, ...(line === undefined ? {} : { line }) }));
  const { reason, date } = adjustment;
  const entity = context.entities.get(adjustment.entity);
  if (!entity)
    report('CORE_REFERENCE_UNKNOWN', { what: 'entity', text: adjustment.entity, file: 'entities.csv' }, 'entity');
  if (reason.trim() === '') report('CORE_CELL_EMPTY', { column: 'reason' }, 'reason');
  if (reason.length > LONGEST_TEXT)
    report('CORE_CELL_LONG', { column: 'reason', length: reason.length, limit: LONGEST_TEXT }, 'reason');
  if (!isIsoDate(date)) report('CORE_CELL_DATE', { text: date }, 'date');
  if (adjustment.lines.length < 2) report('CORE_ADJUSTMENT_LINES', {}, 'lines');
  if (!entity || !isIsoDate(date)) return { issues };
  const period = adjustment.period ? entity.calendar.ofKey(adjustment.period) : entity.calendar.ofDate(date);
  if (!period) report('CORE_JOURNAL_DATE_OUTSIDE', { date, calendar: entity.calendar.calendar.code }, 'date');
  else if (date < period.start || date > period.end)
    report('CORE_JOURNAL_PERIOD_DATE', { date, period: period.key }, 'date');
  const amount = (text: string, column: string, line: number, of: Money = entity): number => {
    if (text === '') return 0;
    const { currency, digits } = of;
    const parsed = parseAmount(text, digits);
    if ('minor' in parsed) return parsed.minor;
    if (parsed.problem === 'decimals') report('CORE_CELL_DECIMALS', { text, digits, unit: currency }, column, line);
    else report(parsed.problem === 'too_large' ? 'CORE_CELL_TOO_LARGE' : 'CORE_CELL_NUMBER', { text }, column, line);
    return 0;
  };
  const side = (text: string, column: string, line: number): number => {
    const minor = amount(text, column, line);
    if (minor < 0) report('CORE_CELL_NEGATIVE', { text }, column, line);
    return minor;
  };
  const lines = adjustment.lines.map(({ account: number, description, debit, credit, ...of }, index): CheckedLine => {
    const line = index + 1;
    const account = context.accounts.get(number);
    if (!account)
      report('CORE_REFERENCE_UNKNOWN', { what: 'account', text: number, file: 'accounts.csv' }, 'account', line);
    if (account?.isStatistic) report('CORE_JOURNAL_STATISTIC_AMOUNT', { account: number }, 'account', line);
    const sides = { debit: side(debit, 'debit', line), credit: side(credit, 'credit', line) };
    if (sides.debit !== 0 && sides.credit !== 0) report('CORE_JOURNAL_BOTH_SIDES', {}, 'credit', line);
    if (debit === '' && credit === '') report('CORE_CELL_EMPTY', { column: 'debit or credit' }, 'debit', line);
    if (of.partner !== '' && !context.partners.has(of.partner))
      report('CORE_REFERENCE_UNKNOWN', { what: 'partner', text: of.partner, file: 'partners.csv' }, 'partner', line);
    for (const [dimension, value] of Object.entries(of.values))
      if (!context.dimensions.get(dimension)?.has(value))
        report('CORE_REFERENCE_UNKNOWN', { what: dimension, text: value, file: 'dimensions.csv' }, 'values', line);
    const currency = of.currency || entity.currency;
    const digits = minorDigits(currency);
    if (digits === undefined) report('CORE_CELL_CURRENCY', { text: currency }, 'currency', line);
    const foreign = amount(of.currencyAmount, 'currency_amount', line, { currency, digits: digits ?? 0 });
    if (foreign * (sides.debit - sides.credit) < 0)
      report('CORE_ADJUSTMENT_SIGN', { currency, text: of.currencyAmount }, 'currency_amount', line);
    return {
      ...{ account: account?.id ?? 0, description, ...sides, document: of.document, currency },
      combination: combinationOf(new Map([...Object.entries(of.values), ['partner', of.partner]])),
      currencyAmount: of.currencyAmount === '' ? null : foreign,
    };
  });
  const off = lines.reduce((sum, { debit, credit }) => sum + debit - credit, 0);
  if (off !== 0)
    report(
      'CORE_ADJUSTMENT_UNBALANCED',
      { difference: formatMinor(off, entity.digits), currency: entity.currency },
      'lines',
    );
  if (issues.length > 0 || !period) return { issues };
  return { checked: { entity, period, lines } };
}
