import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import { DocumentSchema, type Document, type DocumentKind } from '@margin-lens/core';
import { appError } from '../base/app-error';
import { StoredDraft } from './tables';

/** A person's own state of a document: `base` is the revision of the shared one that it stands on. */
export interface Draft {
  document: Document;
  base: number;
  at: string;
  /** Changes with every save, whoever's window makes it. */
  stamp: string;
}

/** The drafts of one person; `newest` gives the draft of a document, or the shared document where there is none. */
export interface Drafts {
  all: ReadonlyMap<string, Draft>;
  newest<T extends Document>(document: T): T;
}

export const NO_DRAFTS: Drafts = { all: new Map(), newest: (document) => document };

export const keyOfDocument = ({ kind, id }: { kind: string; id: string }) => `${kind}/${id}`;

// rows are never numbered again, so that a draft made anew is told from the one before it
const stampOf = ({ rowId, version }: StoredDraft) => `${rowId}.${version}`;

/** What a person is working on. A draft that no longer fits the schema is passed over, never half read. */
export async function draftsOf(em: EntityManager, person: string): Promise<Drafts> {
  const all = new Map<string, Draft>();
  for (const row of await em.find(StoredDraft, { person })) {
    const parsed = v.safeParse(DocumentSchema, JSON.parse(row.body));
    if (!parsed.success) continue;
    all.set(keyOfDocument(row), { document: parsed.output, base: row.base, at: row.at, stamp: stampOf(row) });
  }
  return {
    all,
    newest: <T extends Document>(document: T) => (all.get(keyOfDocument(document))?.document as T) ?? document,
  };
}

/**
 * Saves a draft over the state that the person's window saw, and gives its new stamp.
 * @throws SRV_DRAFT_CHANGED when another window has saved or dropped it since
 */
export async function saveDraft(
  em: EntityManager,
  person: string,
  document: Document,
  base: number,
  seen: string,
): Promise<string> {
  const { kind, id } = document;
  const stored = await seenDraft(em, person, document, seen);
  const draft = stored ?? em.create(StoredDraft, { person, kind, id } as never);
  // the same text is a save of its own, too: its time and stamp move
  em.assign(draft, { body: JSON.stringify(document), base, at: new Date().toISOString() } as never);
  await em.flush();
  return stampOf(draft);
}

/** Drops a draft; with `seen`, only in the state that the person's window saw. @throws SRV_DRAFT_CHANGED */
export async function dropDraft(
  em: EntityManager,
  person: string,
  key: { kind: DocumentKind; id: string },
  seen?: string,
): Promise<void> {
  const stored = await seenDraft(em, person, key, seen);
  if (stored) em.remove(stored);
}

async function seenDraft(
  em: EntityManager,
  person: string,
  { kind, id }: { kind: DocumentKind; id: string },
  seen: string | undefined,
): Promise<StoredDraft | null> {
  const stored = await em.findOne(StoredDraft, { person, kind, id });
  if (seen !== undefined && (stored ? stampOf(stored) : '') !== seen) throw appError('SRV_DRAFT_CHANGED');
  return stored;
}
