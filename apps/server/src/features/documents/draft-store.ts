import { randomUUID } from 'node:crypto';
import * as v from 'valibot';
import type { EntityManager } from '@mikro-orm/better-sqlite';
import { DocumentSchema, type Document, type DocumentKind } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { Viewer } from '../../base/viewer';

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
  newest<T extends Document>(document: T): T;
}

export const NO_DRAFTS: Drafts = { newest: (document) => document };

interface DraftRow {
  kind: DocumentKind;
  id: string;
  body: string;
  base: number;
  at: string;
  stamp: string;
}

const keyOf = ({ kind, id }: { kind: string; id: string }) => `${kind}/${id}`;

/** Keeps what people are working on. A draft that no longer fits the schema is passed over, never half read. */
export class DraftStore {
  constructor(private readonly em: () => EntityManager) {}

  async of(viewer: Viewer): Promise<Drafts & { all: ReadonlyMap<string, Draft> }> {
    const rows = await this.em()
      .getConnection()
      .execute<DraftRow[]>('select kind, id, body, base, at, stamp from draft where person = ?', [viewer.name]);
    const all = new Map(
      rows.flatMap((row) => {
        const parsed = v.safeParse(DocumentSchema, JSON.parse(row.body));
        return parsed.success
          ? [[keyOf(row), { document: parsed.output, base: row.base, at: row.at, stamp: row.stamp }] as const]
          : [];
      }),
    );
    return { all, newest: <T extends Document>(document: T) => (all.get(keyOf(document))?.document as T) ?? document };
  }

  async find(viewer: Viewer, kind: DocumentKind, id: string): Promise<Draft | undefined> {
    return (await this.of(viewer)).all.get(keyOf({ kind, id }));
  }

  /**
   * Saves a draft over the state that the person's window saw, and gives its new stamp.
   * @throws SRV_DRAFT_CHANGED when another window has saved or dropped it since
   */
  async save(viewer: Viewer, document: Document, base: number, seen: string): Promise<string> {
    await this.requireSeen(viewer, document, seen);
    const stamp = randomUUID();
    await this.em().execute(
      `insert into draft (person, kind, id, body, base, at, stamp) values (?, ?, ?, ?, ?, ?, ?)
       on conflict (person, kind, id)
         do update set body = excluded.body, base = excluded.base, at = excluded.at, stamp = excluded.stamp`,
      [viewer.name, document.kind, document.id, JSON.stringify(document), base, new Date().toISOString(), stamp],
    );
    return stamp;
  }

  /** Drops a draft; with `seen`, only in the state that the person's window saw. @throws SRV_DRAFT_CHANGED */
  async drop(viewer: Viewer, kind: DocumentKind, id: string, seen?: string): Promise<void> {
    if (seen !== undefined) await this.requireSeen(viewer, { kind, id }, seen);
    await this.em().execute('delete from draft where person = ? and kind = ? and id = ?', [viewer.name, kind, id]);
  }

  private async requireSeen(viewer: Viewer, { kind, id }: Pick<Document, 'kind' | 'id'>, seen: string): Promise<void> {
    const [stored] = await this.em().execute<{ stamp: string }[]>(
      'select stamp from draft where person = ? and kind = ? and id = ?',
      [viewer.name, kind, id],
    );
    if ((stored?.stamp ?? '') !== seen) throw appError('SRV_DRAFT_CHANGED');
  }
}
