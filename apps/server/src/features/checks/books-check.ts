import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { BooksCheckQuery, BooksCheckView, BooksFindingView, Seen } from '@margin-lens/contract';
import { checkBalances, periodName, seenId, sumMovements, type BooksFinding, type SeenMark } from '@margin-lens/core';
import { requireAllValues, type Viewer } from '../../base/viewer';
import { currentDocuments, storeDocument } from '../../store/documents';
import { Names } from '../../store/people';
import type { ReadingThread } from '../../store/reading-thread';
import { openPeriod, openEntity } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import { dateOutside, dimensionMissing, incomeTwice } from './check-lines';

/** Share of the year's income so far from which an amount is worth a word. */
const LIMIT_OF_INCOME = 0.002;

/**
 * Whether the books of an entity are fit to report on, and what people have said about it.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
 */
export async function booksCheck(
  snapshot: Snapshot,
  reading: ReadingThread,
  query: BooksCheckQuery,
): Promise<BooksCheckView> {
  const { filled: model, viewer, em, generation } = snapshot;
  const entity = openEntity(model, viewer, query.scope);
  const { calendar } = entity.calendar;
  const at = openPeriod(entity, query.as_at);
  requireAllValues(viewer);
  const slice = (await snapshot.books()).read(entity);
  const periods = calendar.periods.filter((p) => p.fiscalYear === at.fiscalYear && p.ordinal <= at.ordinal);
  const income = model.accounts.reduce(
    (sum, { nature }, index) =>
      nature === 'income' ? sum - sumMovements(slice, index, periods[0]!.ordinal, at.ordinal) : sum,
    0,
  );
  const limit = Math.max(1, Math.round(LIMIT_OF_INCOME * Math.abs(income)));
  const span = { model, entity, periods, ledger: generation.ledger };
  const findings: BooksFinding[] = [
    ...checkBalances(slice, at, limit),
    ...(await incomeTwice(reading, span, limit)),
    ...(await dimensionMissing(reading, span)),
    ...(await dateOutside(reading, span)),
  ];
  const seen = await marksOf(em, entity.code);
  const nameOf = new Map(model.accounts.map(({ number, name }) => [number, name]));
  const weight = ({ effect, amount }: BooksFinding) => Math.abs(effect ?? 0) * 1e6 + Math.abs(amount);
  return {
    scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    limit,
    findings: findings
      .sort((a, b) => weight(b) - weight(a))
      .map((finding) => ({
        ...finding,
        accountName: nameOf.get(finding.account) ?? '',
        seen: seen.get(finding.key) ?? null,
      })),
  };
}

/** Marks a finding as seen, with the reason, the person and the time; an empty reason takes the mark off. */
export function markSeen(workspace: Workspace, viewer: Viewer, { scope, key, reason }: Seen): Promise<void> {
  const kind = reason === '' ? 'unmark_seen' : 'mark_seen';
  return workspace.write(viewer, { kind, subject: key }, async (write) => {
    openEntity(write.snapshot.filled, viewer, scope);
    const at = new Date().toISOString();
    await storeDocument(write, 'seen', seenId({ scope, key }), { scope, key, reason, person: viewer.id, at });
  });
}

async function marksOf(em: EntityManager, scope: string): Promise<Map<string, NonNullable<BooksFindingView['seen']>>> {
  const names = await Names.read(em);
  const start = seenId({ scope, key: '' });
  return new Map(
    (await currentDocuments(em, ['seen'])).flatMap(({ id, body }) => {
      const { reason, person, at } = JSON.parse(body) as SeenMark;
      const isOfScope = id.startsWith(start) && reason !== '';
      return isOfScope ? [[id.slice(start.length), { reason, person: names.of(person), at }] as const] : [];
    }),
  );
}
