import { CONTROLLER, onStore } from '../../test/opened-store';
import { bringIn, newDatabase, tinyFiles, workspaceOf } from '../../test/tiny-package';
import { openKept, viewOf } from '../features/statements/open-statement';
import { Workspace } from '../features/workspace/workspace';
import { currentDocuments, storeDocument } from './documents';
import { saveDraft } from './drafts';
import { Store, withdrawn } from './store';
import { RevisionRow, StoredDocument, StoredDraft } from './tables';

const ACT = { kind: 'write_remark', subject: 'x' } as const;
const CONTEXT = { scope: 'ONE', as_at: '2026-02', columns: 'month_and_year_to_date' };

describe('a write', () => {
  it('is one revision that says who, what and which parts it moved, with the moment after it', async () => {
    const file = await newDatabase();
    await onStore(file, async (store) => {
      const details = { reason: 'since' };
      const revision = await store.write('local', { ...ACT, details }, async (write) => {
        await storeDocument(write, 'remark', 'r', { text: 'One' });
        return write.revision;
      });
      const moment = (await store.moment())!;
      const row = await moment.em.findOneOrFail(RevisionRow, { id: revision });
      expect(row).toMatchObject({ person: 'local', ...ACT, details, touches: ['remarks'] });
      expect(row.generation).toMatchObject({ remarks: revision, ledger: 0, documents: 0 });
      expect(moment.generation).toEqual(row.generation);
      await moment.close();
    });
  });

  it.each([
    ['throws', () => Promise.reject(new Error('no'))],
    ['is withdrawn', () => Promise.resolve(withdrawn('nothing'))],
  ])('leaves nothing of itself when it %s', async (_, end) => {
    const file = await newDatabase();
    await onStore(file, async (store) => {
      const result = await store
        .write('local', ACT, async (write) => {
          await storeDocument(write, 'remark', 'r', { text: 'One' });
          await write.em.flush();
          return end();
        })
        .catch((error: Error) => error.message);
      expect(['no', 'nothing']).toContain(result);
      const moment = (await store.moment())!;
      expect([moment.revision, await currentDocuments(moment.em)]).toEqual([0, []]);
      await moment.close();
    });
  });

  it('follows the one before it, whoever began first', async () => {
    const file = await newDatabase();
    await onStore(file, async (store) => {
      const order: string[] = [];
      const write = (name: string) =>
        store.write('local', ACT, async () => {
          order.push(`${name} begins`);
          await new Promise((done) => setImmediate(done));
          order.push(`${name} ends`);
        });
      await Promise.all([write('a'), write('b')]);
      expect(order).toEqual(['a begins', 'a ends', 'b begins', 'b ends']);
    });
  });
});

describe('two who change the same row at once', () => {
  it('do not overwrite each other: the later one is refused', async () => {
    const document = { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 } as const;
    await onStore(await newDatabase(), async (store) => {
      await store.aside(({ em }) => saveDraft(em, 'local', document, 0, ''));
      const stale = await store.aside(({ em }) => em.findOneOrFail(StoredDraft, { person: 'local' }));
      await store.aside(async ({ em }) => {
        em.assign(await em.findOneOrFail(StoredDraft, { person: 'local' }), { base: 7 });
      });
      const late = store.aside(({ em }) => {
        em.merge(stale).base = 8;
        return em.flush();
      });
      await expect(late).rejects.toThrow('optimistic lock');
      const kept = await store.aside(({ em }) => em.findOneOrFail(StoredDraft, { person: 'local' }));
      expect([kept.base, kept.version]).toEqual([7, 2]);
    });
  });
});

describe('a moment', () => {
  it('stays as it is, and cannot be written, whatever is written meanwhile', async () => {
    const file = await workspaceOf();
    await onStore(file, async (store, before) => {
      const held = await currentDocuments(before.em);
      await store.write('local', ACT, (write) => storeDocument(write, 'remark', 'r', { text: 'One' }));
      expect(await currentDocuments(before.em)).toEqual(held);
      const now = (await store.moment())!;
      expect(await currentDocuments(now.em)).toHaveLength(held.length + 1);
      expect(() => now.db.exec('delete from document')).toThrow('readonly');
      await now.close();
    });
  });

  it('is let go of when the store closes, so that whoever reads on holds nobody up', async () => {
    const store = await Store.open(await newDatabase());
    const moment = (await store.moment())!;
    await store.close();
    expect(() => moment.db.prepare('select 1')).toThrow('not open');
    await moment.close();
  });

  it('of earlier shows books, master data and documents as they were then', async () => {
    const file = await workspaceOf();
    const workspace = new Workspace(await Store.open(file));
    const view = (asOf?: number) => shown(workspace, asOf);
    const first = await view();
    const { revision } = await workspace.at(CONTROLLER).then(async (snapshot) => {
      await snapshot.close();
      return snapshot;
    });
    const accounts = String(tinyFiles()['accounts.csv']).replace('Rent', 'Rent of rooms');
    const journals = String(tinyFiles()['journals.csv']).replaceAll('J2', 'J9').replaceAll('300.00', '50.00');
    await bringIn(file, tinyFiles({ 'accounts.csv': accounts, 'journals.csv': journals }));
    const second = await view();
    expect(second).not.toEqual(first);
    expect(await view(revision)).toEqual(first);
    expect(await view()).toEqual(second);
    await expect(view(999)).rejects.toMatchObject({ code: 'SRV_REVISION_UNKNOWN' });
    await workspace.close();
  });
});

/** A statement as people see it, with the names of accounts and the layouts that there are. */
async function shown(workspace: Workspace, asOf?: number) {
  const snapshot = await workspace.at(CONTROLLER, asOf);
  try {
    const { rows } = viewOf(await openKept(snapshot, 'income_statement', CONTEXT));
    return {
      rows: rows.map(({ label, cells }) => [label, cells.map(({ amount }) => amount)]),
      accounts: snapshot.model.accounts.map(({ name }) => name),
      documents: snapshot.model.documents.length,
    };
  } finally {
    await snapshot.close();
  }
}

describe('many requests while another connection writes', () => {
  /** Both books and names say how often it was written: a mixture of two moments would show two numbers. */
  it('each show one of the moments, never a mixture', async () => {
    const file = await workspaceOf();
    const [reader, writer] = [new Workspace(await Store.open(file)), await Store.open(file)];
    const WRITES = 30;
    let isWriting = true;
    const writing = (async () => {
      for (let n = 1; n <= WRITES; n++) {
        await new Promise((done) => setTimeout(done, 2));
        await writer.write('local', ACT, async (write) => {
          write.db.exec(`update balance set debit = ${n * 100}, credit = 0 where version = 0 and entity = 1`);
          write.touches.add('ledger');
          const named = await write.em.findOneOrFail(StoredDocument, {
            kind: 'statement',
            id: 'income_statement',
            until: null,
          });
          await storeDocument(write, 'statement', 'income_statement', {
            ...(JSON.parse(named.body) as object),
            note: `Written ${n}`,
          });
        });
      }
    })().finally(() => (isWriting = false));
    const seen = new Set<number>();
    const ask = async () => {
      const snapshot = await reader.at(CONTROLLER);
      // others get their turn between the parts of an answer
      await new Promise((done) => setImmediate(done));
      const note = snapshot.model.documentsOf('statement').find(({ id }) => id === 'income_statement')!.note ?? '';
      await new Promise((done) => setImmediate(done));
      const debit = snapshot.db
        .prepare('select max(debit) from balance where version = 0 and entity = 1')
        .pluck()
        .get();
      const [row] = await snapshot.em.find(RevisionRow, {}, { orderBy: { id: 'desc' }, limit: 1 });
      await snapshot.close();
      if (note === '') return;
      const n = Number(note.replace('Written ', ''));
      seen.add(n);
      expect([debit, row!.id]).toEqual([n * 100, snapshot.revision]);
    };
    while (isWriting) await Promise.all([ask(), ask(), ask(), ask(), ask(), ask()]);
    await writing;
    await ask();
    expect(seen.size).toBeGreaterThan(3);
    expect(seen.has(WRITES)).toBe(true);
    await Promise.all([reader.close(), writer.close()]);
  });
});
