import { groupRows } from './edit-rows';
import type { Row } from './row-layout';

const costs = (id: string, more: Partial<Row> = {}): Row =>
  ({ kind: 'accounts', id, label: id, accounts: { include: [] }, ...more }) as Row;
const TOTAL = { kind: 'group' as const, id: 'people', label: 'People', children: [] };

describe('groupRows', () => {
  const rows: Row[] = [costs('goods'), costs('wages', { shown: 'brackets' }), costs('pensions', { shown: 'brackets' })];

  it('puts rows into a total in their place, which shows its sum as they show their figures', () => {
    expect(groupRows(rows, new Set(['wages', 'pensions']), TOTAL)).toEqual([
      rows[0],
      { ...TOTAL, shown: 'brackets', children: [rows[1], rows[2]] },
    ]);
    expect(groupRows(rows, new Set(['goods']), TOTAL)[0]).toEqual({ ...TOTAL, children: [rows[0]] });
  });

  it('leaves all as it is where nothing is chosen', () => {
    expect(groupRows(rows, new Set(), TOTAL)).toEqual(rows);
  });
});
