import type { AdjustmentsView, NewAdjustment, PostedView } from '@margin-lens/contract';
import { addDays, checkAdjustment, issue, type CheckedAdjustment, type Issue } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireAllValues, requireEntity, type Viewer } from '../../base/viewer';
import { journalsMadeBy, nextAdjustmentNumber, periodsOfJournal, writeAdjustment } from '../../store/adjustments';
import { postJournalsOf } from '../../store/post-journals';
import { requireExactSums } from '../../store/exact-sums';
import { whoAndWhen } from '../../store/people';
import { withdrawn } from '../../store/store';
import { Journal, RevisionRow } from '../../store/tables';
import { issueView } from '../statements/issue-view';
import { openEntity } from '../workspace/open-scope';
import { postingContext, readPostingMasters } from '../workspace/posting-masters';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import type { WorkspaceModel } from '../workspace/workspace-model';
import { BY_HAND } from '../../base/words';

/** What a reversal's number has behind the number of what it reverses. */
const REVERSAL = 'R';

/**
 * The adjustment journals of an entity that were made by hand.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED
 */
export async function adjustmentsView(snapshot: Snapshot, scope: string): Promise<AdjustmentsView> {
  const { filled: model, viewer, em, db } = snapshot;
  const entity = openEntity(model, viewer, scope);
  requireAllValues(viewer);
  const acts = await em.find(RevisionRow, { kind: 'adjust' });
  const reasons = new Map(acts.map(({ id, details }) => [id, details.reason ?? '']));
  const whoOf = await whoAndWhen(em, reasons.keys());
  const { calendar, idOf } = entity.calendar;
  const keyOf = new Map(calendar.periods.map((period) => [idOf(period), period.key]));
  const rows = journalsMadeBy(db, entity.id, [...reasons.keys()]);
  return {
    scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
    accounts: model.accounts
      .filter(({ nature }) => nature !== 'statistic')
      .map(({ number, name }) => ({ number, name })),
    partners: [...model.entities, ...model.partners].map(({ code, name }) => ({ code, name })),
    adjustments: rows.map(({ id, number, since, date, period, amount }) => ({
      journalId: id,
      ...{ number, date, amount },
      period: keyOf.get(period) ?? '',
      reason: reasons.get(since)!,
      ...whoOf(since),
      // both were written by one action, the reversal behind what it reverses
      reversalOf: rows.find((other) => other.since === since && other.id < id)?.number ?? null,
    })),
  };
}

/** Adjustment journals made by hand: in the adjustment basis, balanced, with a reason and an author. */
export class AdjustmentsService {
  constructor(private readonly workspace: Workspace) {}

  /** Posts an adjustment, and its reversal when wanted; nothing is written where anything is wrong. */
  post(viewer: Viewer, adjustment: NewAdjustment): Promise<PostedView> {
    requireEntity(viewer, adjustment.entity);
    requireAllValues(viewer);
    const act = { kind: 'adjust', subject: adjustment.entity, details: { reason: adjustment.reason.trim() } } as const;
    return this.workspace.write<PostedView>(viewer, act, async (write) => {
      const { db, em, snapshot } = write;
      const refused = (issues: readonly Issue[]) =>
        withdrawn<PostedView>({ journals: [], issues: issues.map(issueView) });
      const result = checkAdjustment(adjustment, postingContext(await readPostingMasters(em)));
      if ('issues' in result) return refused(result.issues);
      const { checked } = result;
      const first = { checked, date: adjustment.date };
      const back = adjustment.reverses ? reversalOf(checked) : undefined;
      if (adjustment.reverses && !back) {
        const params = { date: addDays(checked.period.end, 1), calendar: checked.entity.calendar.calendar.code };
        return refused([issue('CORE_JOURNAL_DATE_OUTSIDE', params, { file: 'adjustment', column: 'reverses' })]);
      }
      const journals = [first, ...(back ? [back] : [])];
      const closed = journals.filter((journal) => isClosed(snapshot.model, journal.checked));
      if (closed.length > 0) return refused(closed.map(({ checked: into }) => closedIssue(into)));
      const { entity, period } = checked;
      const number = nextAdjustmentNumber(db, entity.id, period.fiscalYear);
      const made = journals.map((journal, at) => ({ ...journal, number: at === 0 ? number : number + REVERSAL }));
      for (const { checked: into, date, number: its } of made)
        await writeAdjustment(write, {
          ...{ entity: entity.id, number: its, date },
          ...{ fiscalYear: into.period.fiscalYear, period: into.period.id, lines: into.lines },
        });
      postJournalsOf(write, write.revision, 1);
      requireExactSums(db, entity.id);
      return { journals: made.map(({ number: its }) => its), issues: [] };
    });
  }

  /**
   * Takes an adjustment out again, with its reversal; the journals stay as ended rows.
   * @throws SRV_JOURNAL_UNKNOWN when it is none that was made by hand, SRV_PERIOD_CLOSED
   */
  remove(viewer: Viewer, journalId: number): Promise<void> {
    return this.workspace.write(viewer, { kind: 'take_out_adjustment', subject: String(journalId) }, async (write) => {
      const { db, em, snapshot } = write;
      const { model } = snapshot;
      const journal = await em.findOne(Journal, { id: journalId, until: null });
      const act = journal && (await em.findOne(RevisionRow, { id: journal.since, kind: 'adjust' }));
      const entity = model.entities.find(({ id }) => id === journal?.entity);
      if (!journal || !act || !entity) throw appError('SRV_JOURNAL_UNKNOWN', { id: journalId });
      requireEntity(viewer, entity.code);
      const journals = await em.find(Journal, { since: journal.since, until: null });
      const posted = new Set(journals.flatMap(({ id }) => periodsOfJournal(db, id)));
      const { calendar, idOf } = entity.calendar;
      const closed = calendar.periods.find(
        (period) => posted.has(idOf(period)) && model.isClosed(entity.code, period.key),
      );
      if (closed) throw appError('SRV_PERIOD_CLOSED', { period: closed.key, entity: entity.code });
      postJournalsOf(write, journal.since, -1);
      for (const each of journals) each.endBy(write.revision);
    });
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
  const turned = lines.map(({ debit, credit, currencyAmount, ...line }) => ({
    ...line,
    ...{ debit: credit, credit: debit },
    currencyAmount: currencyAmount === null ? null : -currencyAmount,
  }));
  return { checked: { entity, period: next, lines: turned }, date };
}

const isClosed = (model: WorkspaceModel, { entity, period }: CheckedAdjustment): boolean =>
  model.isClosed(entity.code, period.key);

const closedIssue = ({ entity, period }: CheckedAdjustment): Issue =>
  issue(
    'CORE_JOURNAL_PERIOD_CLOSED',
    { journal: BY_HAND, entity: entity.code, period: period.key },
    { file: 'adjustment', column: 'date' },
  );
