import type { Unit } from '../figure/figure';
import type { ColumnLayout } from '../layout/column-layout';
import { isUsed } from '../statement/coverage';
import type { RowLayout } from '../layout/row-layout';
import { slot, type LedgerSlice } from '../books/ledger-slice';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { spanOf } from '../period/span';
import type { Evaluation } from '../statement/evaluation';
import { openStatement } from '../statement/statement-table';
import type { Surroundings } from '../statement/surroundings';
import { proveProfit, trialBalanceAgrees } from '../statement/profit-proof';
import { tieOut, type TieOut } from './tie-out';

/** The one column that layouts are proved in: the year to date, balances as at its end. */
const PROOF_COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'proof',
  name: 'Proof',
  columns: [{ kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' }],
};

export interface TieOutSource {
  slice: LedgerSlice;
  at: FiscalPeriod;
  currency: Unit & { kind: 'currency' };
  surroundings: Surroundings;
  layouts: readonly RowLayout[];
}

/** Every tie-out of the books and of each layout, for one scope at one period. */
export function tieOutsAt(source: TieOutSource): TieOut[] {
  const { slice, at } = source;
  const { debit, credit } = trialBalanceAgrees(slice, at.ordinal);
  return [
    tieOut(
      'trial_balance',
      { id: '', name: 'Trial balance' },
      { words: 'Debits', amount: debit },
      { words: 'Credits', amount: credit },
    ),
    ...source.layouts
      .filter(({ archived }) => !archived)
      .flatMap((layout) => layoutTieOuts(layout, openProof(layout, source))),
  ];
}

/** Opens the column in which a layout is proved; nothing of it is read yet. */
export const openProof = (layout: RowLayout, source: Omit<TieOutSource, 'layouts'>): Evaluation =>
  openStatement({ ...source, rowLayout: layout, columnLayout: PROOF_COLUMNS });

/**
 * The tie-outs of one layout: its result, and that it places every account once.
 * @param evaluation of its proof
 */
export function layoutTieOuts(layout: RowLayout, evaluation: Evaluation): TieOut[] {
  const { slice, at } = evaluation.input;
  const { accounts, placedOnce, misplaced } = evaluation.input.coverage;
  // an account that never moved takes nothing from any figure; it counts from its first posting on
  const waiting = misplaced.filter(({ account }) => !isUsed(slice, account, at.ordinal)).length;
  const result = amountOf(evaluation, layout.result);
  return [
    ...resultTieOut(layout, evaluation, result, { slice, at }),
    ...(accounts === 0
      ? []
      : [
          tieOut(
            'coverage',
            layout,
            { words: 'Accounts placed once', amount: placedOnce },
            { words: 'Accounts to place', amount: accounts - waiting },
            'accounts',
          ),
        ]),
  ];
}

function resultTieOut(
  layout: RowLayout,
  evaluation: Evaluation,
  result: { label: string; amount: number } | undefined,
  { slice, at }: Pick<TieOutSource, 'slice' | 'at'>,
): TieOut[] {
  const span = spanOf(slice.calendar, 'year_to_date', at);
  if (!result || !span) return [];
  const left = { words: result.label, amount: result.amount };
  switch (layout.purpose) {
    case 'income': {
      const proof = proveProfit(slice, 'ytd', span, at.ordinal, {
        amount: result.amount,
        unit: evaluation.input.currency,
      });
      return proof
        ? [
            tieOut('result', layout, left, {
              words: 'Gain of assets less liabilities and equity',
              amount: proof.trialBalance,
            }),
          ]
        : [];
    }
    case 'balance_sheet': {
      const other = amountOf(evaluation, layout.counterpart);
      return other ? [tieOut('balance_sheet', layout, left, { words: other.label, amount: other.amount })] : [];
    }
    case 'cash_flow': {
      let moved = 0;
      slice.accounts.forEach(({ role }, account) => {
        if (role !== 'cash') return;
        for (let p = span.from; p <= span.to; p++)
          if (slice.holdsData[p] === 1) moved += slice.movement[slot(slice, account, p)]!;
      });
      return [tieOut('cash_flow', layout, left, { words: 'Movement of the cash accounts', amount: moved })];
    }
    case 'free':
      return [];
  }
}

/** A row's figure in the proof column, in the row's own orientation. */
function amountOf(evaluation: Evaluation, id: string | undefined): { label: string; amount: number } | undefined {
  const row = id === undefined ? undefined : evaluation.input.rows.byId.get(id);
  if (row === undefined) return undefined;
  const { amount } = evaluation.figure({ at: 'cell', row, column: 0 });
  const { label, shownSign } = evaluation.row(row);
  return amount === null ? undefined : { label, amount: shownSign * amount + 0 };
}
