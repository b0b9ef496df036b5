import type { JournalView } from '@margin-lens/contract';
import { BASES, inWords, isReadIn, JOURNAL_KINDS } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireEntity } from '../../base/viewer';
import { attributeList } from '../../store/attributes';
import { linesOfJournal, type JournalLineRow } from '../../store/postings';
import { whoAndWhen } from '../../store/people';
import { actInWords } from '../../store/revision';
import { ImportRun, Journal, RevisionRow } from '../../store/tables';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';
import { journalSources } from './journal-sources';
import { lateFrom } from './late-postings';

/**
 * A whole journal with its lines and where it came from.
 * @throws SRV_JOURNAL_UNKNOWN when it is not in the books
 */
export async function journalView(snapshot: Snapshot, id: number): Promise<JournalView> {
  const { db, em, viewer, filled: model } = snapshot;
  const journal = await em.findOne(Journal, { id, until: null });
  const entity = journal && model.entities.find((candidate) => candidate.id === journal.entity);
  if (!journal || !entity) throw appError('SRV_JOURNAL_UNKNOWN', { id });
  requireEntity(viewer, entity.code);
  const books = await snapshot.books();
  const all = linesOfJournal(db, id);
  const seen = books.linesMeeting(entity, []);
  const lines = seen ? all.filter(isReadIn(seen)) : all;
  if (lines.length === 0 && all.length > 0) throw appError('SRV_JOURNAL_UNKNOWN', { id });
  const accountOf = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
  const revision = await em.findOneOrFail(RevisionRow, { id: journal.since });
  const run = await em.findOne(ImportRun, { revision: journal.since });
  const who = await whoAndWhen(em, [journal.since]);
  const { number, fiscalYear } = journal;
  const sources = await journalSources(em, { entity, number, fiscalYear, lines });
  const hiddenLines = all.length - lines.length;
  const isBroughtBack = revision.kind === 'undo_import';
  return {
    id,
    entity: { code: entity.code, name: entity.name },
    number,
    kind: JOURNAL_KINDS[journal.kind]!,
    fiscalYear,
    currency: { code: entity.currency.code, digits: entity.currency.digits },
    lateBecause: isBroughtBack ? null : await lateReason(snapshot, entity, journal.since, lines),
    broughtBy: {
      fileName: run?.fileName ?? null,
      reason: run ? null : actInWords(revision),
      ...who(journal.since),
    },
    hiddenLines,
    documents: sources.documents,
    files: hiddenLines > 0 ? [] : sources.files,
    lines: lines.map(({ parts, basis, account, period: _, combination: __, ...line }) => ({
      ...line,
      account: accountOf.get(account)!.number,
      accountName: accountOf.get(account)!.name,
      basis: BASES[basis]!,
      attributes: attributeList(parts).map(({ name, value }) => ({
        name,
        value,
        text: name === 'partner' ? model.partnerName(value) : inWords(value),
      })),
    })),
  };
}

/** Why a journal came late, if it did. */
async function lateReason(snapshot: Snapshot, entity: Entity, since: number, lines: readonly JournalLineRow[]) {
  const from = await lateFrom(snapshot, entity);
  const late = from.find(({ period, revision }) => since > revision && lines.some((line) => line.period === period));
  return late?.because ?? null;
}
