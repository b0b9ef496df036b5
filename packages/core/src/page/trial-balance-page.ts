import type { TrialBalanceLine } from '../books/trial-balance-table';
import { digitsOf } from '../currency/minor-units';
import type { Unit } from '../figure/figure';
import { exactFigure } from '../figure/format-figure';
import type { LiveFormula } from './live-formula';
import type { Page, PageCell, PageRow } from './page';
import { sentenceCase } from '../words/in-words';

/** A trial balance with its sums. Units: minor units of each column's currency, debit positive. */
export interface TrialBalance {
  scope: { name: string; currency: string };
  asAt: { name: string };
  /** `currency` is an ISO 4217 code. */
  columns: readonly { key: string; label: string; currency: string }[];
  lines: readonly TrialBalanceLine[];
  /** Null where one cannot be told. */
  totals: readonly (number | null)[];
  /** Why some of it cannot be told, in words; empty where all can. */
  untold: string;
  profit: readonly (number | null)[];
}

/** What its columns hold: the month, the year to it, closing balances of months or of entities. */
export const TRIAL_BALANCE_VIEWS = ['month', 'year_to_date', 'months', 'entities'] as const;
export type TrialBalanceViewName = (typeof TRIAL_BALANCE_VIEWS)[number];

/**
 * What proves a trial balance: debits equal credits, and every other column comes to nothing.
 * @source double entry
 */
export function trialBalanceProof({ columns, totals }: Pick<TrialBalance, 'columns' | 'totals'>): {
  holds: boolean;
  words: string;
} {
  const at = (key: string) => totals[columns.findIndex((column) => column.key === key)];
  const rest = totals.filter((_, index) => !['debit', 'credit'].includes(columns[index]!.key));
  const holds = at('debit') === at('credit') && rest.every((amount) => amount === 0);
  if (totals.includes(null)) return { holds: false, words: 'not all of it can be told' };
  const sides = at('debit') === undefined ? '' : 'debits and credits agree, ';
  return { holds, words: holds ? `${sides}balances come to nothing` : 'the two sides do not agree' };
}

/** A trial balance as a page: the outline of its accounts to the last minor unit, each sum live, with its proof. */
export function trialBalancePage(
  { scope, asAt, columns, lines, totals, untold, profit }: TrialBalance,
  view: TrialBalanceViewName,
): Page {
  const proof = trialBalanceProof({ columns, totals });
  const units = columns.map(({ currency }): Unit => ({ kind: 'currency', code: currency, digits: digitsOf(currency) }));
  const isOne = new Set(columns.map(({ currency }) => currency)).size <= 1;
  const row = (
    line: Pick<PageRow, 'id' | 'label' | 'depth' | 'style'>,
    amounts: readonly (number | null)[],
    formulaAt: (column: number) => LiveFormula | undefined,
    unknown = 'not known',
  ): PageRow => ({
    ...line,
    ...{ note: '', kind: 'figures', startsPage: false },
    cells: amounts.map((amount, at): PageCell => {
      const figure = { amount, unit: units[at]! };
      const text = amount === null ? unknown : amount === 0 ? '–' : exactFigure(figure);
      const formula = amount === null ? undefined : formulaAt(at);
      return {
        ...{ figure, text, unit: figure.unit, note: '', formula },
        decimals: digitsOf(columns[at]!.currency),
        address: `${line.id}~${columns[at]!.key}`,
      };
    }),
  });
  const sumOf =
    (rows: readonly number[]) =>
    (column: number): LiveFormula =>
      rows.length === 0 ? ['0'] : rows.flatMap((at, part) => [part > 0 ? '+' : '', { row: at, column }]);
  const none = () => undefined;
  return {
    title: 'Trial balance',
    subtitle: view === 'entities' ? 'All entities, each in its own currency' : `${scope.name} · ${scope.currency}`,
    asAt: SPAN_WORDS[view](asAt.name),
    header: '',
    footer: '',
    blocks: [
      {
        kind: 'table',
        table: {
          labelHead: 'Account',
          look: {},
          columns: columns.map(({ key, label, currency }) => ({
            ...{ id: key, label, block: '', blockLabel: '', dates: '', isDated: true, flags: [], notation: 'none' },
            note: isOne ? '' : currency,
          })),
          rows: [
            ...lines.map((line, at) =>
              line.kind === 'account'
                ? row({ ...headOf(line), style: 'detail' }, line.amounts, none)
                : row({ ...headOf(line), style: 'heading' }, line.amounts, sumOf(partsOf(lines, at))),
            ),
            row({ id: 'total', label: 'Total', depth: 0, style: 'result' }, totals, sumOf(rootsOf(lines))),
            row({ id: 'profit', label: 'Profit of the year so far', depth: 0, style: 'total' }, profit, none, ''),
          ],
        },
      },
      { kind: 'text', text: `${sentenceCase(proof.words)}.` },
      ...(untold ? [{ kind: 'text' as const, text: untold }] : []),
    ],
  };
}

const SPAN_WORDS: Record<TrialBalanceViewName, (month: string) => string> = {
  year_to_date: (month) => `fiscal year to ${month}`,
  month: (month) => month,
  months: (month) => `closing balances up to ${month}`,
  entities: (month) => `closing of ${month}`,
};

const headOf = ({ id, label, depth }: TrialBalanceLine) => ({ id, label, depth });

const rootsOf = (lines: readonly TrialBalanceLine[]): number[] =>
  lines.flatMap(({ depth }, at) => (depth === 0 ? [at] : []));

/** The lines directly below one. */
function partsOf(lines: readonly TrialBalanceLine[], at: number): number[] {
  const { depth } = lines[at]!;
  const end = lines.findIndex((line, other) => other > at && line.depth <= depth);
  const below = lines.slice(at + 1, end < 0 ? lines.length : end);
  return below.flatMap((line, offset) => (line.depth === depth + 1 ? [at + 1 + offset] : []));
}
