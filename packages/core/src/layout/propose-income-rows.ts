import type { RowLayout, Row } from './row-layout';
import { isProfitOrLoss, type Account } from '../account/nature';

const idOf = (text: string, index: number): string =>
  `r${index}_${text.toLowerCase().replace(/[^a-z0-9]+/g, '_').replace(/^_|_$/g, '')}`; // prettier-ignore

/**
 * A covered income statement from the chart of accounts alone: a group for each heading of income and expense, a row
 * for each sub-heading, and the profit. Used when a delivery brings no statement of its own.
 *
 * Shape: headings in the order of their first account; shares are taken of the first income heading.
 */
export function proposeIncomeRows(accounts: readonly Account[]): RowLayout {
  const held = accounts.filter(isProfitOrLoss);
  const headings = [...new Set(held.map((account) => account.heading))];
  const groups = headings.map((heading, index): Row => {
    const inHeading = held.filter((account) => account.heading === heading);
    const isCost = inHeading.every((account) => account.nature === 'expense');
    const shown = isCost ? 'brackets' : 'plain';
    const subHeadings = [...new Set(inHeading.map((account) => account.subHeading))];
    return {
      kind: 'group',
      id: idOf(heading || 'other', index),
      label: heading || 'Without heading',
      shown,
      orientation: isCost ? 'debit' : 'credit',
      children: subHeadings.map((subHeading, at) => ({
        kind: 'accounts',
        id: `${idOf(heading || 'other', index)}_${at}`,
        label: subHeading || heading || 'Without sub-heading',
        shown,
        orientation: isCost ? 'debit' : 'credit',
        accounts: {
          include: inHeading
            .filter((account) => account.subHeading === subHeading)
            .map((account) => ({ by: 'account', number: account.number })),
        },
      })),
    };
  });
  const isIncomeGroup = (row: Row) => row.kind === 'group' && row.orientation === 'credit';
  const shareBase = groups.find(isIncomeGroup)?.id;
  return {
    schema: 1,
    kind: 'row_layout',
    id: 'income_by_heading',
    name: 'Income by heading',
    purpose: 'income',
    ...(shareBase ? { shareBase } : {}),
    result: 'profit',
    rows: [
      ...groups,
      {
        kind: 'formula',
        id: 'profit',
        label: 'Profit for the period',
        style: 'result',
        direction: 'up',
        terms: groups.map((row) => ({ row: row.id, sign: isIncomeGroup(row) ? 1 : -1 })),
      },
    ],
  };
}
