import type { Column, Row, RowLayout } from '@margin-lens/core';
import { asKind, newColumn, newRow } from './shape-edits';

const figure = (id: string, more: object = {}): Column => ({
  ...{ kind: 'figure', id, span: 'year_to_date', measure: 'by_nature' },
  ...more,
});
const ACTUAL = figure('actual');
const PLAN = figure('plan', { version: 'compared' });
const OUTLOOK = figure('outlook', { version: 'newest_forecast', actualTo: 'as_at' });
const LAST_YEAR = figure('last_year', { yearsBack: 1 });

describe('a new column that compares', () => {
  const pair = (near: string, ...columns: Column[]) => {
    const made = newColumn('difference', columns, near);
    return 'base' in made ? `${made.of} less ${made.base}` : '';
  };

  it('is what was posted less what it is held against, whichever stands first', () => {
    expect(pair('plan', ACTUAL, PLAN)).toBe('actual less plan');
    expect(pair('actual', PLAN, ACTUAL)).toBe('actual less plan');
    expect(pair('last_year', ACTUAL, LAST_YEAR)).toBe('actual less last_year');
    expect(pair('plan', OUTLOOK, PLAN)).toBe('outlook less plan');
    expect(pair('last_year', PLAN, LAST_YEAR)).toBe('plan less last_year');
  });

  it('is of the column it was made behind where both are alike', () => {
    expect(pair('later', figure('earlier'), figure('later'))).toBe('later less earlier');
  });
});

describe('a new ratio', () => {
  const row = (id: string): Row => ({ kind: 'accounts', id, label: id, accounts: { include: [] } });
  const layout: RowLayout = {
    ...{ schema: 1, kind: 'row_layout', id: 'rows', name: 'Rows', purpose: 'income', shareBase: 'sales' },
    rows: [{ kind: 'heading', id: 'head', label: 'Head' }, row('energy'), row('sales'), row('labour')],
  };
  const parts = (made: Row) => (made.kind === 'ratio' ? `${made.numerator} ÷ ${made.denominator}` : '');

  it('is of the row that it stands by to the base of shares, and never of a row to itself', () => {
    expect(parts(newRow('ratio', layout, 'labour'))).toBe('labour ÷ sales');
    expect(parts(newRow('ratio', layout, 'sales'))).toBe('sales ÷ energy');
    expect(parts(newRow('ratio', layout, 'head'))).toBe('energy ÷ sales');
    expect(parts(asKind(layout.rows[3]!, 'ratio', layout))).toBe('sales ÷ energy');
  });
});
