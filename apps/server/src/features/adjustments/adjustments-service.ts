import type Database from 'better-sqlite3';
import type { AdjustmentsView, AdjustmentView, NewAdjustment, PostedView } from '@margin-lens/contract';
import {
  addDays,
  BASES,
  checkAdjustment,
  COMBINATION_SEPARATOR,
  issue,
  type CheckedAdjustment,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { newRevision } from '../../store/new-revision';
import { requireEntity, requireRight, type Viewer } from '../../base/viewer';
import { foreignContext } from '../foreign/foreign-context';
import { postJournals } from '../../store/balance-ledger';
import { requireExactSums } from '../../store/exact-sums';
import { openConnection } from '../../store/open-connection';
import { issueView } from '../statements/issue-view';
import { openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';

const ADJUSTMENT = BASES.indexOf('adjustment');
/** Actions of revisions that made adjustments by hand; those of deliveries have other ones. */
const ACTION = 'adjustment: ';
const REVERSAL = 'R';

/** Adjustment journals made by hand: in the adjustment basis, balanced, with a reason and an author. */
export class AdjustmentsService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly databaseFile: string,
  ) {}

  /** @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED */
  async list(viewer: Viewer, scope: string): Promise<AdjustmentsView> {
    const model = await this.workspace.books();
    const entity = openScope(model, viewer, scope);
    const rows = await this.workspace
      .em()
      .getConnection()
      .execute<Omit<AdjustmentView, 'reversalOf'>[]>(
        `select j.id as journalId, j.number, min(l.date) as date, printf('FY%d-P%02d', p.fiscal_year, p.period) as period,
           substr(r.action, ${ACTION.length + 1}) as reason, r.person, r.at, sum(l.debit) as amount
         from journal j join workspace_revision r on r.id = j.since and r.action like '${ACTION}%'
         join journal_line l on l.journal = j.id join fiscal_period p on p.id = l.period and p.until is null
         where j.entity = ? and j.until is null group by j.id order by j.id desc`,
        [entity.id],
      );
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      accounts: model.accounts
        .filter(({ nature }) => nature !== 'statistic')
        .map(({ number, name }) => ({ number, name })),
      adjustments: rows.map((row) => ({
        ...row,
        reversalOf: row.number.endsWith(REVERSAL) ? row.number.slice(0, -REVERSAL.length) : null,
      })),
    };
  }

  /** Posts an adjustment, and its reversal when wanted; nothing is written where anything is wrong. */
  post(viewer: Viewer, adjustment: NewAdjustment): PostedView {
    requireRight(viewer, 'adjust');
    requireEntity(viewer, adjustment.entity);
    const db = openConnection(this.databaseFile);
    try {
      const { postings } = foreignContext(db);
      const result = checkAdjustment(adjustment, postings);
      if ('issues' in result) return { journals: [], issues: result.issues.map(issueView) };
      const { checked } = result;
      const first = { checked, date: adjustment.date };
      const back = adjustment.reverses ? reversalOf(checked) : undefined;
      if (adjustment.reverses && !back) {
        const params = { date: addDays(checked.period.end, 1), calendar: checked.entity.calendar.calendar.code };
        return {
          journals: [],
          issues: [issueView(issue('CORE_JOURNAL_DATE_OUTSIDE', params, { file: 'adjustment', column: 'reverses' }))],
        };
      }
      const closed = [first, ...(back ? [back] : [])].filter((journal) => isClosed(db, journal.checked));
      if (closed.length > 0) {
        const found = closed.map(({ checked: { entity, period } }) =>
          issue(
            'CORE_JOURNAL_PERIOD_CLOSED',
            { journal: 'by hand', entity: entity.code, period: period.key },
            { file: 'adjustment', column: 'date' },
          ),
        );
        return { journals: [], issues: found.map(issueView) };
      }
      return db
        .transaction(() => {
          const revision = newRevision(db, viewer.name, ACTION + adjustment.reason.trim());
          const number = nextNumber(db, checked);
          write(db, first, number, revision);
          if (back) write(db, back, number + REVERSAL, revision);
          postJournals(db, `select id from journal where since = ${revision}`, 1);
          requireExactSums(db, checked.entity.id);
          return { journals: back ? [number, number + REVERSAL] : [number], issues: [] };
        })
        .immediate();
    } finally {
      db.close();
    }
  }

  /**
   * Takes an adjustment out again, with its reversal; the journals stay as ended rows.
   * @throws SRV_JOURNAL_UNKNOWN when it is none that was made by hand, SRV_PERIOD_CLOSED
   */
  remove(viewer: Viewer, journalId: number): void {
    requireRight(viewer, 'adjust');
    const db = openConnection(this.databaseFile);
    try {
      db.transaction(() => {
        const found = db
          .prepare(
            `select j.since, j.number, e.code from journal j join entity e on e.id = j.entity and e.until is null
             join workspace_revision r on r.id = j.since and r.action like '${ACTION}%' where j.id = ? and j.until is null`,
          )
          .get(journalId) as { since: number; number: string; code: string } | undefined;
        if (!found) throw appError('SRV_JOURNAL_UNKNOWN', { id: journalId });
        requireEntity(viewer, found.code);
        const closed = db
          .prepare(
            `select s.period from journal j join journal_line l on l.journal = j.id
             join fiscal_period p on p.id = l.period and p.until is null
             join period_status s on s.entity = ? and s.period = printf('FY%d-P%02d', p.fiscal_year, p.period)
               and s.until is null and s.status = 'closed'
             where j.since = ? and j.until is null limit 1`,
          )
          .get(found.code, found.since) as { period: string } | undefined;
        if (closed) throw appError('SRV_PERIOD_CLOSED', { period: closed.period, entity: found.code });
        postJournals(db, `select id from journal where since = ${found.since} and until is null`, -1);
        const revision = newRevision(db, viewer.name, `take out ${ACTION}${found.number}`);
        db.prepare('update journal set until = ? where since = ? and until is null').run(revision, found.since);
      }).immediate();
    } finally {
      db.close();
    }
  }
}

interface DatedJournal {
  checked: CheckedAdjustment;
  date: string;
}

/** The opposite on the first day of the next regular period; undefined where the calendar ends. */
function reversalOf({ entity, period, lines }: CheckedAdjustment): DatedJournal | undefined {
  const date = addDays(period.end, 1);
  const next = entity.calendar.ofDate(date);
  if (!next) return undefined;
  const turned = lines.map(({ debit, credit, ...line }) => ({ ...line, debit: credit, credit: debit }));
  return { checked: { entity, period: next, lines: turned }, date };
}

const isClosed = (db: Database.Database, { entity, period }: CheckedAdjustment): boolean =>
  db
    .prepare(`select 1 from period_status where entity = ? and period = ? and status = 'closed' and until is null`)
    .get(entity.code, period.key) !== undefined;

/**
 * The number behind the highest of the entity's fiscal year, also of those taken out or brought back by a package;
 * numbers of more than twelve digits, which only a package can bring, are passed over.
 */
function nextNumber(db: Database.Database, { entity, period }: CheckedAdjustment): string {
  const { highest } = db
    .prepare(
      `select coalesce(max(cast(substr(number, 5) as integer)), 0) as highest from journal
       where entity = ? and fiscal_year = ? and number glob 'ADJ-[0-9]*'
         and length(number) <= 17`,
    )
    .get(entity.id, period.fiscalYear) as { highest: number };
  return `ADJ-${String(highest + 1).padStart(4, '0')}`;
}

function write(db: Database.Database, { checked, date }: DatedJournal, number: string, revision: number): void {
  const { entity, period, lines } = checked;
  const empty = COMBINATION_SEPARATOR;
  db.prepare('insert into combination (parts) values (?) on conflict do nothing').run(empty);
  const { id: combination } = db.prepare('select id from combination where parts = ?').get(empty) as { id: number };
  const journal = db
    .prepare('insert into journal (entity, fiscal_year, number, kind, since) values (?, ?, ?, 0, ?)')
    .run(entity.id, period.fiscalYear, number, revision).lastInsertRowid;
  const insert = db.prepare(
    `insert into journal_line (journal, line, date, entity, period, account, basis, debit, credit, currency, quantity,
       combination, description, document, source_line) values (?, ?, ?, ?, ?, ?, ${ADJUSTMENT}, ?, ?, ?, 0, ?, ?, '', ?)`,
  );
  lines.forEach(({ account, debit, credit, description }, index) =>
    insert.run(
      journal,
      index + 1,
      date,
      entity.id,
      period.id,
      account,
      debit,
      credit,
      entity.currency,
      combination,
      description,
      index + 1,
    ),
  );
}
