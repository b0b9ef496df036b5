import type { Params } from '@angular/router';
import type { LedgerLineView, LinesQuery, LineSort } from '@margin-lens/contract';
import { exactFigure, type TrialBalanceViewName, countText } from '@margin-lens/core/shown';
import { currencyUnit } from '../shared/currency-unit';

/** Parameters of a list of lines, taken out of the address where they do not belong. */
export const NO_LINES: Params = {
  account: null,
  from: null,
  to: null,
  q: null,
  dim: null,
  only: null,
  sort: null,
  order: null,
  journal: null,
  cell: null,
  trace: null,
  before: null,
  after: null,
  all: null,
  late: null,
};

export const VIEWS: readonly { id: TrialBalanceViewName; words: string }[] = [
  { id: 'year_to_date', words: 'Year to date' },
  { id: 'month', words: 'Month' },
  { id: 'months', words: 'Month by month' },
  { id: 'entities', words: 'Entity by entity' },
];

/** An amount with all its decimals, a dash for zero. */
export const amountText = (minor: number, currency: string): string =>
  minor === 0 ? '–' : exactFigure({ amount: minor, unit: currencyUnit(currency) });

const SORTS: readonly LineSort[] = ['date', 'journal', 'account', 'amount'];
const text = (params: Params, name: string): string | undefined => (params[name] as string | undefined) || undefined;

/** The filter that stands in an address. */
export function linesQueryOf(params: Params, scope: string): LinesQuery {
  const sort = SORTS.find((known) => known === params['sort']);
  const named = ['account', 'from', 'to', 'q', 'dim', 'only'].flatMap((name) => {
    const value = text(params, name);
    return value === undefined ? [] : [[name, value] as const];
  });
  return {
    scope,
    ...Object.fromEntries(named),
    ...(sort ? { sort } : {}),
    ...(params['late'] === '1' ? { late: '1' as const } : {}),
    ...(params['order'] === 'desc' ? { order: 'desc' as const } : {}),
  };
}

/** What dimension values, partner and flow a line carries, in one line. */
export const carriedWords = ({ attributes, localAccount }: LedgerLineView): string =>
  [...attributes.map(({ text }) => text), ...(localAccount ? [`own account ${localAccount}`] : [])].join(' · ');

/** What is selected, summed. */
export function selectionWords(lines: readonly LedgerLineView[], currency: string): string {
  if (lines.length < 2) return '';
  const [debit, credit] = lines.reduce(([d, c], line) => [d + line.debit, c + line.credit], [0, 0]);
  return `${countText(lines.length)} lines: debit ${amountText(debit, currency)} · credit ${amountText(credit, currency)} · net ${amountText(debit - credit, currency)}`;
}
