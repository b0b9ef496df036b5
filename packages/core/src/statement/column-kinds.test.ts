import { of, ROWS, source, evaluate, texts, MONTH, BEFORE } from '../../test/own-rows';
import type { Column } from '../layout/column-layout';
import { evaluateStatement, openStatement } from './statement-table';
import { traceLevel } from './trace';
import { nodeOfAddress } from './node-address';

describe('the version of the view', () => {
  // February: 1,600 was posted a year ago; the plan has 1,800, and nothing of the year before
  it('leaves an earlier year as it was posted, unless a column says another', () => {
    const month = { kind: 'figure', span: 'period', measure: 'movement' } as const;
    const columns: Column[] = [
      { ...month, id: 'now' },
      { ...month, id: 'before', yearsBack: 1 },
      { ...month, id: 'said', yearsBack: 1, version: 'plan' },
    ];
    expect(texts(evaluate([of('sales', 'Sales')], columns, { shownVersion: 'plan' }), 'sales')).toEqual([
      '1,800',
      '1,600',
      '',
    ]);
  });
});

describe('what remains of a column after another', () => {
  const YEAR: Column = { kind: 'figure', id: 'year', span: 'full_year', measure: 'by_nature', version: 'plan' };
  const TO_DATE: Column = {
    kind: 'figure',
    id: 'to_date',
    span: 'year_to_date',
    measure: 'by_nature',
    version: 'plan',
  };
  const REST: Column = { kind: 'rest', id: 'rest', of: 'year', base: 'to_date' };

  it('is the difference for amounts, and computed anew for ratios', () => {
    // plan: sales 1,800 in P02 and 1,900 in P03, no costs; at P02 there remain 1,900 of 3,700, at a margin of 100 %
    const table = evaluate(ROWS, [YEAR, TO_DATE, REST]);
    expect(texts(table, 'sales')).toEqual(['3,700', '1,800', '1,900']);
    expect(texts(table, 'margin')).toEqual(['100.0', '100.0', '100.0']);
    expect(table.columns[2]).toMatchObject({
      label: 'Remaining',
      note: 'Plan',
      dates: '1 Jun 2026 – 31 Mar 2027 · 304 days',
    });
  });

  it('is blank for balances, and has a trace that adds up', () => {
    const around = source(ROWS, [YEAR, TO_DATE, REST]);
    expect(texts(evaluateStatement(around), 'cash')[2]).toBe('');
    const evaluation = openStatement(around);
    const level = traceLevel(evaluation, nodeOfAddress(evaluation, 'cell~sales~rest')!);
    expect(level).toMatchObject({ operation: 'sum', sum: 190_000, figure: { amount: 190_000 } });
  });
});

describe('a column as for a whole year', () => {
  const figure = (id: string, span: 'period' | 'year_to_date'): Column => ({
    kind: 'figure',
    id,
    span,
    measure: 'by_nature',
  });
  const table = () =>
    evaluate(
      [...ROWS, { kind: 'ratio', id: 'turned', label: 'Turned', numerator: 'sales', denominator: 'cash' }],
      [
        figure('month', 'period'),
        { kind: 'annualised', id: 'of_month', of: 'month' },
        figure('ytd', 'year_to_date'),
        { kind: 'annualised', id: 'of_ytd', of: 'ytd' },
      ],
    );

  // May: sales of 2,000 × 12; April and May: 3,500 × 12 ÷ 2; assets stand at 900 + 1,200 + 1,600 of the year before
  it('multiplies flows, leaves what stands at a day, and computes quotients of both anew', () => {
    expect(texts(table(), 'sales')).toEqual(['2,000', '24,000', '3,500', '21,000']);
    expect(texts(table(), 'cash').slice(0, 2)).toEqual(['3,700', '3,700']);
    expect(texts(table(), 'margin')[0]).toBe(texts(table(), 'margin')[1]);
    const turned = table().rows.find(({ id }) => id === 'turned')!.cells[1]!.amount;
    expect(turned).toBeCloseTo(24_000 / 3_700, 12);
  });

  it('stands under the span of this year, whichever column is first', () => {
    const before: Column = { kind: 'figure', id: 'before', span: 'period', measure: 'by_nature', yearsBack: 1 };
    const { columns } = evaluate(ROWS, [
      before,
      figure('month', 'period'),
      { kind: 'annualised', id: 'of_before', block: 'year', of: 'before' },
      { kind: 'annualised', id: 'of_month', block: 'year', of: 'month' },
    ]);
    expect(columns[2]!.blockLabel).toBe('May 2026');
  });

  it('says by how much', () => {
    expect(table().columns[3]).toMatchObject({ label: 'Annualised', note: 'Actual, × 12 ÷ 2' });
  });
});

describe('a column formula', () => {
  const columnsOf = (formula: string): Column[] => [
    { kind: 'figure', id: 'a', span: 'period', measure: 'by_nature' },
    { kind: 'figure', id: 'b', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'formula', id: 'made', formula },
  ];

  it('knows when it is a percentage', () => {
    // May's sales are 2,000 of 3,500
    expect(texts(evaluate(ROWS, columnsOf('{a} / {b}')), 'sales')[2]).toBe('57.1');
    expect(texts(evaluate(ROWS, columnsOf('({b} - {a}) / {b}')), 'sales')[2]).toBe('42.9');
    expect(texts(evaluate(ROWS, columnsOf('{b} / 5')), 'sales')[2]).toBe('700');
  });
});

describe('what heads say', () => {
  const months: Column = {
    kind: 'series',
    id: 'months',
    by: 'month',
    measure: 'by_nature',
    version: 'plan',
    total: true,
  };
  const figure = { kind: 'figure', measure: 'by_nature' } as const;

  it('of a total: as much as its months hold, in their notation', () => {
    const [plan, actual] = [months, { ...months, version: 'actual' }].map((series) =>
      evaluate(ROWS, [series]).columns.at(-1)!,
    );
    expect(plan).toMatchObject({ label: 'Total', notation: 'plan', held: { held: 2, periods: 12 } });
    expect(actual).toMatchObject({ notation: 'actual', held: { held: 2, periods: 12 } });
    const table = evaluate(ROWS, [{ ...months, actualTo: 'as_at' }]);
    // the plan begins in May, of which the month is posted; June is planned
    expect(table.columns.slice(0, 3).map(({ notation }) => notation)).toEqual(['empty', 'actual', 'plan']);
    expect(table.columns.at(-1)).toMatchObject({ notation: 'plan', held: { held: 2, periods: 12 } });
  });

  it('of years to date: which months of each, and earlier ones as earlier years', () => {
    const years: Column = {
      kind: 'series',
      id: 'years',
      by: 'year',
      count: 2,
      span: 'year_to_date',
      measure: 'by_nature',
      total: false,
    };
    const { columns } = evaluate(ROWS, [years]);
    expect(columns.map(({ blockLabel, label, notation }) => [blockLabel, label, notation])).toEqual([
      ['Apr – May of each year', 'FY26', 'prior_year'],
      ['Apr – May of each year', 'FY27', 'actual'],
    ]);
    const [whole] = evaluate(ROWS, [{ ...years, span: 'full_year' }]).columns;
    expect(whole!.blockLabel).toBe('Fiscal years');
  });

  it('of what one version has beyond another: left of it, and not what remains of months', () => {
    const { columns } = evaluate(ROWS, [
      { ...figure, id: 'year', span: 'full_year', version: 'plan' },
      { ...figure, id: 'ytd', span: 'year_to_date' },
      { kind: 'rest', id: 'left', of: 'year', base: 'ytd' },
    ]);
    expect(columns[2]).toMatchObject({ label: 'Left of Plan', note: 'less Actual' });
  });
});

describe('columns', () => {
  it('compare months, in amounts, percent, points, as index and as shares', () => {
    const table = evaluate(ROWS, [
      BEFORE,
      MONTH,
      { kind: 'difference', id: 'change', of: 'month', base: 'before' },
      { kind: 'percent_change', id: 'percent', of: 'month', base: 'before' },
      { kind: 'index', id: 'index', of: 'month', base: 'before' },
      { kind: 'share', id: 'share', of: 'month' },
      { kind: 'share', id: 'share_before', of: 'before' },
      { kind: 'difference', id: 'points', of: 'share', base: 'share_before' },
    ]);
    // costs: 600 then 800 of sales 1,500 and 2,000: both 40 %, so 0 points; index 800 / 600
    expect(texts(table, 'costs')).toEqual(['600', '800', '200', '33.3', '133.33', '40.0', '40.0', '–']);
    // a ratio: change in points, no percent of it, no index, no share
    expect(texts(table, 'margin')).toEqual(['60.0', '60.0', '–', '', '', '', '', '']);
    expect(table.columns.map(({ label }) => label)).toEqual([
      'Apr 2026',
      'Actual',
      'Change',
      'Change',
      'Index',
      '% of',
      '% of',
      'Change',
    ]);
    expect(table.columns[2]!.flags).toEqual(['31 days against 30.']);
  });

  it('say which pairs mean nothing', () => {
    const flags = (of_: Column, base: Column) =>
      evaluate(ROWS, [of_, base, { kind: 'difference', id: 'd', of: of_.id, base: base.id }]).columns[2]!.flags;
    expect(flags({ ...MONTH, measure: 'movement' }, { ...BEFORE, measure: 'closing' })).toContain(
      'A movement against a balance means nothing.',
    );
    expect(flags(MONTH, { kind: 'share', id: 's', of: 'month' })).toEqual([
      'An amount against a percentage means nothing.',
    ]);
    expect(flags(MONTH, { kind: 'blank', id: 'b' })).toEqual(['One side is an empty column.']);
    expect(flags(MONTH, { ...MONTH, id: 'year', span: 'year_to_date' })).toEqual([
      '1 period against 2.',
      '1 period with data against 2.',
      '31 days against 61.',
    ]);
  });

  it('compute on the figures of each row, and never a total of balances', () => {
    const table = evaluate(ROWS, [
      { kind: 'series', id: 'months', by: 'month', measure: 'by_nature', total: true },
      { kind: 'formula', id: 'half', formula: '{months.total} / 2' },
    ]);
    const at = (id: string) => table.columns.findIndex((column) => column.id === id);
    const text = (row: string, id: string) => texts(table, row)[at(id)];
    expect(text('sales', 'months.total')).toBe('3,500');
    expect(text('sales', 'half')).toBe('1,750');
    expect(text('margin', 'months.total')).toBe('60.0'); // 2,100 / 3,500
    expect(text('cash', 'months.p02')).toBe('3,700'); // 1,600 brought forward, 900, 1,200
    expect(text('cash', 'months.total')).toBe('');
  });

  it('show versions to their own end, and cut by the values of a dimension with a total', () => {
    const table = evaluate(ROWS, [
      { kind: 'figure', id: 'year', span: 'full_year', measure: 'movement', version: 'plan' },
      {
        kind: 'series',
        id: 'by',
        by: 'dimension',
        dimension: 'team',
        span: 'year_to_date',
        measure: 'movement',
        total: true,
      },
    ]);
    expect(table.columns.map(({ label, notation }) => `${label} ${notation}`)).toEqual([
      'Plan plan',
      'Red actual',
      'Blue actual',
      'No team actual',
      'Total actual',
    ]);
    expect(texts(table, 'sales')).toEqual(['3,700', '3,000', '500', '–', '3,500']);
    expect(texts(table, 'costs')).toEqual(['–', '600', '–', '800', '1,400']);
  });

  it('take written headings with their words filled in', () => {
    const [head] = evaluate(ROWS, [{ ...MONTH, heading: 'Books to {to}, {days} days' }]).columns;
    expect(head!.label).toBe('Books to 31 May 2026, 31 days');
  });

  it('say by name which values they are narrowed to', () => {
    const where = (id: string, has: 'in' | 'none', values: string[]): Column => ({
      ...MONTH,
      id,
      where: [{ dimension: 'team', has, values }],
    });
    const { columns } = evaluate(ROWS, [where('both', 'in', ['red', 'blue', 'green']), where('none', 'none', [])]);
    expect(columns.map(({ note }) => note)).toEqual(['Red, Blue, green', 'no team']);
  });

  it('name columns that are not there or stand in a circle, and show the others', () => {
    const circle: Column[] = [
      { kind: 'difference', id: 'a', of: 'b', base: 'month' },
      { kind: 'difference', id: 'b', of: 'a', base: 'month' },
    ];
    const table = evaluate(ROWS, [MONTH, ...circle, { kind: 'share', id: 's', of: 'gone' }]);
    expect(table.columns.map(({ id }) => id)).toEqual(['month']);
    expect(table.issues.map(({ code }) => code)).toEqual(['CORE_LAYOUT_UNKNOWN_ID', 'CORE_LAYOUT_CYCLE']);
    const invalid = evaluate(ROWS, [MONTH, { kind: 'formula', id: 'f', formula: '{month} +' }]);
    expect(invalid.issues.map(({ code }) => code)).toEqual(['CORE_FORMULA_INVALID']);
    const summed = evaluate(ROWS, [{ kind: 'series', id: 'v', by: 'version', measure: 'movement', total: true }]);
    expect(summed.issues.map(({ code }) => code)).toEqual(['CORE_COLUMN_NO_TOTAL']);
  });
});
