import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { Part } from '@margin-lens/core';
import { heldAt } from './revisioned';
import type { Write } from './store';
import { StoredDocument } from './tables';

/** Parts that a kind of document is of: settings decide how books and versions are read; what people write beside them decides nothing. */
function partsOf(kind: string): Part[] {
  switch (kind) {
    case 'remark':
    case 'seen':
    case 'evidence':
    case 'closing_list':
    case 'closing_tick':
    case 'pack_issue':
      return ['remarks'];
    case 'workspace':
      return ['masters'];
    case 'version_settings':
      return ['masters', 'figures'];
    default:
      return ['documents'];
  }
}

/** Keeps a document as the shared revision; an equal one stays as it is. Returns whether anything was written. */
export async function storeDocument(write: Write, kind: string, id: string, body: object): Promise<boolean> {
  const { em, revision, touches } = write;
  const text = JSON.stringify(body);
  const before = await currentDocument(em, kind, id);
  if (before?.body === text) return false;
  before?.endBy(revision);
  em.create(StoredDocument, { kind, id, body: text, since: revision, until: null });
  for (const part of partsOf(kind)) touches.add(part);
  return true;
}

/** Takes a document out; its states stay. Returns whether there was one. */
export async function endDocument({ em, revision, touches }: Write, kind: string, id: string): Promise<boolean> {
  const before = await currentDocument(em, kind, id);
  before?.endBy(revision);
  if (before) for (const part of partsOf(kind)) touches.add(part);
  return before !== null;
}

/** Keeps a document again as it was last. Returns whether there was one that had been taken out. */
export async function bringBackDocument(write: Write, kind: string, id: string): Promise<boolean> {
  if (await currentDocument(write.em, kind, id)) return false;
  const [ended] = await write.em.find(StoredDocument, { kind, id }, { orderBy: { until: 'desc' }, limit: 1 });
  if (!ended) return false;
  return storeDocument(write, kind, id, JSON.parse(ended.body) as object);
}

export const currentDocument = (em: EntityManager, kind: string, id: string): Promise<StoredDocument | null> =>
  em.findOne(StoredDocument, { kind, id, until: null });

/** A document as it is kept, without its history. */
export type DocumentRow = Pick<StoredDocument, 'kind' | 'id' | 'body' | 'since'>;

/**
 * The documents of some kinds that hold now, or that held at a revision, in the order in which they were kept; all kinds
 * unless some are named.
 */
export const currentDocuments = (em: EntityManager, kinds?: readonly string[], at?: number): Promise<DocumentRow[]> =>
  em
    .createQueryBuilder(StoredDocument)
    .select(['kind', 'id', 'body', 'since'])
    .where({ ...heldAt(at), ...(kinds && { kind: { $in: kinds } }) })
    .orderBy({ rowId: 'asc' })
    .execute<DocumentRow[]>('all');

/** The states of a document before a revision, newest first. */
export const statesOf = (
  em: EntityManager,
  kind: string,
  id: string,
  before: number,
  limit: number,
): Promise<StoredDocument[]> =>
  em.find(StoredDocument, { kind, id, since: { $lt: before } }, { orderBy: { since: 'desc' }, limit });

/** The revision that first wrote each document of a kind, or the one with an id. */
export async function firstRevisions(em: EntityManager, kind: string, only?: string): Promise<Map<string, number>> {
  const rows = await em
    .createQueryBuilder(StoredDocument)
    .select(['id', 'since'])
    .where({ kind, ...(only !== undefined && { id: only }) })
    .orderBy({ since: 'desc' })
    .execute<Pick<StoredDocument, 'id' | 'since'>[]>('all');
  return new Map(rows.map(({ id, since }) => [id, since]));
}

/** The ids of the documents of a kind that hold. */
export async function documentIds(em: EntityManager, kind: string): Promise<Set<string>> {
  const rows = await em.find(StoredDocument, { kind, until: null }, { fields: ['id'] });
  return new Set(rows.map(({ id }) => id));
}
