import type Database from 'better-sqlite3';
import { RESOURCES } from '@margin-lens/core';
import { appError } from '../base/app-error';
import { ADDED_UP, postJournals, postJournalsOf } from './post-journals';
import { latestHolding } from './import-runs';
import { currentRows, touchMasters } from './masters';
import type { Write } from './store';
import { ImportRun, masterOf, StoredDocument } from './tables';

const FIGURE = ['version', 'entity', 'account', 'period', 'combination'];
const FIGURE_COLUMNS = [...FIGURE, 'amount', 'quantity'];

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

/** Ends the figures that the span brought, and brings those back that it ended, under a new revision. */
function turnBackFigures(db: Database.Database, span: Span): void {
  const sameKey = FIGURE.map((column) => `held.\`${column}\` = was.\`${column}\``).join(' and ');
  db.prepare(`update figure set until = ? where ${brought(span)}`).run(span.now);
  db.prepare(
    `insert into figure (${quoted(FIGURE_COLUMNS)}, since) select ${quoted(FIGURE_COLUMNS)}, ? from figure was
     where ${ended(span)} and not exists (select 1 from figure held where held.until is null and ${sameKey})`,
  ).run(span.now);
}

/** Figures are balances of their version: what goes is taken out of them, what comes back is added. */
function turnFiguresBack({ db, touches }: Write, span: Span): void {
  const post = (where: string, sign: 1 | -1) =>
    db.exec(
      `insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
       select version, entity, period, account, combination, 0, 0, ${sign} * max(amount, 0), ${sign} * max(-amount, 0),
         ${sign} * quantity from figure where ${where} ${ADDED_UP}`,
    );
  if (db.prepare(`select 1 from figure where ${brought(span)} or (${ended(span)}) limit 1`).get())
    touches.add('figures');
  post(brought(span), -1);
  turnBackFigures(db, span);
  post(`since = ${span.now} and until is null`, 1);
}

/** Journals that come back are new rows with the lines they had, so that each revision stays as it was. */
function turnJournalsBack(write: Write, span: Span): { journals: number; lines: number } {
  const { db } = write;
  const gone = `select id from journal where ${brought(span)}`;
  const { lines } = db.prepare(`select count(*) as lines from journal_line where journal in (${gone})`).get() as {
    lines: number;
  };
  postJournals(write, gone, -1);
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
  postJournalsOf(write, span.now, 1);
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
        `select j.number from journal j cross join journal_line l on l.journal = j.id
         where j.until is null and j.since > ${span.revision} and j.since not in (${span.all})
           and l.${column} in (select id from \`${table}\` t where ${brought(span)}
             and not exists (select 1 from \`${table}\` was where was.id = t.id and was.since < ${span.revision})) limit 1`,
      )
      .get() as { number: string } | undefined;
    if (used) throw appError('SRV_UNDO_IN_USE', { journal: used.number });
  }
}

/** Ends the documents that the span brought, and brings those back that it ended. */
async function turnDocumentsBack({ em, touches, revision }: Write, { from, all }: RevisionSpan): Promise<void> {
  const came = await em.find(StoredDocument, { since: { $in: all }, until: null });
  for (const row of came) row.endBy(revision);
  const went = await em.find(StoredDocument, { since: { $lt: from }, until: { $in: all } });
  for (const { kind, id, body } of went) {
    const held = await em.findOne(StoredDocument, { kind, id, until: null });
    if (!held) em.create(StoredDocument, { kind, id, body, since: revision, until: null });
  }
  if (came.length + went.length > 0)
    for (const part of ['documents', 'remarks', 'masters', 'figures'] as const) touches.add(part);
}

/** Ends the master data that the span brought, and brings that back which it ended. */
async function turnMastersBack(write: Write, { from, all }: RevisionSpan): Promise<void> {
  const { em, revision } = write;
  for (const resource of RESOURCES) {
    const table = masterOf(resource);
    const came = await em.find(table, { since: { $in: all }, until: null });
    for (const row of came) row.endBy(revision);
    const went = await em.find(table, { since: { $lt: from }, until: { $in: all } });
    if (came.length + went.length === 0) continue;
    await em.flush();
    const held = new Set((await currentRows(em, resource)).map(({ id }) => id));
    for (const { row_id: _, ...cells } of went)
      if (!held.has(cells.id)) em.create(table, { ...cells, since: revision, until: null } as never);
    touchMasters(write, resource.name);
  }
}

/** What an undo turns back, by numbers. */
interface RevisionSpan {
  from: number;
  all: number[];
}

/**
 * Takes the latest delivery out of the books again, all of it: what it added ends, what it changed or took out comes
 * back.
 * @throws SRV_UNDO_IN_USE, SRV_UNDO_NOT_LATEST when a later delivery still holds, or it was undone before
 */
export async function undoImport(write: Write, runId: number): Promise<{ journals: number; lines: number }> {
  const { em, db, revision: now } = write;
  const latest = await latestHolding(em);
  if (latest?.id !== runId) throw appError('SRV_UNDO_NOT_LATEST');
  write.describe({ subject: latest.fileName });
  const later = await em.find(ImportRun, { revision: { $gte: latest.revision } });
  const all = later.flatMap(({ revision, undone }) => (undone === null ? [revision] : [revision, undone]));
  const span: Span = { revision: latest.revision, all: all.join(', '), now };
  requireUnused(db, span);
  db.exec(`delete from first_posting where revision in (${span.all})`);
  const taken = turnJournalsBack(write, span);
  turnFiguresBack(write, span);
  await turnMastersBack(write, { from: latest.revision, all });
  await turnDocumentsBack(write, { from: latest.revision, all });
  db.exec('delete from balance where debit = credit and quantity = 0 and (version > 0 or debit = 0)');
  latest.undone = now;
  return taken;
}
