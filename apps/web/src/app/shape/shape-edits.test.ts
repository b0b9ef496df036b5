import type { Column } from '@margin-lens/core';
import { newColumn } from './shape-edits';

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
