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
  lines: { account: number; description: string; debit: number; credit: number }[];
}

const FILE = 'adjustment';

/**
 * Checks an adjustment journal: its entity, period and accounts exist, amounts are exact, and it balances.
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
  const side = (text: string, column: string, line: number): number => {
    if (text === '') return 0;
    const parsed = parseAmount(text, entity.digits);
    if ('minor' in parsed && parsed.minor >= 0) return parsed.minor;
    if ('minor' in parsed) report('CORE_CELL_NEGATIVE', { text }, column, line);
    else if (parsed.problem === 'decimals')
      report('CORE_CELL_DECIMALS', { text, digits: entity.digits, unit: entity.currency }, column, line);
    else report(parsed.problem === 'too_large' ? 'CORE_CELL_TOO_LARGE' : 'CORE_CELL_NUMBER', { text }, column, line);
    return 0;
  };
  const lines = adjustment.lines.map(({ account: number, description, debit, credit }, index) => {
    const line = index + 1;
    const account = context.accounts.get(number);
    if (!account)
      report('CORE_REFERENCE_UNKNOWN', { what: 'account', text: number, file: 'accounts.csv' }, 'account', line);
    if (account?.isStatistic) report('CORE_JOURNAL_STATISTIC_AMOUNT', { account: number }, 'account', line);
    const sides = { debit: side(debit, 'debit', line), credit: side(credit, 'credit', line) };
    if (sides.debit !== 0 && sides.credit !== 0) report('CORE_JOURNAL_BOTH_SIDES', {}, 'credit', line);
    if (debit === '' && credit === '') report('CORE_CELL_EMPTY', { column: 'debit or credit' }, 'debit', line);
    return { account: account?.id ?? 0, description, ...sides };
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
