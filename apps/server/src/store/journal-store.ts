import type Database from 'better-sqlite3';
import { BASES, formatMinor, issue, JOURNALS_FILE, type Issue } from '@margin-lens/core';
import { LINE_NUMBERS, LINE_TEXTS } from './journal-batch';
import { ADDED_UP, postJournals, type Posting } from './post-journals';
import { FINDINGS_LISTED, type StagedJournals } from './staged-journals';
import { fileWords, LINES_CAME, LINES_GONE } from '../base/words';

const LINE_COLUMNS = [...LINE_NUMBERS, ...LINE_TEXTS];
const COLUMNS = LINE_COLUMNS.join(', ');
/** All columns but the journal, of an aliased line. */
const OTHERS = LINE_COLUMNS.slice(1)
  .map((column) => `l.${column}`)
  .join(', ');
/** What must be equal for a line to be the same line; where it stood in a file does not matter. */
const CONTENT = LINE_COLUMNS.filter((column) => column !== 'source_line').join(', ');

/** What happens to journals that are in the books already and come with other content, or do not come again. */
export interface JournalPolicy {
  /** Replace journals that come changed; otherwise each is an error. */
  replacesChanged: boolean;
  /** The delivery is complete for the entities and months it touches: normal journals it leaves out go. */
  isComplete: boolean;
  /** Closed periods as `entity|period` of their ids, as they stood before the delivery. */
  closed: ReadonlySet<string>;
}

export interface JournalCounts {
  journals: number;
  lines: number;
  unchangedJournals: number;
  changedJournals: number;
  removedJournals: number;
}

/**
 * Brings journals that were set aside into the books, in the transaction that writes them. New ones join the books with
 * their lines, those that are there already are compared with what came. What concerns whole journals is reported.
 */
export class JournalStore {
  readonly counts: JournalCounts = {
    journals: 0,
    lines: 0,
    unchangedJournals: 0,
    changedJournals: 0,
    removedJournals: 0,
  };
  /** First id of a journal that this delivery brings; all from it on are new. */
  readonly firstNew: number;
  private readonly db: Database.Database;
  private readonly revision: number;
  private readonly isFirstLoad: boolean;
  private nextJournal = 0;

  constructor(
    private readonly posting: Posting,
    private readonly staged: StagedJournals,
    private readonly entityOf: (id: number) => EntityFacts,
    private readonly policy: JournalPolicy,
    private readonly report: (found: Issue) => void,
  ) {
    const { db, revision } = posting;
    this.db = db;
    this.revision = revision;
    const highest = db.prepare('select coalesce(max(id), 0) from journal').pluck().get() as number;
    this.firstNew = highest + 1;
    this.isFirstLoad = highest === 0;
  }

  settle(): JournalCounts {
    this.db.exec('create temp table gone_journal (id integer primary key, replaced_by integer)');
    this.reportUnbalanced();
    if (this.isFirstLoad) this.loadFirst();
    else this.join();
    this.post();
    if (!this.isFirstLoad) {
      this.settleChanged();
      if (this.policy.isComplete) this.removeMissing();
      this.endGone();
    }
    return this.counts;
  }

  /** Lets go of what was set aside; call when nothing more is asked about the delivery. */
  close(): void {
    this.staged.close();
    this.db.exec('drop table temp.gone_journal; drop table if exists temp.incoming_line');
  }

  /** Into empty tables all goes as it stands; their indexes are built behind it. */
  private loadFirst(): void {
    const { db, counts } = this;
    const indexes = db
      .prepare("select name, sql from sqlite_master where type = 'index' and tbl_name in ('journal', 'journal_line')")
      .all() as { name: string; sql: string }[];
    for (const { name } of indexes) db.exec(`drop index ${name}`);
    counts.journals = db
      .prepare(
        `insert into journal (id, entity, fiscal_year, number, kind, since)
         select id, entity, fiscal_year, number, kind, ? from temp.staged_journal order by id`,
      )
      .run(this.revision).changes;
    if (!this.staged.hasRepeated) db.exec('insert into journal_line select * from temp.staged_line');
    counts.lines = this.staged.lineCount;
    for (const { sql } of indexes) db.exec(sql);
    this.reportClosed();
  }

  /** Tells which journals the books hold already, and brings the others in with their lines. */
  private join(): void {
    const { db, counts } = this;
    db.exec(
      `update temp.staged_journal as s set held = (select id from journal j where j.entity = s.entity
         and j.fiscal_year = s.fiscal_year and j.number = s.number and j.until is null)`,
    );
    this.reportMixed();
    this.reportClosed();
    const before = this.firstNew - 1;
    counts.journals = db
      .prepare(
        `insert into journal (id, entity, fiscal_year, number, kind, since)
         select id + ?, entity, fiscal_year, number, kind, ? from temp.staged_journal where held is null order by id`,
      )
      .run(before, this.revision).changes;
    this.nextJournal = db.prepare('select max(id) + 1 from journal').pluck().get() as number;
    db.exec(
      `create temp table incoming_line as select s.held as journal, ${OTHERS} from temp.staged_line l
         join temp.staged_journal s on s.id = l.journal where s.held is not null`,
    );
    counts.lines = this.staged.lineCount - (db.prepare('select count(*) from incoming_line').pluck().get() as number);
    if (this.staged.hasRepeated) return;
    db.prepare(
      `insert into journal_line (${COLUMNS}) select l.journal + ?, ${OTHERS} from temp.staged_line l
       where l.journal in (select id from temp.staged_journal where held is null)`,
    ).run(before);
  }

  /** Adds the sums of the new journals to the balances: those of all that came, less those that are there already. */
  private post(): void {
    const { db, counts, posting, revision } = this;
    if (counts.journals === 0) return;
    posting.touches.add('ledger');
    if (!this.isFirstLoad)
      db.exec(
        `insert into temp.staged_sum (entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
         select l.entity, l.period, l.account, l.combination, l.basis, s.kind, -sum(l.debit), -sum(l.credit), -sum(l.quantity)
         from temp.staged_line l join temp.staged_journal s on s.id = l.journal where s.held is not null
         group by 1, 2, 3, 4, 5, 6 ${ADDED_UP}`,
      );
    const sums = 'from temp.staged_sum where debit <> 0 or credit <> 0 or quantity <> 0';
    db.exec(`
      insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
        select 0, entity, period, account, combination, basis, entry_kind, debit, credit, quantity ${sums} ${ADDED_UP};
      insert or ignore into first_posting (entity, period, revision) select distinct entity, period, ${revision} ${sums}`);
  }

  private reportMixed(): void {
    const mixed = this.db
      .prepare(
        `select s.number, s.entity, min(l.source_line) as line from temp.staged_journal s join journal j on j.id = s.held
         join temp.staged_line l on l.journal = s.id where j.kind <> s.kind group by s.id limit ${FINDINGS_LISTED}`,
      )
      .all() as { number: string; entity: number; line: number }[];
    for (const { number, entity, line } of mixed) {
      const params = { journal: number, entity: this.entityOf(entity).code };
      this.report(issue('CORE_JOURNAL_KIND_MIXED', params, { file: JOURNALS_FILE, line, column: 'kind' }));
    }
  }

  /** Lines of new journals in closed periods. */
  private reportClosed(): void {
    const { closed } = this.policy;
    const months = this.db.prepare("select distinct entity || '|' || period from temp.staged_sum").pluck().all();
    if (!months.some((month) => closed.has(month as string))) return;
    const rows = this.db
      .prepare(
        `select s.number, l.entity, l.period, l.source_line as sourceLine from temp.staged_line l
         join temp.staged_journal s on s.id = l.journal
         where s.held is null and l.entity || '|' || l.period in (select value from json_each(?)) limit ${FINDINGS_LISTED}`,
      )
      .all(JSON.stringify([...closed])) as ClosedLine[];
    for (const row of rows) this.report(this.closedPeriod(row));
  }

  private closedPeriod({ number, entity, period, sourceLine }: ClosedLine): Issue {
    const key = this.db
      .prepare(`select printf('FY%d-P%02d', fiscal_year, period) from fiscal_period where id = ? and until is null`)
      .pluck()
      .get(period) as string;
    const params = { journal: number, entity: this.entityOf(entity).code, period: key };
    return issue('CORE_JOURNAL_PERIOD_CLOSED', params, { file: JOURNALS_FILE, line: sourceLine });
  }

  private reportUnbalanced(): void {
    if (this.staged.isBalanced) return;
    const off = this.db
      .prepare(
        `select l.basis, sum(l.debit) - sum(l.credit) as difference, min(l.source_line) as sourceLine,
           max(l.source_line) as lastLine, s.number, s.entity
         from temp.staged_line l join temp.staged_journal s on s.id = l.journal
         group by l.journal, l.basis having difference <> 0 limit ${FINDINGS_LISTED}`,
      )
      .all() as {
      basis: number;
      difference: number;
      sourceLine: number;
      lastLine: number;
      number: string;
      entity: number;
    }[];
    for (const row of off.filter((journal) => this.isWhole(journal))) {
      const { code, currency, digits } = this.entityOf(row.entity);
      const difference = formatMinor(row.difference, digits);
      const lines =
        row.sourceLine === row.lastLine
          ? fileWords.line(row.sourceLine)
          : fileWords.lines(row.sourceLine, row.lastLine);
      const params = { journal: row.number, entity: code, difference, currency, basis: BASES[row.basis]!, lines };
      this.report(issue('CORE_JOURNAL_UNBALANCED', params, { file: JOURNALS_FILE, line: row.sourceLine }));
    }
  }

  private isWhole({ number, entity }: { number: string; entity: number }): boolean {
    return this.staged.isWhole(`${this.entityOf(entity).code}|${number}`);
  }

  /** Compares journals that were in the books with what came, and replaces or reports those that differ. */
  private settleChanged(): void {
    const brought = this.db.prepare('select count(distinct journal) from temp.incoming_line').pluck().get() as number;
    if (brought === 0) return;
    const changed = this.changedJournals();
    this.counts.unchangedJournals = brought - changed.length;
    if (this.policy.replacesChanged) changed.forEach(({ journal }) => this.replace(journal));
    else changed.filter((row) => this.isWhole(row)).forEach((row) => this.report(changedJournal(row, this.entityOf)));
  }

  private changedJournals(): ChangedJournal[] {
    const old = 'select journal from temp.incoming_line';
    const stored = `select ${CONTENT} from journal_line where journal in (${old})`;
    const now = `select ${CONTENT} from temp.incoming_line`;
    return this.db
      .prepare(
        `with gone as (${stored} except ${now}), came as (${now} except ${stored})
         select j.number, j.entity, j.fiscal_year as year, d.journal,
           (select count(*) from gone g where g.journal = d.journal) as gone,
           (select count(*) from came c where c.journal = d.journal) as came,
           (select min(source_line) from temp.incoming_line i where i.journal = d.journal) as sourceLine
         from (select journal from gone union select journal from came) d join journal j on j.id = d.journal
         order by d.journal`,
      )
      .all() as ChangedJournal[];
  }

  /** Gives a journal its new lines under a new row; the old row ends with this revision, before another has its number. */
  private replace(journal: number): void {
    const { db, revision } = this;
    const id = this.nextJournal++;
    this.counts.changedJournals++;
    db.prepare('update journal set until = ? where id = ?').run(revision, journal);
    db.prepare(
      `insert into journal (id, entity, fiscal_year, number, kind, since)
       select ?, entity, fiscal_year, number, kind, ? from journal where id = ?`,
    ).run(id, revision, journal);
    db.prepare(
      `insert into journal_line (${COLUMNS}) select ?, ${OTHERS} from temp.incoming_line l where l.journal = ?`,
    ).run(id, journal);
    db.prepare('insert into temp.gone_journal values (?, ?)').run(journal, id);
  }

  private removeMissing(): void {
    const touched = `select entity, period from temp.staged_line`;
    const { changes } = this.db
      .prepare(
        `insert into temp.gone_journal (id)
         select j.id from journal j where j.until is null and j.kind = 0 and j.id < ?
           and j.id not in (select journal from temp.incoming_line)
           and exists (select 1 from journal_line l where l.journal = j.id and l.basis = 0)
           and not exists (select 1 from journal_line l where l.journal = j.id and (l.entity, l.period) not in (${touched}))
         on conflict do nothing`,
      )
      .run(this.firstNew);
    this.counts.removedJournals = changes;
  }

  /** Ends the journals that were replaced or left out, and takes them out of the balances. */
  private endGone(): void {
    const { db, policy, posting } = this;
    if (!db.prepare('select 1 from temp.gone_journal limit 1').get()) return;
    const moved = db
      .prepare(
        `select distinct j.number, l.entity, l.period, l.source_line as sourceLine
         from (select id from temp.gone_journal
           union select replaced_by from temp.gone_journal where replaced_by is not null) g
         cross join journal_line l on l.journal = g.id join journal j on j.id = g.id`,
      )
      .all() as ClosedLine[];
    const said = new Set<string>();
    for (const line of moved) {
      const key = `${line.number}|${line.entity}|${line.period}`;
      if (!policy.closed.has(`${line.entity}|${line.period}`) || said.has(key)) continue;
      said.add(key);
      this.report(this.closedPeriod(line));
    }
    db.prepare('update journal set until = ? where id in (select id from temp.gone_journal)').run(this.revision);
    postJournals(posting, 'select id from temp.gone_journal', -1);
    postJournals(posting, 'select replaced_by from temp.gone_journal', 1);
  }
}

interface ClosedLine {
  number: string;
  entity: number;
  period: number;
  sourceLine: number;
}

interface ChangedJournal {
  number: string;
  entity: number;
  year: number;
  journal: number;
  gone: number;
  came: number;
  sourceLine: number;
}

function changedJournal(row: ChangedJournal, entityOf: (id: number) => EntityFacts): Issue {
  const what = [countedLines(row.gone, LINES_GONE), countedLines(row.came, LINES_CAME)].filter(Boolean).join(', ');
  const params = { journal: row.number, entity: entityOf(row.entity).code, year: `FY${row.year}`, what };
  return issue('CORE_JOURNAL_CHANGED', params, { file: JOURNALS_FILE, line: row.sourceLine });
}

export interface EntityFacts {
  code: string;
  currency: string;
  digits: number;
}

const countedLines = (count: number, words: string) =>
  count === 0 ? '' : `${count} ${count === 1 ? 'line is' : 'lines are'} ${words}`;
