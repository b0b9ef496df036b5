import fc from 'fast-check';
import {
  copiesOf,
  documentChanges,
  evaluateStatement,
  formatFigure,
  indentRows,
  insertRows,
  mergeDocuments,
  moveRows,
  nudgeRows,
  outdentRows,
  outlineOf,
  removeRows,
  undoChange,
  rowIds,
  rowsAsText,
  rowsFromText,
  slot,
  type ColumnLayout,
  type LedgerSlice,
  type Row,
  type RowLayout,
  type StatementTable,
} from '../../src/index';
import { randomBooks } from './random-books';
import { runs } from '../runs';

const currency = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'columns',
  name: 'Columns',
  columns: [
    { kind: 'figure', id: 'month', span: 'period', measure: 'movement' },
    { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'movement' },
    { kind: 'difference', id: 'difference', of: 'ytd', base: 'month' },
    { kind: 'share', id: 'share', of: 'ytd', parent: true },
    { kind: 'formula', id: 'half', formula: '{ytd} / 2' },
    { kind: 'series', id: 'months', by: 'month', measure: 'movement', total: true },
  ],
};
const AT = 17;

/** A random outline over the accounts of the books: totals in totals, details of one or more accounts, then formulas. */
const randomLayout = (accounts: readonly string[]): fc.Arbitrary<RowLayout> =>
  fc
    .array(
      fc.record({
        accounts: fc.subarray([...accounts], { minLength: 1 }),
        depth: fc.nat({ max: 3 }),
        isGroup: fc.boolean(),
        side: fc.constantFrom('debit' as const, 'credit' as const),
        isBracketed: fc.boolean(),
      }),
      { minLength: 2, maxLength: 14 },
    )
    .chain((parts) => {
      const top: Row[] = [];
      const open: Row[][] = [top];
      parts.forEach(({ accounts: held, depth, isGroup, side, isBracketed }, at) => {
        while (open.length > depth + 1) open.pop();
        const into = open[open.length - 1]!;
        const base = {
          id: `r${at}`,
          label: `Row ${at}`,
          orientation: side,
          shown: isBracketed ? ('brackets' as const) : ('plain' as const),
        };
        if (isGroup) {
          const children: Row[] = [];
          into.push({ kind: 'group', ...base, children });
          open.push(children);
        } else
          into.push({
            kind: 'accounts',
            ...base,
            accounts: { include: held.map((number) => ({ by: 'account', number })) },
          });
      });
      const ids = rowIds(top);
      const formula = fc
        .tuple(fc.constantFrom(...ids), fc.constantFrom(...ids), fc.constantFrom('+', '-', '*', '/'))
        .map(([a, b, sign]): Row => ({
          kind: 'formula',
          id: 'formula',
          label: 'Formula',
          formula: `{${a}} ${sign} {${b}}`,
          unit: 'money',
        }));
      return formula.map((row): RowLayout => ({
        schema: 1,
        kind: 'row_layout',
        id: 'random',
        name: 'Random',
        purpose: 'free',
        shareBase: ids[0]!,
        rows: [...top, row],
      }));
    });

const books = randomBooks.chain((slice) =>
  randomLayout(slice.accounts.map(({ number }) => number)).map((layout) => ({ slice, layout })),
);
const evaluate = (slice: LedgerSlice, rowLayout: RowLayout): StatementTable =>
  evaluateStatement({ rowLayout, columnLayout: COLUMNS, slice, at: slice.calendar.periods[AT]!, currency });
const figuresById = ({ rows }: StatementTable) =>
  Object.fromEntries(rows.map(({ id, cells }) => [id, cells.map(({ amount }) => amount)]));

/** True where a row counts people and holds no money; beside money, people are not added up. */
const counts = (slice: LedgerSlice, row: Row): boolean =>
  row.kind === 'accounts'
    ? row.accounts.include.every((rule) => rule.by === 'account' && isStatistic(slice, rule.number))
    : row.kind === 'group' && row.children.length > 0 && row.children.every((child) => counts(slice, child));
const isStatistic = (slice: LedgerSlice, number: string) =>
  slice.accounts.some((account) => account.number === number && account.nature === 'statistic');

/** What a row shows in its own orientation, computed from the postings alone, without any of the engine. */
function naive(slice: LedgerSlice, row: Row, periods: readonly number[]): number {
  const side = 'orientation' in row && row.orientation === 'credit' ? -1 : 1;
  if (row.kind === 'accounts') {
    let debit = 0;
    for (const rule of row.accounts.include) {
      if (rule.by !== 'account' || (isStatistic(slice, rule.number) && !counts(slice, row))) continue;
      for (const p of periods) debit += slice.movement[slot(slice, slice.indexOfAccount.get(rule.number)!, p)]!;
    }
    return side * debit;
  }
  if (row.kind !== 'group') throw new Error(row.kind);
  const added = row.children.filter((child) => counts(slice, child) === counts(slice, row));
  return added.reduce((sum, child) => {
    const own = 'orientation' in child && child.orientation === 'credit' ? -1 : 1;
    return sum + (own === side ? 1 : -1) * naive(slice, child, periods);
  }, 0);
}

describe('a layout built at random', () => {
  it('shows in every total the sum of what stands in it, as a naive recomputation from the postings does', () => {
    fc.assert(
      fc.property(books, ({ slice, layout }) => {
        const table = evaluate(slice, layout);
        const month = [AT].filter((p) => slice.holdsData[p]);
        const year = slice.calendar.periods
          .filter(
            ({ fiscalYear, ordinal }) =>
              fiscalYear === slice.calendar.periods[AT]!.fiscalYear && ordinal <= AT && slice.holdsData[ordinal] === 1,
          )
          .map(({ ordinal }) => ordinal);
        for (const { row } of outlineOf(layout.rows)) {
          if (row.kind === 'formula') continue;
          const cells = table.rows.find(({ id }) => id === row.id)!.cells;
          const shown = row.shown === 'brackets' ? -1 : 1;
          if (month.length > 0) expect(cells[0]!.amount ?? 0).toBe(shown * naive(slice, row, month) + 0);
          if (year.length > 0) expect(cells[1]!.amount ?? 0).toBe(shown * naive(slice, row, year) + 0);
        }
      }),
      runs(150),
    );
  });

  it('keeps every figure when rows are renamed, moved among their like, copied, or a change is undone', () => {
    fc.assert(
      fc.property(books, fc.nat(), fc.constantFrom(1 as const, -1 as const), ({ slice, layout }, pick, step) => {
        const before = figuresById(evaluate(slice, layout));
        const ids = rowIds(layout.rows);
        const chosen = new Set([ids[pick % ids.length]!]);
        const renamed = { ...layout, rows: layout.rows.map((row) => ({ ...row, label: `${row.label} anew` })) };
        expect(figuresById(evaluate(slice, renamed))).toEqual(before);
        expect(figuresById(evaluate(slice, { ...layout, rows: nudgeRows(layout.rows, chosen, step) }))).toEqual(before);
        // copies at the end read what they copy, and change nothing before them
        const copied = { ...layout, rows: insertRows(layout.rows, copiesOf(layout.rows, ids), undefined) };
        expect(figuresById(evaluate(slice, copied))).toMatchObject(before);
        // what goes in comes out: the state before is kept whole
        const edited = removeRows(layout.rows, chosen);
        expect(rowIds(edited)).not.toContain([...chosen][0]);
        expect(figuresById(evaluate(slice, layout))).toEqual(before);
      }),
      runs(60),
    );
  });

  it('loses no row whatever is moved where, indented or outdented', () => {
    fc.assert(
      fc.property(
        books,
        fc.array(fc.nat(), { minLength: 1, maxLength: 3 }),
        fc.nat(),
        fc.constantFrom('after', 'before', 'inside'),
        ({ layout }, picks, to, where) => {
          const ids = rowIds(layout.rows);
          const chosen = new Set(picks.map((pick) => ids[pick % ids.length]!));
          const same = (rows: readonly Row[]) => expect([...rowIds(rows)].sort()).toEqual([...ids].sort());
          same(moveRows(layout.rows, chosen, ids[to % ids.length], where as 'after'));
          same(indentRows(layout.rows, chosen));
          same(outdentRows(layout.rows, chosen));
          same(nudgeRows(layout.rows, chosen, 1));
          same(nudgeRows(layout.rows, chosen, -1));
        },
      ),
    );
  });

  it('goes out as text and comes back with the same outline and figures', () => {
    fc.assert(
      fc.property(books, ({ slice, layout }) => {
        const plain: RowLayout = {
          ...layout,
          rows: JSON.parse(
            JSON.stringify(layout.rows, (key, value: unknown) =>
              key === 'orientation' || key === 'shown' || key === 'unit' ? undefined : value,
            ),
          ) as Row[],
        };
        const names = { own: outlineOf(plain.rows).map(({ row }) => ({ id: row.id, label: row.label })), others: [] };
        const { rows, unread } = rowsFromText(rowsAsText(plain.rows, names), slice.accounts, { own: [], others: [] });
        expect(unread).toEqual([]);
        const shape = (list: readonly Row[]) => outlineOf(list).map(({ row, depth }) => [row.label, row.kind, depth]);
        expect(shape(rows)).toEqual(shape(plain.rows));
        const [a, b] = [evaluate(slice, plain), evaluate(slice, { ...plain, shareBase: undefined, rows })];
        expect(b.rows.map(({ cells }) => cells.map((cell) => formatFigure(cell, 1)))).toEqual(
          a.rows.map(({ cells }) => cells.map((cell) => formatFigure(cell, 1))),
        );
      }),
      runs(60),
    );
  });

  it('merges changes of different rows without loss, whoever comes first', () => {
    fc.assert(
      fc.property(books, fc.nat(), fc.nat(), ({ layout }, a, b) => {
        const details = outlineOf(layout.rows)
          .map(({ row }) => row)
          .filter(({ kind }) => kind === 'accounts');
        fc.pre(details.length > 1 && a % details.length !== b % details.length);
        const relabelled = (at: number, label: string): RowLayout => ({
          ...layout,
          rows: JSON.parse(JSON.stringify(layout.rows), (_key, value: Row) =>
            value?.id === details[at % details.length]!.id ? { ...value, label } : value,
          ) as Row[],
        });
        const [mine, theirs] = [relabelled(a, 'Mine'), relabelled(b, 'Theirs')];
        const { merged, conflicts } = mergeDocuments(layout, mine, theirs);
        expect(conflicts).toEqual([]);
        expect(
          documentChanges(layout, merged)
            .map(({ label }) => label)
            .sort(),
        ).toEqual(['Mine', 'Theirs']);
        expect(mergeDocuments(layout, theirs, mine).merged).toEqual(merged);
        expect(mergeDocuments(layout, mine, relabelled(a, 'Other')).conflicts).toEqual(['Mine']);
      }),
      runs(60),
    );
  });

  it('a step taken back leaves exactly what was before it, and what was done to other parts since', () => {
    fc.assert(
      fc.property(books, fc.nat(), fc.nat(), fc.boolean(), ({ layout }, x, y, isMove) => {
        const ids = rowIds(layout.rows);
        const [a, b] = [ids[x % ids.length]!, ids[y % ids.length]!];
        const relabelled = (from: RowLayout, id: string, label: string): RowLayout => {
          const label_ = (rows: readonly Row[]): Row[] =>
            rows.map((row) => ({
              ...row,
              ...(row.id === id && { label }),
              ...(row.kind === 'group' && { children: label_(row.children) }),
            }));
          return { ...from, rows: label_(from.rows) };
        };
        const after = isMove
          ? { ...layout, rows: [...nudgeRows(layout.rows, new Set([a]), 1)] }
          : relabelled(layout, a, 'Step');
        const step = { before: layout, after };
        expect(undoChange(step, after)).toEqual({ merged: layout, conflicts: [] });
        const since = relabelled(after, b, 'Since');
        const undone = undoChange(step, since);
        if (a === b && !isMove) expect(undone.conflicts).toEqual(['Since']);
        else expect(undone).toEqual({ merged: relabelled(layout, b, 'Since'), conflicts: [] });
        const without = { ...after, rows: [...removeRows(after.rows, new Set([a]))] };
        if (JSON.stringify(after) !== JSON.stringify(layout))
          expect(undoChange(step, without).conflicts.length).toBeGreaterThan(0);
      }),
      runs(100),
    );
  });
});
