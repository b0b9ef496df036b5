import type { PackDocument, TextBody } from '@margin-lens/core';

const paragraph = (text: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] });
const item = (text: string) => ({ type: 'listItem' as const, content: [paragraph(text)] });

const OUTLOOK: TextBody = {
  type: 'doc',
  content: [
    paragraph(
      'Orders for autumn stand above those of last year in tiles and in studio pieces, below in contract work.',
    ),
    { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'What to decide' }] },
    {
      type: 'bulletList',
      content: [
        item('Energy: whether to fix half of the gas for winter at the price of August.'),
        item('Carbon allowances: under which row they are to be reported from now on.'),
        item('Hotel tableware: whether the second press is ordered this year.'),
      ],
    },
  ],
};

const tile = (cell: string) => ({ of: 'income_statement', cell, columns: 'against_plan' });

/** The pack of the board, for the group, and a short one that any entity can be put into. */
export const PACKS: readonly PackDocument[] = [
  {
    ...{ schema: 1, kind: 'pack', id: 'board_pack', name: 'Board pack', orientation: 'landscape', folder: 'Board' },
    note: 'Monthly, for the board of Larkmoor Group',
    readers: { scope: { may: true, usual: 'LARKMOOR' } },
    footer: 'Confidential',
    unit: 1000,
    pages: [
      { kind: 'cover', id: 'cover', lines: ['For the board, invented figures'] },
      { kind: 'contents', id: 'contents', title: 'Contents' },
      {
        ...{ kind: 'tiles', id: 'key_figures', title: 'At a glance' },
        tiles: [
          tile('net_sales~ytd'),
          tile('gross_margin~ytd'),
          tile('operating_profit~ytd'),
          tile('profit~ytd'),
          tile('net_sales~ytd_percent'),
          tile('operating_profit~ytd_change'),
        ],
      },
      { kind: 'chart', id: 'profit_by_month', of: 'income_statement', row: 'operating_profit', follows: true },
      { kind: 'section', id: 'results', title: 'Results', says: 'Month and year to date against plan' },
      { kind: 'figures', id: 'income', of: 'income_statement', columns: 'against_plan', remarks: true },
      { kind: 'exceptions', id: 'what_moved', of: 'income_statement' },
      { kind: 'figures', id: 'sales', of: 'sales_by_product_and_channel' },
      { kind: 'chart', id: 'sales_drawn', title: 'Who buys', of: 'top_customers', follows: true },
      { kind: 'section', id: 'position', title: 'Position and cash' },
      { kind: 'figures', id: 'balance_sheet', of: 'balance_sheet' },
      { kind: 'figures', id: 'cash', of: 'cash_flow', orientation: 'portrait' },
      { kind: 'text', id: 'outlook', title: 'Outlook', body: OUTLOOK },
    ],
  },
  {
    ...{
      schema: 1,
      kind: 'pack',
      id: 'entity_pack',
      name: 'Entity pack',
      orientation: 'landscape',
      unit: 1000,
      folder: 'Month-end',
    },
    note: 'The same pages for any entity',
    pages: [
      { kind: 'cover', id: 'cover' },
      { kind: 'figures', id: 'income', of: 'income_statement', columns: 'against_plan' },
      { kind: 'exceptions', id: 'what_moved', of: 'income_statement' },
      { kind: 'underlying', id: 'underlying', of: 'income_statement' },
      { kind: 'figures', id: 'balance_sheet', of: 'balance_sheet' },
      { kind: 'balances', id: 'balances', only: 'open' },
      { kind: 'figures', id: 'departments', of: 'costs_by_department_and_month' },
    ],
  },
];
