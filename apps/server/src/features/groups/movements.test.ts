import { STANDARD_COLUMNS } from '@margin-lens/core';
import { figuresOf } from '../../../test/case04-checks';
import { ACQUISITIONS, booked, casePackage, OWNERSHIP, paid, SMALL_CHART, tableOf } from '../../../test/case04-package';
import { servedPackage } from '../../../test/served-app';
import type { PackageFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

const MOVEMENTS = STANDARD_COLUMNS.find(({ id }) => id === 'movements');

/** Four fifths of an entity of 900.00, that invests, earns and pays out in the next year. */
const LINES = [
  ...booked('VEL', '2025-06-01', '1700', 800),
  ...booked('OSK', '2025-06-01', '3000', -900),
  ...booked('OSK', '2025-06-02', '1500', 40, { flow: 'addition' }),
  ...booked('OSK', '2026-02-10', '4000', -100),
  ...booked('OSK', '2026-03-10', '1500', 60, { flow: 'addition' }),
  ...booked('OSK', '2026-04-10', '1500', -5, { flow: 'depreciation', against: '6000' }),
  ...booked('OSK', '2026-05-10', '3300', 20),
  ...booked('VEL', '2026-05-20', '4500', -16),
];
const files = (more: PackageFiles = {}, currencies: Record<string, string> = {}) =>
  casePackage(
    '.',
    ['VEL', 'OSK'],
    LINES,
    {
      'accounts.csv': SMALL_CHART,
      'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-07-01,80,full'),
      'acquisitions.csv': tableOf(ACQUISITIONS, paid({ date: '2025-07-01', amount: '800' })),
      ...more,
    },
    { currencies },
  );
const ALL = [
  '1000',
  '1500',
  '1600',
  '1700',
  '3000',
  '3200',
  '3300',
  '3400',
  '3900',
  '3999',
  '4000',
  '4500',
  '6000',
  '8000',
];

async function movementsAt(asAt: string) {
  const found = await figuresOf(ask, ALL, MOVEMENTS, asAt);
  const of = (account: string) =>
    Object.fromEntries(
      [...found]
        .map(([id, amounts]) => [id.replace('movements.', ''), amounts.get(account)!])
        .filter(([, sum]) => sum !== 0),
    );
  return { found, of };
}

describe('a schedule of movements', () => {
  // worked by hand: others have a fifth of 95.00 and of 20.00; the owners have the rest of the result
  it('tells balances apart by movement code, the result and dividends by whose they are', async () => {
    await serve(files());
    const { of } = await movementsAt('2026-06');
    expect(of('1500')).toEqual({ opening: 4_000, code_addition: 6_000, code_depreciation: -500, total: 9_500 });
    expect(of('3900')).toEqual({ opening: -18_000, code_result: -1_900, code_dividend: 400, total: -19_500 });
    expect(of('8000')).toEqual({ code_result: 1_900, total: 1_900 });
    expect(of('4000')).toEqual({ code_result: -10_000, total: -10_000 });
    expect(of('1600')).toEqual({ opening: 8_000, total: 8_000 });
    // cash has no codes
    expect(of('1000')).toEqual({ opening: 6_000, other: 3_600, total: 9_600 });
  });

  it('has what came into the group in the year in which it came', async () => {
    await serve(files());
    const { of } = await movementsAt('2025-12');
    expect(of('1500')).toEqual({ entered: 4_000, total: 4_000 });
    expect(of('3900')).toEqual({ entered: -18_000, total: -18_000 });
  });

  // books that begin within a year, as of a workspace that starts from one trial balance
  it('opens with what opens the books within the year', async () => {
    const opening = [
      ...booked('VEL', '2025-04-01', '1500', 50, { against: '3000', kind: 'opening' }),
      ...booked('VEL', '2025-05-10', '1500', 7, { flow: 'addition' }),
    ];
    await serve(casePackage('.', ['VEL'], opening, { 'accounts.csv': SMALL_CHART, 'ownership.csv': `${OWNERSHIP}\n` }));
    const { of } = await movementsAt('2025-06');
    expect(of('1500')).toEqual({ opening: 5_000, code_addition: 700, total: 5_700 });
    expect(of('3000')).toEqual({ opening: -5_000, total: -5_000 });
  });

  // worked by hand, as above
  it('adds up where some codes alone are named, and keeps a column that another reads', async () => {
    await serve(files());
    const columns = [
      {
        ...{ kind: 'series', id: 'm', by: 'flow', span: 'year_to_date', measure: 'movement', total: true },
        members: ['depreciation', 'disposal'],
      },
      { kind: 'formula', id: 'sold', formula: '0 - {m.code_disposal}', result: 'as_row' },
    ];
    const layout = { schema: 1, kind: 'column_layout', id: 'c', name: 'C', columns };
    const found = await figuresOf(ask, ['1500', '3900'], layout, '2026-06');
    const of = (account: string) => [...found].map(([id, amounts]) => [id, amounts.get(account)]);
    expect(of('1500')).toEqual([
      ...[
        ['m.opening', 4_000],
        ['m.code_result', 0],
        ['m.code_dividend', 0],
        ['m.code_depreciation', -500],
      ],
      ...[
        ['m.code_disposal', 0],
        ['m.other', 6_000],
        ['m.total', 9_500],
        ['sold', 0],
      ],
    ]);
    expect(found.get('m.total')!.get('3900')).toBe(-19_500);
  });

  it('leads from opening to closing in every account and month, exchange differences among it', async () => {
    const rates = ['06', '07', '08', '09', '10', '11', '12'].map((month, at) => [`FY2025-P${month}`, at] as const);
    const later = ['01', '02', '03', '04', '05', '06'].map((month, at) => [`FY2026-P${month}`, at + 7] as const);
    const lines = [...rates, ...later].flatMap(([period, at]) => [
      `,EUR,PLN,${period},,closing,${(4.1 + 0.037 * at).toFixed(3)}`,
      `,EUR,PLN,${period},,average,${(4.08 + 0.041 * at).toFixed(3)}`,
    ]);
    await serve(files({ 'rates.csv': tableOf('set,base,quote,period,date,type,rate', ...lines) }, { OSK: 'PLN' }));
    for (const month of ['2025-12', '2026-01', '2026-04', '2026-06']) {
      const { found, of } = await movementsAt(month);
      const closing = await figuresOf(ask, ALL, CLOSING, month);
      for (const account of ALL)
        expect([month, account, found.get('movements.total')!.get(account)]).toEqual([
          ...[month, account, closing.get('closing')!.get(account)],
        ]);
      expect(of('1500')['exchange_difference']).not.toBe(undefined);
    }
  });
});

const CLOSING = {
  ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
  columns: [{ kind: 'figure', id: 'closing', span: 'year_to_date', measure: 'closing' }],
};
