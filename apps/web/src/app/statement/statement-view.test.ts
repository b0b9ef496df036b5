import { currencyUnit } from '../shared/currency-unit';
import { eur, SAMPLE_VIEW } from '../testing/sample-view';
import { missingOf, shownTable } from './statement-view';

const table = shownTable(SAMPLE_VIEW, 1, currencyUnit('EUR'));

describe('shownTable', () => {
  it('shows figures in the unit, undefined ones empty with their reason', () => {
    expect(table.rows[2]!.cells.map(({ text }) => text)).toEqual(['(1,180)', '(1,419)', '(239)', '(20.3)']);
    expect(table.rows[3]!.cells[3]).toMatchObject({ text: '', note: 'Not meaningful for this row', isUndefined: true });
    expect(table.rows[3]!.cells[2]!.text).toBe('(2.0)');
  });

  it('draws bars of a block on one scale, to the left for adverse', () => {
    // the longest change is that of the account without a row, 28,700; net sales grew by 508, energy's 239 hurts
    expect(table.rows[table.misplacedFrom + 1]!.cells[2]!.bar).toBe(-1);
    expect(table.rows[1]!.cells[2]!.bar).toBeCloseTo(508 / 28_700, 10);
    expect(table.rows[2]!.cells[2]!.bar).toBeCloseTo(-239 / 28_700, 10);
    expect(table.columns[2]!.barScale).toBe('28,700');
    expect(table.rows[3]!.cells[2]!.bar).toBeUndefined();
  });

  it('puts accounts without a row behind the statement, in its columns', () => {
    const [head, ...misplaced] = table.rows.slice(table.misplacedFrom);
    expect(misplaced.map(({ label, cells }) => [label, ...cells.map(({ text }) => text)])).toEqual([
      ['6510 Carbon allowances', '–', '(28,700)', '(28,700)', 'new'],
    ]);
    expect(head!.label).toBe('One account has no row and is not in the profit above');
  });
});

describe('missingOf', () => {
  const viewWith = (origins: NonNullable<(typeof SAMPLE_VIEW)['rows'][number]['cells'][number]['origin']>[]) => ({
    ...SAMPLE_VIEW,
    rows: SAMPLE_VIEW.rows.map((row, at) =>
      at > 0 ? row : { ...row, cells: origins.map((origin) => ({ ...eur(0), amount: null, origin })) },
    ),
  });
  const rate = (period: string, type: 'average' | 'closing' = 'average') =>
    ({ kind: 'rate', type, from: 'PLN', to: 'USD', period }) as const;

  it('says each kind of rate and pair of currencies once, with its first month', () => {
    expect(missingOf(SAMPLE_VIEW)).toBeUndefined();
    const origins = [rate('April 2026'), rate('April 2026'), rate('May 2026'), rate('May 2026', 'closing')];
    expect(missingOf(viewWith(origins))).toBe(
      'No average rate PLN to USD for April 2026 and 1 more. No closing rate PLN to USD for May 2026.',
    );
  });
});
