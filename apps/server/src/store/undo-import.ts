import type Database from 'better-sqlite3';
import { RESOURCES } from '@margin-lens/core';
import { appError } from '../base/app-error';
import { newRevision } from './new-revision';
import { requireRight, type Viewer } from '../base/viewer';
import { postJournals } from './balance-ledger';
import { openConnection } from './open-connection';

interface Table {
  name: string;
  /** Columns that a copy takes over. */
  columns: readonly string[];
  /** Columns that name what a row is about, whatever its revision. */
  key: readonly string[];
}

const MASTER_TABLES: readonly Table[] = [
  ...RESOURCES.map(({ table, columns }) => ({
    name: table,
    columns: ['id', ...columns.map(({ name }) => name)],
    key: ['id'],
  })),
  { name: 'document', columns: ['kind', 'id', 'body'], key: ['kind', 'id'] },
];

const FIGURE = ['version', 'entity', 'account', 'period', 'combination'];
const FIGURE_TABLE: Table = { name: 'figure', columns: [...FIGURE, 'amount', 'quantity'], key: FIGURE };

const quoted = (names: readonly string[]) => names.map((name) => `\`${name}\``).join(', ');

/**
 * What an undo turns back: the delivery's revision, and those of later deliveries and their undoing, which have brought
 * back rows of before under revisions of their own.
 */
interface Span {
  revision: number;
  /** All of these revisions, as a list for SQL. */
  all: string;
  now: number;
}

/** Rows that the span brought and that hold. */
const brought = ({ all }: Span) => `since in (${all}) and until is null`;
/** Rows that held before the span and that it ended. */
const ended = ({ revision, all }: Span) => `since < ${revision} and until in (${all})`;

/** Ends the rows that the span brought, and brings those back that it ended, under a new revision. */
function turnBack(db: Database.Database, { name, columns, key }: Table, span: Span): void {
  const sameKey = key.map((column) => `held.\`${column}\` = was.\`${column}\``).join(' and ');
  db.prepare(`update \`${name}\` set until = ? where ${brought(span)}`).run(span.now);
  db.prepare(
    `insert into \`${name}\` (${quoted(columns)}, since) select ${quoted(columns)}, ? from \`${name}\` was
     where ${ended(span)} and not exists (select 1 from \`${name}\` held where held.until is null and ${sameKey})`,
  ).run(span.now);
}

/** Figures are balances of their version: what goes is taken out of them, what comes back is added. */
function turnFiguresBack(db: Database.Database, span: Span): void {
  const post = (where: string, sign: 1 | -1) =>
    db.exec(
      `insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
       select version, entity, period, account, combination, 0, 0, ${sign} * max(amount, 0), ${sign} * max(-amount, 0),
         ${sign} * quantity from figure where ${where}
       on conflict do update set debit = debit + excluded.debit, credit = credit + excluded.credit,
         quantity = quantity + excluded.quantity`,
    );
  post(brought(span), -1);
  turnBack(db, FIGURE_TABLE, span);
  post(`since = ${span.now} and until is null`, 1);
}

/** Journals that come back are new rows with the lines they had, so that each revision stays as it was. */
function turnJournalsBack(db: Database.Database, span: Span): { journals: number; lines: number } {
  const gone = `select id from journal where ${brought(span)}`;
  const { lines } = db.prepare(`select count(*) as lines from journal_line where journal in (${gone})`).get() as {
    lines: number;
  };
  postJournals(db, gone, -1);
  const journals = db.prepare(`update journal set until = ? where ${brought(span)}`).run(span.now).changes;
  const back = db.prepare(`select id from journal where ${ended(span)} order by id`).all() as { id: number }[];
  const lineColumns = (db.pragma('table_info(journal_line)') as { name: string }[])
    .map(({ name }) => name)
    .filter((name) => name !== 'id' && name !== 'journal');
  const copyJournal = db.prepare(
    `insert into journal (entity, fiscal_year, number, kind, since)
     select entity, fiscal_year, number, kind, ? from journal where id = ?`,
  );
  const copyLines = db.prepare(
    `insert into journal_line (journal, ${quoted(lineColumns)}) select ?, ${quoted(lineColumns)} from journal_line
     where journal = ?`,
  );
  for (const { id } of back) copyLines.run(copyJournal.run(span.now, id).lastInsertRowid, id);
  postJournals(db, `select id from journal where since = ${span.now} and until is null`, 1);
  return { journals, lines };
}

/**
 * Journals made by hand stand on master data; what they use cannot go while they are there.
 * @throws SRV_UNDO_IN_USE
 */
function requireUnused(db: Database.Database, span: Span): void {
  for (const [table, column] of [
    ['account', 'account'],
    ['entity', 'entity'],
    ['fiscal_period', 'period'],
  ] as const) {
    const used = db
      .prepare(
        `select j.number from journal j join journal_line l on l.journal = j.id
         where j.until is null and j.since > ${span.revision} and j.since not in (${span.all})
           and l.${column} in (select id from \`${table}\` t where ${brought(span)}
             and not exists (select 1 from \`${table}\` was where was.id = t.id and was.since < ${span.revision})) limit 1`,
      )
      .get() as { number: string } | undefined;
    if (used) throw appError('SRV_UNDO_IN_USE', { journal: used.number });
  }
}

/**
 * Takes the latest delivery out of the books again, all of it: what it added ends, what it changed or took out comes
 * back.
 * @throws SRV_RIGHT_MISSING, SRV_UNDO_IN_USE, SRV_UNDO_NOT_LATEST when a later delivery still holds, or it was undone before
 */
export function undoImport(databaseFile: string, viewer: Viewer, runId: number): { journals: number; lines: number } {
  requireRight(viewer, 'bring_in');
  const db = openConnection(databaseFile);
  try {
    return db
      .transaction(() => {
        const latest = db
          .prepare('select id, revision, file_name as fileName from import_run where undone is null order by id desc')
          .get() as { id: number; revision: number; fileName: string } | undefined;
        if (latest?.id !== runId) throw appError('SRV_UNDO_NOT_LATEST');
        const now = newRevision(db, viewer.name, `undo import ${latest.fileName}`);
        const later = db
          .prepare('select revision, undone from import_run where revision >= ?')
          .all(latest.revision) as { revision: number; undone: number | null }[];
        const all = later.flatMap(({ revision, undone }) => (undone === null ? [revision] : [revision, undone]));
        const span: Span = { revision: latest.revision, all: all.join(', '), now };
        requireUnused(db, span);
        db.exec(`delete from first_posting where revision in (${span.all})`);
        const taken = turnJournalsBack(db, span);
        turnFiguresBack(db, span);
        for (const table of MASTER_TABLES) turnBack(db, table, span);
        db.exec('delete from balance where debit = credit and quantity = 0 and (version > 0 or debit = 0)');
        db.prepare('update import_run set undone = ? where id = ?').run(now, runId);
        return taken;
      })
      .immediate();
  } finally {
    db.close();
  }
}
