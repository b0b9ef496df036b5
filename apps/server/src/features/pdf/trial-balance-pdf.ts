import type { TrialBalanceView } from '@margin-lens/contract';
import { digitsOf, exactFigure } from '@margin-lens/core';
import { fileApart } from '../../base/work-apart';
import type { PdfTable } from './pdf-table';

/** A trial balance as a PDF document: the outline of its accounts, with totals that prove themselves. */
export function trialBalancePdf(
  { scope, asAt, columns, lines, totals, profit }: TrialBalanceView,
  madeAt: Date,
): Promise<Buffer> {
  const text = (minor: number, at: number): string => {
    const { currency } = columns[at]!;
    return exactFigure({
      amount: minor,
      unit: { kind: 'currency', code: currency, digits: digitsOf(currency) },
    }).replace(/^0(\.0+)?$/, '–');
  };
  const cells = (amounts: readonly (number | null)[]) =>
    amounts.map((amount, at) => ({ text: amount === null ? '' : text(amount, at) }));
  const isOne = new Set(columns.map(({ currency }) => currency)).size === 1;
  const document: PdfTable = {
    title: 'Trial balance',
    subtitle: `${scope.name} · ${isOne ? scope.currency : 'each in its own currency'} · as at ${asAt.name}`,
    labelHead: 'Account',
    columns: columns.map(({ label, currency }) => ({
      block: '',
      label,
      span: isOne ? '' : currency,
      notation: 'none',
    })),
    rows: [
      ...lines.map(({ label, depth, kind, amounts }) => ({
        label,
        depth,
        style: kind === 'account' ? ('detail' as const) : ('heading' as const),
        cells: cells(amounts),
      })),
      { label: 'Total', depth: 0, style: 'result', cells: cells(totals) },
      { label: 'Profit of the year so far', depth: 0, style: 'total', cells: cells(profit) },
    ],
    proof: [],
    madeAt,
  };
  return fileApart('pdfTable', document);
}
