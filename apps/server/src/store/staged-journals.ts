import type Database from 'better-sqlite3';
import { issue, JOURNALS_FILE, type Issue } from '@margin-lens/core';
import {
  JOURNAL_NUMBERS,
  LINE_NUMBERS,
  LINE_TEXTS,
  SUM_NUMBERS,
  type JournalBatch,
  type JournalsRead,
} from './journal-batch';
import { ADDED_UP } from './post-journals';
import { RowBatch } from './row-batch';

const AMOUNT_IN_CURRENCY = LINE_NUMBERS.indexOf('currency_amount');
const COMBINATION = LINE_NUMBERS.indexOf('combination');
const COMBINATION_OF_SUM = SUM_NUMBERS.indexOf('combination');
/** Findings of one kind looked up at the end of a delivery. */
export const FINDINGS_LISTED = 2000;

/** The statement that made the table of journal lines. */
export const statementOfLines = (db: Database.Database): string =>
  db.prepare("select sql from sqlite_master where type = 'table' and name = 'journal_line'").pluck().get() as string;

/**
 * The journals of a delivery, set aside in temporary tables of a connection as they are read, while others write.
 *
 * Shape: temp.staged_line is as journal_line, whose `journal` is an id of temp.staged_journal, from 1; temp.staged_sum
 * holds the sums of all lines. Nothing here reads or writes the books.
 */
export class StagedJournals {
  private readonly lines: RowBatch;
  private readonly journals: RowBatch;
  private readonly sums: RowBatch;
  private readonly refused = new Set<string>();
  private read: JournalsRead = { isOff: false, mayBeTwice: false, mayRepeat: false };
  /** Lines that were set aside. */
  lineCount = 0;
  /** Some line stands twice in its journal, so that the lines cannot join the books. */
  hasRepeated = false;

  /** `lineTable` is the statement that made journal_line. */
  constructor(
    private readonly db: Database.Database,
    lineTable: string,
    private readonly combinationId: (parts: string) => number,
  ) {
    // the same columns, so that a first load is copied as it stands
    const made = lineTable.replace(/^create table\s+[`"]?journal_line[`"]?/i, 'create table temp.staged_line');
    db.exec(made.replace(/ autoincrement/i, ''));
    db.exec(`
      create table temp.staged_journal (id integer primary key, entity integer, fiscal_year integer, kind integer, number text, held integer);
      create table temp.staged_sum (${SUM_NUMBERS.map((column) => `${column} integer not null`).join(', ')},
        primary key (entity, period, account, combination, basis, entry_kind)) without rowid`);
    this.lines = new RowBatch(db, 'insert into temp.staged_line', [...LINE_NUMBERS, ...LINE_TEXTS]);
    this.journals = new RowBatch(db, 'insert into temp.staged_journal', [...JOURNAL_NUMBERS, 'number']);
    this.sums = new RowBatch(db, 'insert into temp.staged_sum', SUM_NUMBERS, ADDED_UP);
  }

  private readonly combinationIds: number[] = [];

  take({ lines, lineTexts, journals, journalNumbers, combinations, sums }: JournalBatch): void {
    for (const parts of combinations) this.combinationIds.push(this.combinationId(parts));
    journalNumbers.forEach((number, at) => {
      for (let i = 0; i < JOURNAL_NUMBERS.length; i++) this.journals.add(journals[at * JOURNAL_NUMBERS.length + i]!);
      this.journals.add(number);
    });
    this.takeLines(lines, lineTexts);
    sums.forEach((number, at) =>
      this.sums.add(at % SUM_NUMBERS.length === COMBINATION_OF_SUM ? this.combinationIds[number]! : number),
    );
  }

  private takeLines(numbers: Float64Array, texts: readonly string[]): void {
    const { lines, combinationIds } = this;
    const [width, textWidth] = [LINE_NUMBERS.length, LINE_TEXTS.length];
    const count = numbers.length / width;
    this.lineCount += count;
    for (let row = 0; row < count; row++) {
      for (let i = 0; i < width; i++) {
        const number = numbers[row * width + i]!;
        if (i === COMBINATION) lines.add(combinationIds[number]!);
        else lines.add(i === AMOUNT_IN_CURRENCY && Number.isNaN(number) ? null : number);
      }
      for (let i = 0; i < textWidth; i++) lines.add(texts[row * textWidth + i]!);
    }
  }

  /** Journals with a refused line, `entity|number`, are not whole, so nothing more is said about them. */
  noteRefused(journal: string): void {
    if (this.refused.size < FINDINGS_LISTED) this.refused.add(journal);
  }

  isWhole(journal: string): boolean {
    return !this.refused.has(journal);
  }

  /** Whether every journal is balanced, as far as that was followed. */
  get isBalanced(): boolean {
    return !this.read.isOff;
  }

  /** Call when all lines are taken. */
  finish(read: JournalsRead, report: (found: Issue) => void, entityCode: (id: number) => string): void {
    this.lines.flush();
    this.journals.flush();
    this.sums.flush();
    this.read = read;
    const isJoined = read.mayBeTwice && this.joinTwice(report, entityCode);
    if (isJoined || read.mayRepeat) this.reportRepeated(report, entityCode);
  }

  private reportRepeated(report: (found: Issue) => void, entityCode: (id: number) => string): void {
    const rows = this.db
      .prepare(
        `select l.line, min(l.source_line) as first, max(l.source_line) as sourceLine, s.number, s.entity
         from temp.staged_line l join temp.staged_journal s on s.id = l.journal
         group by l.journal, l.line having count(*) > 1 limit ${FINDINGS_LISTED}`,
      )
      .all() as { line: number; first: number; sourceLine: number; number: string; entity: number }[];
    for (const { line, number, entity, first, sourceLine } of rows) {
      const params = { line, journal: number, entity: entityCode(entity), first };
      report(issue('CORE_JOURNAL_LINE_TWICE', params, { file: JOURNALS_FILE, line: sourceLine }));
    }
    this.hasRepeated = rows.length > 0;
  }

  /** Journals whose lines stand far apart may have been begun twice; the later are joined to the first. True if there were any. */
  private joinTwice(report: (found: Issue) => void, entityCode: (id: number) => string): boolean {
    const { db } = this;
    const index = 'create unique index temp.staged_journal_number on staged_journal (entity, fiscal_year, number)';
    try {
      db.exec(index);
      return false;
    } catch {
      // some stand twice
    }
    this.read = { ...this.read, isOff: true };
    db.exec(`
      create table temp.journal_twice as select * from (
        select id, number, entity, kind, min(id) over same as first, first_value(kind) over (same order by id) as first_kind
        from temp.staged_journal window same as (partition by entity, fiscal_year, number)) where id > first;
      create unique index temp.journal_twice_id on journal_twice (id)`);
    const mixed = db
      .prepare(
        `select t.number, t.entity, min(l.source_line) as line from temp.journal_twice t
         join temp.staged_line l on l.journal = t.id where t.kind <> t.first_kind group by t.id limit ${FINDINGS_LISTED}`,
      )
      .all() as { number: string; entity: number; line: number }[];
    for (const { number, entity, line } of mixed)
      report(
        issue(
          'CORE_JOURNAL_KIND_MIXED',
          { journal: number, entity: entityCode(entity) },
          { file: JOURNALS_FILE, line, column: 'kind' },
        ),
      );
    db.exec(`
      update temp.staged_line set journal = (select first from temp.journal_twice t where t.id = journal)
        where journal in (select id from temp.journal_twice);
      delete from temp.staged_journal where id in (select id from temp.journal_twice);
      drop table temp.journal_twice; ${index}`);
    return true;
  }

  /** Lets go of what was set aside; call when nothing more is asked about the delivery. */
  close(): void {
    this.db.exec('drop table temp.staged_line; drop table temp.staged_journal; drop table temp.staged_sum');
  }
}
