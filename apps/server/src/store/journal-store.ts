import type Database from 'better-sqlite3';
import { BASES, formatMinor, issue, JOURNALS_FILE, type Issue } from '@margin-lens/core';
import { postJournals, type BalanceLedger, type Posting } from './balance-ledger';
import type { DeliveredLine } from './journal-batch';
import { RowBatch } from './row-batch';

const LINE_COLUMNS = [
  'journal',
  'line',
  'date',
  'entity',
  'period',
  'account',
  'basis',
  'debit',
  'credit',
  'currency',
  'currency_amount',
  'quantity',
  'combination',
  'description',
  'document',
  'source_line',
] as const;
/** What must be equal for a line to be the same line; where it stood in a file does not matter. */
const CONTENT = LINE_COLUMNS.filter((column) => column !== 'source_line').join(', ');

const JOURNAL_KEY = 'journal_entity_fiscal_year_number_since_unique';
/** A number once among the journals that hold. */
const CURRENT_KEY = 'journal_current_number';

/** Journals remembered by key; beyond it they are forgotten, so that memory stays bounded. */
const JOURNALS_HELD = 200_000;
/** Findings of one kind looked up at the end of a delivery. */
const FINDINGS_LISTED = 2000;

/** What happens to journals that are in the books already and come with other content, or do not come again. */
export interface JournalPolicy {
  /** Replace journals that come changed; otherwise each is an error. */
  replacesChanged: boolean;
  /** The delivery is complete for the entities and months it touches: normal journals it leaves out go. */
  isComplete: boolean;
  /** Closed periods as `entity|period` of their ids, as they stood before the delivery. */
  closed: ReadonlySet<string>;
}

interface KnownJournal {
  id: number;
  kind: number;
  /** True when an earlier delivery brought it. */
  isOld: boolean;
}

/**
 * Writes journals and their lines as they come, whether or not a journal's lines are adjacent.
 *
 * The first load goes straight into the table, whose indexes are built at the end. Later deliveries are set aside
 * first: lines of new journals then join the books, lines of journals already there are compared with them.
 */
export class JournalStore {
  readonly counts = { journals: 0, lines: 0, unchangedJournals: 0, changedJournals: 0, removedJournals: 0 };
  private readonly db: Database.Database;
  private readonly revision: number;
  private readonly byKey = new Map<string, KnownJournal>();
  private readonly lines: RowBatch;
  private readonly incoming: RowBatch;
  private readonly journals: RowBatch;
  private nextJournal: number;
  private readonly findJournal: Database.Statement;
  private readonly end: Database.Statement;
  private readonly firstNewId: number;
  private readonly isFirstLoad: boolean;
  private readonly refused = new Set<string>();
  private readonly offBy = new Map<number, number>();
  /** Set when following could not tell, so that every journal of the delivery is added up at the end. */
  private mustCheckAll = false;

  constructor(
    private readonly posting: Posting,
    private readonly balances: BalanceLedger,
    private readonly entityOf: (id: number) => EntityFacts,
    private readonly policy: JournalPolicy,
  ) {
    const { db, revision } = posting;
    this.db = db;
    this.revision = revision;
    const highest = db.prepare('select coalesce(max(id), 0) as id from journal').get() as { id: number };
    this.firstNewId = highest.id + 1;
    this.isFirstLoad = highest.id === 0;
    this.nextJournal = this.firstNewId;
    if (this.isFirstLoad)
      db.exec(
        `drop index ${JOURNAL_KEY}; drop index ${CURRENT_KEY}; drop index journal_line_of_journal; drop index journal_line_of_account`,
      );
    db.exec('create temp table gone_journal (id integer primary key, replaced_by integer)');
    db.exec(`create temp table incoming_line as select ${LINE_COLUMNS.join(', ')} from journal_line where 0`);
    this.lines = new RowBatch(db, 'insert into journal_line', LINE_COLUMNS);
    this.incoming = new RowBatch(db, 'insert into temp.incoming_line', LINE_COLUMNS);
    this.journals = new RowBatch(db, 'insert into journal', ['id', 'entity', 'fiscal_year', 'number', 'kind', 'since']);
    this.end = db.prepare('update journal set until = ? where id = ?');
    this.findJournal = db.prepare(
      'select id, kind from journal where entity = ? and fiscal_year = ? and number = ? and until is null',
    );
  }

  /** Journals with a refused line are not whole, so nothing more is said about them. */
  noteRefused(journal: string): void {
    if (this.refused.size < FINDINGS_LISTED) this.refused.add(journal);
  }

  private isWhole({ number, entity }: { number: string; entity: number }): boolean {
    return !this.refused.has(`${this.entityOf(entity).code}|${number}`);
  }

  /** Takes a line; the finding when its journal is of another kind than the line. */
  add(line: DeliveredLine, combination: number): Issue | undefined {
    const journal = this.journalOf(line);
    const { entity, period, account, basis, kind, debit, credit, quantity, currencyAmount, sourceLine } = line;
    if (journal.kind !== kind) {
      const params = { journal: line.journal, entity: this.entityOf(entity).code };
      return issue('CORE_JOURNAL_KIND_MIXED', params, { file: JOURNALS_FILE, line: sourceLine, column: 'kind' });
    }
    const into = this.isFirstLoad ? this.lines : this.incoming;
    into.add(
      journal.id,
      line.lineNumber,
      line.date,
      entity,
      period,
      account,
      basis,
      debit,
      credit,
      line.currency,
      Number.isNaN(currencyAmount) ? null : currencyAmount,
      quantity,
      combination,
      line.description,
      line.document,
      sourceLine,
    );
    if (journal.isOld) return undefined;
    if (this.policy.closed.has(`${entity}|${period}`))
      return this.closedPeriod(line.journal, entity, period, sourceLine);
    this.counts.lines++;
    this.follow(journal.id * BASES.length + basis, debit - credit);
    this.balances.add(0, entity, account, period, combination, basis, kind, debit, credit, quantity);
    return undefined;
  }

  private closedPeriod(journal: string, entity: number, period: number, line: number): Issue {
    const { key } = this.db
      .prepare(
        `select printf('FY%d-P%02d', fiscal_year, period) as key from fiscal_period where id = ? and until is null`,
      )
      .get(period) as { key: string };
    const params = { journal, entity: this.entityOf(entity).code, period: key };
    return issue('CORE_JOURNAL_PERIOD_CLOSED', params, { file: JOURNALS_FILE, line });
  }

  /** Keeps what each journal is off by in each basis while it is off; most are balanced again after a few lines. */
  private follow(key: number, amount: number): void {
    const off = (this.offBy.get(key) ?? 0) + amount;
    if (off === 0) this.offBy.delete(key);
    else if (this.offBy.size < JOURNALS_HELD) this.offBy.set(key, off);
    else this.mustCheckAll = true;
  }

  private journalOf(line: DeliveredLine): KnownJournal {
    const key = `${line.entity}|${line.fiscalYear}|${line.journal}`;
    const held = this.byKey.get(key);
    if (held) return held;
    const stored = this.isFirstLoad ? undefined : this.storedJournal(line);
    const journal = stored ? { ...stored, isOld: stored.id < this.firstNewId } : this.makeJournal(line);
    if (this.byKey.size >= JOURNALS_HELD) {
      this.byKey.clear();
      this.journals.flush();
    }
    this.byKey.set(key, journal);
    return journal;
  }

  private storedJournal(line: DeliveredLine): { id: number; kind: number } | undefined {
    return this.findJournal.get(line.entity, line.fiscalYear, line.journal) as { id: number; kind: number } | undefined;
  }

  private makeJournal(line: DeliveredLine): KnownJournal {
    const id = this.nextJournal++;
    this.journals.add(id, line.entity, line.fiscalYear, line.journal, line.kind, this.revision);
    this.counts.journals++;
    return { id, kind: line.kind, isOld: false };
  }

  /** Writes what is left, builds the indexes, and reports what concerns whole journals. */
  finish(report: (found: Issue) => void): void {
    this.journals.flush();
    this.lines.flush();
    this.incoming.flush();
    this.balances.flush();
    if (this.isFirstLoad) this.joinJournals();
    const repeated = this.settleLines();
    repeated.forEach((row) => report(repeatedLine(row, this.entityOf)));
    this.reportUnbalanced(report);
    this.settleChanged(report);
    if (this.policy.isComplete && !this.isFirstLoad) this.removeMissing();
    this.endGone(report);
  }

  /** First id of a journal that this delivery brought; all from it on are new. */
  get firstNew(): number {
    return this.firstNewId;
  }

  /**
   * A first load does not look journals up: one whose lines stand far apart was begun twice, and is joined here. The
   * unique index tells whether there is such a one.
   */
  private joinJournals(): void {
    const columns = 'entity, fiscal_year, number';
    const index = `create unique index ${JOURNAL_KEY} on journal (${columns}, since);
      create unique index ${CURRENT_KEY} on journal (${columns}) where until is null`;
    try {
      this.db.exec(index);
    } catch {
      this.mustCheckAll = true;
      this.db.exec(`
        create temp table journal_twice as
          select j.id, f.first from journal j join
            (select entity, fiscal_year, number, min(id) as first from journal group by 1, 2, 3 having count(*) > 1) f
            on f.entity = j.entity and f.fiscal_year = j.fiscal_year and f.number = j.number where j.id > f.first;
        create unique index temp.journal_twice_id on journal_twice (id);
        update journal_line set journal = (select first from temp.journal_twice t where t.id = journal)
          where journal in (select id from temp.journal_twice);
        delete from journal where id in (select id from temp.journal_twice)`);
      this.counts.journals -= (
        this.db.prepare('select count(*) as n from temp.journal_twice').get() as { n: number }
      ).n;
      this.db.exec(`drop table temp.journal_twice; ${index}`);
    }
  }

  /** Brings the lines into their table with its indexes; the lines that stand twice, if any, hinder that. */
  private settleLines(): RepeatedLine[] {
    if (this.isFirstLoad) {
      this.db.exec('create index journal_line_of_account on journal_line (account, entity, period)');
      try {
        this.db.exec('create unique index journal_line_of_journal on journal_line (journal, line)');
        return [];
      } catch {
        return this.listRepeated('journal_line');
      }
    }
    const repeated = this.listRepeated('temp.incoming_line');
    const columns = LINE_COLUMNS.join(', ');
    if (repeated.length === 0) {
      this.db
        .prepare(`insert into journal_line (${columns}) select ${columns} from temp.incoming_line where journal >= ?`)
        .run(this.firstNewId);
    }
    this.db.prepare('delete from temp.incoming_line where journal >= ?').run(this.firstNewId);
    return repeated;
  }

  private listRepeated(table: string): RepeatedLine[] {
    return this.db
      .prepare(
        `select l.line, min(l.source_line) as first, max(l.source_line) as sourceLine, j.number, j.entity from ${table} l join journal j on j.id = l.journal
         group by l.journal, l.line having count(*) > 1 limit ${FINDINGS_LISTED}`,
      )
      .all() as RepeatedLine[];
  }

  private reportUnbalanced(report: (found: Issue) => void): void {
    if (this.offBy.size === 0 && !this.mustCheckAll) return;
    const off = this.db
      .prepare(
        `select l.basis, sum(l.debit) - sum(l.credit) as difference, min(l.source_line) as sourceLine,
           max(l.source_line) as lastLine, j.number, j.entity
         from journal_line l join journal j on j.id = l.journal where l.journal >= ?
         group by l.journal, l.basis having difference <> 0 limit ${FINDINGS_LISTED}`,
      )
      .all(this.firstNewId) as {
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
        row.sourceLine === row.lastLine ? `line ${row.sourceLine}` : `lines ${row.sourceLine}–${row.lastLine}`;
      const params = { journal: row.number, entity: code, difference, currency, basis: BASES[row.basis]!, lines };
      report(issue('CORE_JOURNAL_UNBALANCED', params, { file: JOURNALS_FILE, line: row.sourceLine }));
    }
  }

  /** Compares journals that were in the books with what came, and replaces or reports those that differ. */
  private settleChanged(report: (found: Issue) => void): void {
    const brought = this.db.prepare('select count(distinct journal) as n from temp.incoming_line').get() as {
      n: number;
    };
    const changed = this.changedJournals();
    this.counts.unchangedJournals = brought.n - changed.length;
    if (this.policy.replacesChanged) changed.forEach(({ journal }) => this.replace(journal));
    else changed.filter((row) => this.isWhole(row)).forEach((row) => report(changedJournal(row, this.entityOf)));
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
    const id = this.nextJournal++;
    this.counts.changedJournals++;
    this.end.run(this.revision, journal);
    this.db
      .prepare(
        `insert into journal (id, entity, fiscal_year, number, kind, since)
         select ?, entity, fiscal_year, number, kind, ? from journal where id = ?`,
      )
      .run(id, this.revision, journal);
    const others = LINE_COLUMNS.filter((column) => column !== 'journal').join(', ');
    this.db
      .prepare(
        `insert into journal_line (journal, ${others}) select ?, ${others} from temp.incoming_line where journal = ?`,
      )
      .run(id, journal);
    this.db.prepare('insert into temp.gone_journal values (?, ?)').run(journal, id);
  }

  private removeMissing(): void {
    const touched = `select entity, period from journal_line where journal >= ${this.firstNewId}
      union select entity, period from temp.incoming_line`;
    const { changes } = this.db
      .prepare(
        `insert into temp.gone_journal (id)
         select j.id from journal j where j.until is null and j.kind = 0 and j.id < ?
           and j.id not in (select journal from temp.incoming_line)
           and exists (select 1 from journal_line l where l.journal = j.id and l.basis = 0)
           and not exists (select 1 from journal_line l where l.journal = j.id and (l.entity, l.period) not in (${touched}))
         on conflict do nothing`,
      )
      .run(this.firstNewId);
    this.counts.removedJournals = changes;
  }

  /** Ends the journals that were replaced or left out, and takes them out of the balances. */
  private endGone(report: (found: Issue) => void): void {
    const gone = this.db
      .prepare(
        `select distinct j.number, l.entity, l.period, l.source_line as sourceLine from temp.gone_journal g
         join journal_line l on l.journal = g.id join journal j on j.id = g.id`,
      )
      .all() as { number: string; entity: number; period: number; sourceLine: number }[];
    for (const { number, entity, period, sourceLine } of gone) {
      if (this.policy.closed.has(`${entity}|${period}`)) report(this.closedPeriod(number, entity, period, sourceLine));
    }
    this.db.prepare('update journal set until = ? where id in (select id from temp.gone_journal)').run(this.revision);
    if (gone.length === 0) return;
    postJournals(this.posting, 'select id from temp.gone_journal', -1);
    postJournals(this.posting, 'select replaced_by from temp.gone_journal', 1);
  }

  /** Lets go of what was set aside; call when nothing more is asked about the delivery. */
  close(): void {
    this.db.exec('drop table temp.incoming_line; drop table temp.gone_journal');
  }
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
  const what = [countedLines(row.gone, 'gone or changed'), countedLines(row.came, 'new or changed')]
    .filter(Boolean)
    .join(', ');
  const params = { journal: row.number, entity: entityOf(row.entity).code, year: `FY${row.year}`, what };
  return issue('CORE_JOURNAL_CHANGED', params, { file: JOURNALS_FILE, line: row.sourceLine });
}

export interface EntityFacts {
  code: string;
  currency: string;
  digits: number;
}

interface RepeatedLine {
  line: number;
  first: number;
  sourceLine: number;
  number: string;
  entity: number;
}

const countedLines = (count: number, words: string) =>
  count === 0 ? '' : `${count} ${count === 1 ? 'line is' : 'lines are'} ${words}`;

const repeatedLine = (row: RepeatedLine, entityOf: (id: number) => EntityFacts): Issue =>
  issue(
    'CORE_JOURNAL_LINE_TWICE',
    { line: row.line, journal: row.number, entity: entityOf(row.entity).code, first: row.first },
    { file: JOURNALS_FILE, line: row.sourceLine },
  );
