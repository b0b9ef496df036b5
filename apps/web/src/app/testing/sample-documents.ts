import { accountOf, type ColumnLayout, type Document, type RowLayout, type StatementDocument } from '@margin-lens/core';
import type { DocumentView, MakingsView } from '@margin-lens/contract';

export const SAMPLE_ROWS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'rows',
  name: 'Rows',
  purpose: 'income',
  shareBase: 'sales',
  result: 'profit',
  rows: [
    {
      kind: 'accounts',
      id: 'sales',
      label: 'Net sales',
      accounts: { include: [{ by: 'range', from: '4000', to: '4999' }] },
    },
    {
      kind: 'accounts',
      id: 'energy',
      label: 'Energy',
      shown: 'brackets',
      accounts: { include: [{ by: 'account', number: '6400' }] },
    },
    { kind: 'formula', id: 'profit', label: 'Profit', formula: '{sales} - {energy}' },
  ],
};
export const SAMPLE_COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'month',
  name: 'Month',
  columns: [
    { kind: 'figure', id: 'now', span: 'period', measure: 'by_nature' },
    { kind: 'figure', id: 'ly', span: 'period', measure: 'by_nature', yearsBack: 1 },
    { kind: 'difference', id: 'change', of: 'now', base: 'ly' },
  ],
};
export const SAMPLE_STATEMENT: StatementDocument = {
  schema: 1,
  kind: 'statement',
  id: 'income_statement',
  name: 'Income statement',
  rows: 'rows',
  columns: 'month',
  unit: 1000,
};

const account = (number: string, name: string, nature: 'income' | 'expense', heading: string) =>
  accountOf(number, nature, { name, heading, better: 'up' });
export const SAMPLE_MAKINGS: MakingsView = {
  accounts: [
    account('4000', 'Tableware', 'income', 'Net sales'),
    account('6400', 'Kiln gas', 'expense', 'Cost of sales'),
    account('6510', 'Carbon allowances', 'expense', 'Cost of sales'),
  ],
  dimensions: [{ name: 'department', values: [{ value: 'design', name: 'Design', parent: '' }] }],
  partners: [],
  versions: [{ code: 'PLAN', name: 'Plan', kind: 'plan' }],
  cashFlowLines: ['depreciation'],
  rowLayouts: [{ id: 'sheet', name: 'Balance sheet', rows: [{ id: 'assets', label: 'Total assets' }] }],
};

/** A document as the editor gets it; `usedBy` names other statements. */
export const documentView = (document: Document, usedBy: string[] = []): DocumentView => ({
  document,
  base: 7,
  changedBy: 'Controller',
  changedAt: '2026-08-31T16:00:00.000Z',
  draft: null,
  usedBy: ['income_statement', ...usedBy].map((id) => ({ kind: 'statement', id, name: id })),
});
