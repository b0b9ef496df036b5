import type { Column } from './column-layout';
import {
  changeColumns,
  copiesOfColumns,
  insertColumns,
  moveColumns,
  nudgeColumns,
  readsOf,
  removeColumns,
} from './edit-columns';

const figure = (id: string, more: object = {}): Column => ({
  kind: 'figure',
  id,
  span: 'period',
  measure: 'by_nature',
  ...more,
});
const COLUMNS: Column[] = [
  figure('now', { block: 'month' }),
  figure('before', { block: 'month', monthsBack: 1 }),
  { kind: 'difference', id: 'change', of: 'now', base: 'before', block: 'month' },
  { kind: 'formula', id: 'twice', formula: '{change} * 2' },
  { kind: 'share', id: 'share', of: 'now', base: 'share_base' } as unknown as Column,
];
const ids = (columns: readonly Column[]) => columns.map(({ id }) => id).join(' ');
const set = (...all: string[]) => new Set(all);

describe('columns', () => {
  it('are put behind another, or at the end', () => {
    expect(ids(insertColumns(COLUMNS, [figure('new')], 'now'))).toBe('now new before change twice share');
    expect(ids(insertColumns(COLUMNS, [figure('new')]))).toBe('now before change twice share new');
  });

  it('change by their ids, and the others stay the same objects', () => {
    const changed = changeColumns(COLUMNS, set('now'), (column) => ({ ...column, heading: 'Now' }));
    expect(changed[0]).toMatchObject({ id: 'now', heading: 'Now' });
    expect(changed[1]).toBe(COLUMNS[1]);
  });

  it('go with those that read them, through any number of steps', () => {
    expect(ids(removeColumns(COLUMNS, set('before')))).toBe('now share'); // change reads it, and twice reads change
    expect(ids(removeColumns(COLUMNS, set('share')))).toBe('now before change twice');
  });

  it('move one place, and stop at the edge', () => {
    expect(ids(nudgeColumns(COLUMNS, set('change'), -1))).toBe('now change before twice share');
    expect(ids(nudgeColumns(COLUMNS, set('now', 'before'), 1))).toBe('change now before twice share');
    expect(ids(nudgeColumns(COLUMNS, set('now'), -1))).toBe('now before change twice share');
    expect(ids(nudgeColumns(COLUMNS, set('share'), 1))).toBe('now before change twice share');
  });

  it('move before another, or to the end, and not before themselves', () => {
    expect(ids(moveColumns(COLUMNS, set('change', 'share'), 'now'))).toBe('change share now before twice');
    expect(ids(moveColumns(COLUMNS, set('now'), undefined))).toBe('before change twice share now');
    expect(ids(moveColumns(COLUMNS, set('now', 'change'), 'change'))).toBe('now before change twice share');
  });

  it('say what they read', () => {
    expect(COLUMNS.map(readsOf)).toEqual([[], [], ['now', 'before'], ['change'], ['now']]);
    expect(readsOf({ kind: 'formula', id: 'broken', formula: '{now' })).toEqual([]);
  });

  it('are copied under ids of their own, and read each other rather than the first', () => {
    const copies = copiesOfColumns(COLUMNS.slice(0, 4), ids(COLUMNS).split(' '));
    const [now, before, change, twice] = copies as [
      Column,
      Column,
      Column & { of: string; base: string },
      Column & { formula: string },
    ];
    expect(set(...copies.map(({ id }) => id), ...COLUMNS.map(({ id }) => id)).size).toBe(4 + COLUMNS.length);
    expect([change.of, change.base]).toEqual([now.id, before.id]);
    expect(twice.formula).toContain(`{${change.id}}`);
    expect(set(...copies.slice(0, 3).map(({ block }) => block!)).size).toBe(1);
    expect(now.block).not.toBe('month');
  });

  it('that are copied alone still read what they read', () => {
    const [copy] = copiesOfColumns([COLUMNS[2]!], ['change']) as [Column & { of: string; base: string }];
    expect([copy.of, copy.base]).toEqual(['now', 'before']);
  });

  it('at the rates of another follow it into their copies, and are read from it', () => {
    const rated = figure('rated', { rates: 'now', likeFor: 'before' });
    expect(readsOf(rated)).toEqual(['now', 'before']);
    expect(copiesOfColumns([...COLUMNS.slice(0, 1), rated], ['now', 'before', 'rated'])[1]).toMatchObject({
      rates: 'now_2',
      likeFor: 'before',
    });
  });
});
