import type { Page, PageCell, PageRow } from './page';
import { figureChanges, rowChanges } from './page-changes';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const cell = (row: string, amount: number | null): PageCell => ({
  ...{ figure: { amount, unit: EUR }, unit: EUR, text: String(amount ?? ''), decimals: 0, note: '' },
  address: `${row}~now`,
});
const page = (amounts: Record<string, number | null>): Page => ({
  ...{ title: '', subtitle: '', asAt: '', header: '', footer: '' },
  blocks: [
    {
      kind: 'table',
      table: {
        ...{ labelHead: '', look: {} },
        columns: [
          {
            ...{ id: 'now', block: 'b', blockLabel: 'July', label: 'Actual', note: '', dates: '', flags: [] },
            ...{ notation: 'actual', isDated: true },
          },
        ],
        rows: Object.entries(amounts).map(([id, amount]): PageRow => ({
          ...{ id, label: id.toUpperCase(), note: '', style: 'detail', kind: 'figures', depth: 0, startsPage: false },
          cells: [cell(id, amount)],
        })),
      },
    },
  ],
});

describe('what changed on a page', () => {
  it('is rows that came and went, where they hold something', () => {
    const { added, gone } = rowChanges(page({ a: 1, b: 2, c: 0 }), page({ a: 1, c: 3, d: 4, e: 0 }));
    expect(added.map(({ label }) => label)).toEqual(['C', 'D']);
    expect(gone.map(({ label }) => label)).toEqual(['B']);
  });

  it('is figures that moved, the largest first, also from and to nothing', () => {
    expect(figureChanges(page({ a: 100, b: 5, c: null }), page({ a: 90, b: 5, c: 40, d: 2 }))).toEqual([
      { label: 'C', column: 'July · Actual', was: '', now: '40', size: 40 },
      { label: 'A', column: 'July · Actual', was: '100', now: '90', size: 10 },
      { label: 'D', column: 'July · Actual', was: '', now: '2', size: 2 },
    ]);
    expect(figureChanges(page({ a: 1 }), page({ a: 1 }))).toEqual([]);
  });
});
