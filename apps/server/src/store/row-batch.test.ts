import Database from 'better-sqlite3';
import fc from 'fast-check';
import { RowBatch, type Cell } from './row-batch';

const COLUMNS = ['number', 'text', 'maybe'] as const;

/** Rows whose columns change seldom, often, or never; more of them than one statement takes. */
const ROWS = fc.array(
  fc.tuple(fc.constantFrom(0, 1, -2.5), fc.constantFrom('', 'a', "it's"), fc.constantFrom<Cell>(null, 7, '7')),
  { maxLength: 120 },
);

test('Rows come in as they were given and in their order, whichever columns stay the same', () => {
  fc.assert(
    fc.property(ROWS, fc.array(fc.nat(120), { maxLength: 3 }), (rows, flushes) => {
      const db = new Database(':memory:');
      db.exec('create table held (id integer primary key, number, text, maybe)');
      const batch = new RowBatch(db, 'insert into held', COLUMNS);
      rows.forEach((row, at) => {
        row.forEach((cell) => batch.add(cell));
        if (flushes.includes(at)) batch.flush();
      });
      batch.flush();
      expect(db.prepare('select number, text, maybe from held order by id').raw().all()).toEqual(rows);
      db.close();
    }),
    { numRuns: 60 },
  );
});

test('Rows that meet one that is there are added to it', () => {
  const db = new Database(':memory:');
  db.exec('create table held (place integer primary key, amount integer)');
  const tail = 'on conflict (place) do update set amount = amount + excluded.amount';
  const batch = new RowBatch(db, 'insert into held', ['place', 'amount'], tail);
  for (const cell of [1, 10, 2, 20, 1, 5]) batch.add(cell);
  batch.flush();
  expect(db.prepare('select amount from held order by place').pluck().all()).toEqual([15, 20]);
  db.close();
});
