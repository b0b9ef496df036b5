import fc from 'fast-check';
import { orderRows } from './order-rows';
import { readRowOrder, writeRowOrder } from './row-order';
import type { SheetRow } from './statement-sheet';

type Kind = 'accounts' | 'statistic' | 'group' | 'formula' | 'line';

const row = (id: string, depth: number, kind: Kind, amount: number | null): SheetRow =>
  ({ id, depth, from: { kind, cells: kind === 'line' ? [] : [{ amount }] } }) as unknown as SheetRow;
const idsOf = (rows: readonly SheetRow[]) => rows.map(({ id }) => id).join(' ');

const STATEMENT = [
  row('sales', 0, 'group', 900),
  row('plates', 1, 'accounts', 300),
  row('tiles', 1, 'accounts', 600),
  row('costs', 0, 'group', -500),
  row('clay', 1, 'accounts', -100),
  row('clay.5000', 2, 'accounts', -20),
  row('clay.5010', 2, 'accounts', -80),
  row('gas', 1, 'accounts', null),
  row('wages', 1, 'accounts', -400),
  row('gross', 0, 'formula', 400),
  row('selling', 0, 'accounts', -50),
  row('research', 0, 'accounts', -5),
  row('rule', 0, 'line', null),
  row('tax', 0, 'accounts', -40),
  row('heads', 0, 'statistic', 100),
];

describe('rows in order of a column', () => {
  it('has lines change places within their total; totals, formulas and headings stay', () => {
    expect(idsOf(orderRows(STATEMENT, 0, 'largest'))).toBe(
      'sales tiles plates costs clay clay.5000 clay.5010 wages gas gross research selling rule tax heads',
    );
    expect(idsOf(orderRows(STATEMENT, 0, 'smallest'))).toBe(
      'sales plates tiles costs wages clay clay.5010 clay.5000 gas gross selling research rule tax heads',
    );
  });

  it('keeps each row and what it stands below, and stands in order wherever lines are neighbours (property)', () => {
    const some = fc.array(
      fc.record({
        deeper: fc.integer({ min: -2, max: 1 }),
        kind: fc.constantFrom<Kind>('accounts', 'accounts', 'accounts', 'statistic', 'group', 'formula', 'line'),
        amount: fc.option(fc.integer({ min: -9, max: 9 })),
      }),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(some, fc.constantFrom('largest', 'smallest'), (parts, first) => {
        let depth = 0;
        const rows = parts.map(({ deeper, kind, amount }, at) => {
          depth = at === 0 ? 0 : Math.max(0, Math.min(depth + 1, depth + deeper));
          return row(`r${at}`, depth, kind, amount);
        });
        const ordered = orderRows(rows, 0, first);
        expect(idsOf(ordered).split(' ').sort()).toEqual(idsOf(rows).split(' ').sort());
        expect(parentsOf(ordered)).toEqual(parentsOf(rows));
        ordered.forEach((each, at) => {
          const next = ordered.slice(at + 1).find(({ depth: other }) => other <= each.depth);
          const areLines = [each, next].every((one) => one && ['accounts', 'statistic'].includes(one.from!.kind));
          if (!next || !areLines || next.depth !== each.depth || next.from!.kind !== each.from!.kind) return;
          const [one, other] = [each, next].map(({ from }) => from!.cells[0]!.amount);
          if (one === null) expect(other).toBeNull();
          else if (other !== null)
            expect(first === 'largest' ? one! - other! : other! - one!).toBeGreaterThanOrEqual(0);
        });
      }),
    );
  });

  it('stands in an address, and what is no order there is none', () => {
    const order = { column: 'plan:2027', first: 'smallest' } as const;
    expect(readRowOrder(writeRowOrder(order))).toEqual(order);
    for (const text of [undefined, '', 'largest', ':largest', 'ytd', 'ytd:up'])
      expect(readRowOrder(text)).toBeUndefined();
  });
});

/** The row that each stands below. */
function parentsOf(rows: readonly SheetRow[]): Record<string, string | undefined> {
  return Object.fromEntries(
    rows.map(({ id, depth }, at) => [id, rows.slice(0, at).findLast((before) => before.depth < depth)?.id]),
  );
}
