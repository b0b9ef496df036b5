import {
  calendar,
  accounts,
  POSTINGS,
  entriesOf,
  of,
  ROWS,
  layoutOf,
  source,
  evaluate,
  MONTH,
} from '../../test/own-rows';
import { formatFigure } from '../figure/format-figure';
import type { Column } from '../layout/column-layout';
import type { Row } from '../layout/row-layout';
import { evaluateStatement, openStatement, type StatementTable } from './statement-table';
import { traceLevel } from './trace';
import { nodeOfAddress } from './node-address';
import { account } from '../../test/properties/random-books';
import { buildLedgerSlice } from '../books/ledger-slice';

describe('rows', () => {
  it('hold accounts only where dimensions have or lack values', () => {
    const where = (id: string, has: 'in' | 'not_in' | 'any' | 'none', values: string[] = []) =>
      of(id, 'Sales', { where: [{ dimension: 'team', has, values }] });
    const ytd: Column = { ...MONTH, id: 'ytd', span: 'year_to_date' };
    const table = evaluate(
      [where('red', 'in', ['red']), where('others', 'not_in', ['red']), where('any', 'any'), where('none', 'none')],
      [ytd],
    );
    expect(table.rows.map(({ cells }) => formatFigure(cells[0]!, 1))).toEqual(['3,000', '500', '3,500', '–']);
  });

  it('read openings and averages by their own word in a column by nature', () => {
    const reading = (reads: string) => of(reads, 'Assets', { reads });
    const table = evaluate(['opening', 'closing', 'flow', 'average', 'average_of_ends'].map(reading), [
      { ...MONTH, span: 'year_to_date' },
    ]);
    // 1,600 brought forward; 2,500 and 3,700 at the month-ends
    expect(table.rows.map(({ cells }) => formatFigure(cells[0]!, 1))).toEqual([
      '1,600',
      '3,700',
      '2,100',
      '3,100',
      '2,650',
    ]);
  });

  it('are laid open by account and by dimension value, in figures that add up to the row', () => {
    const by = (way: string) =>
      evaluate(ROWS, [{ ...MONTH, span: 'year_to_date' }], { expanded: [{ row: 'sales', by: way }] });
    const opened = (table: StatementTable) =>
      table.rows
        .filter((row) => row.opened)
        .map(({ label, cells, isEmpty }) => [label, formatFigure(cells[0]!, 1), isEmpty]);
    expect(opened(by('accounts'))).toEqual([
      ['4000 Account 4000', '3,000', false],
      ['4100 Account 4100', '500', false],
    ]);
    expect(opened(by('team'))).toEqual([
      ['Red', '3,000', false],
      ['Blue', '500', false],
      ['Without team', '–', true],
    ]);
    expect(by('team').coverage).toEqual(by('accounts').coverage);
  });

  it('name rows of other layouts, and are traced into them', () => {
    const other = layoutOf([of('costs', 'Costs')], { id: 'other', name: 'Other' });
    const rows: Row[] = [
      of('sales', 'Sales'),
      { kind: 'formula', id: 'rate', label: 'Rate', formula: '{other.costs} / {sales}' },
    ];
    const evaluation = openStatement(source(rows, [MONTH], { rowLayouts: [other] }));
    const level = traceLevel(evaluation, nodeOfAddress(evaluation, 'cell~rate~month')!);
    expect(level).toMatchObject({
      operation: 'formula',
      formula: 'costs / sales',
      figure: { amount: 0.4, unit: { kind: 'ratio' } },
    });
    const costs = traceLevel(evaluation, nodeOfAddress(evaluation, level.terms[0]!.address)!);
    expect(costs.figure.amount).toBe(80_000);
    const missing = evaluate(rows, [MONTH]);
    expect(missing.issues.map(({ code }) => code)).toEqual(['CORE_LAYOUT_UNKNOWN_ID']);
  });

  it('say when a formula adds unlike things, cannot be read, or stands in a circle', () => {
    const heads = account('9000', 'statistic', 'Heads');
    const formula = (id: string, text: string): Row => ({ kind: 'formula', id, label: id, formula: text });
    const rows: Row[] = [
      of('sales', 'Sales'),
      {
        kind: 'statistic',
        id: 'heads',
        label: 'heads',
        accounts: { include: [{ by: 'nature', nature: 'statistic' }] },
      },
      formula('mixed', '{sales} + {heads}'),
      formula('broken', '{sales} +'),
      formula('a', '{b}'),
      formula('b', '{a}'),
    ];
    const books = buildLedgerSlice([...accounts, heads], calendar, entriesOf(POSTINGS));
    const table = evaluateStatement({ ...source(rows, [MONTH]), slice: books });
    expect(table.issues.map(({ code, params }) => `${code} ${params['row'] ?? params['rows']}`)).toEqual([
      'CORE_FORMULA_UNITS mixed',
      'CORE_FORMULA_INVALID broken',
      'CORE_LAYOUT_CYCLE a, b',
    ]);
    expect(table.rows.find(({ id }) => id === 'a')!.cells[0]).toMatchObject({ amount: null, reason: 'cycle' });
  });

  it('add money up and leave out what is counted, whichever stands first', () => {
    const heads = account('9000', 'statistic', 'Heads');
    const counted: Row = {
      kind: 'statistic',
      id: 'heads',
      label: 'heads',
      accounts: { include: [{ by: 'nature', nature: 'statistic' }] },
    };
    const books = buildLedgerSlice([...accounts, heads], calendar, [
      ...entriesOf(POSTINGS),
      { account: '9000', period: 0, entryKind: 'normal', debit: 0, credit: 0, quantity: 70_000 },
    ]);
    const sales = of('sales', 'Sales');
    for (const children of [
      [counted, sales],
      [sales, counted],
    ]) {
      const group: Row = { kind: 'group', id: 'total', label: 'total', children };
      const table = evaluateStatement({ ...source([group], [MONTH]), slice: books });
      const shown = Object.fromEntries(table.rows.map(({ id, cells }) => [id, cells[0]]));
      expect(shown['total']).toMatchObject({ amount: shown['sales']!.amount, unit: { kind: 'currency' } });
      expect(shown['heads']).toMatchObject({ unit: { kind: 'count' } });
      expect(table.issues.map(({ code }) => code)).toEqual(['CORE_ROW_UNITS']);
    }
    const rules = [
      { by: 'nature' as const, nature: 'statistic' as const },
      { by: 'heading' as const, heading: 'Sales' },
    ];
    const mixed = evaluateStatement({
      ...source([sales, { ...of('both', 'Sales'), accounts: { include: rules } } as Row], [MONTH]),
      slice: books,
    });
    expect(mixed.rows[1]!.cells[0]).toMatchObject({ amount: mixed.rows[0]!.cells[0]!.amount });
  });

  it('without figures have no cells, and are left out while they hold nothing when asked', () => {
    const rows: Row[] = [
      { kind: 'heading', id: 'h', label: 'Heading' },
      { kind: 'line', id: 'l', label: '' },
      of('nothing', 'Nowhere', { whenEmpty: 'hide' }),
      of('sales', 'Sales', { whenEmpty: 'hide' }),
    ];
    const table = evaluate(rows, [MONTH]);
    expect(table.rows.map(({ cells, isEmpty }) => [cells.length, isEmpty])).toEqual([
      [0, false],
      [0, false],
      [1, true],
      [1, false],
    ]);
  });
});

describe('a formula over a base below nothing', () => {
  it('is marked as a ratio row is; one over a number that stands in it is not', () => {
    const formula = (id: string, text: string): Row => ({ kind: 'formula', id, label: id, formula: text });
    const rows = [
      ...ROWS,
      formula('over_loss', '{sales} / ({costs} - {sales})'), // 2,000 ÷ −1,200
      formula('over_sales', '{costs} / {sales} * 100'),
      formula('over_number', '{sales} / -2'),
    ];
    const table = evaluate(rows, [MONTH]);
    const isMarked = (row: string) => table.rows.find(({ id }) => id === row)!.cells[0]!.negativeBase ?? false;
    expect(['over_loss', 'over_sales', 'over_number'].map(isMarked)).toEqual([true, false, false]);
  });
});
