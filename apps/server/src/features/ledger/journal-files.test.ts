import type { FastifyInstance } from 'fastify';
import type { JournalView, LinesView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { attachFile } from '../../../test/attach-file';
import { onStore } from '../../../test/opened-store';
import { bringIn, newDatabase, newFolder, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { RIGHTS } from '../../base/viewer';
import { Person } from '../../store/tables';
import { writePackage } from '../export/write-package';

// a sale of 1,000 by invoice 7/A, paid by a receipt in another journal; the sale is of the red team on one side only
const FILES = tinyFiles({
  'source_links.csv': [
    'entity,document_type,pattern',
    'ONE,invoice,https://archive.example/{entity}/{fiscal_year}?number={document}',
    'ONE,,https://papers.example/{document_type}/{document}',
    'TWO,invoice,https://elsewhere.example/{document}',
    '',
  ].join('\n'),
  'journals.csv': [
    'entity,journal,kind,line,date,account,debit,credit,document,document_type,dim:team',
    'ONE,J1,,1,2026-01-31,1000,1000.00,,7/A,invoice,red',
    'ONE,J1,,2,2026-01-31,4000,,1000.00,7/A,invoice,',
    'ONE,J2,,1,2026-02-20,1000,1000.00,,RC-1,receipt,',
    'ONE,J2,,2,2026-02-20,1000,,1000.00,RC-1,receipt,',
    'ONE,J3,,1,2026-02-21,1000,5.00,,,,red',
    'ONE,J3,,2,2026-02-21,4000,,5.00,,,red',
    '',
  ].join('\n'),
});

let app: FastifyInstance;
let databaseFile: string;
beforeEach(async () => {
  databaseFile = await workspaceOf(FILES);
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());
const ask = asking(() => app);

/** The journal of a number, as the Lens reads it. */
async function journal(number: string): Promise<JournalView> {
  const { body } = await ask<LinesView>('GET', '/ledger/lines?scope=ONE');
  const { journalId } = body.lines.find((line) => line.journal === number)!;
  return (await ask<JournalView>('GET', `/journals/${journalId}`)).body;
}

describe('the documents of a journal', () => {
  it('open at the address of their type, else at that of the entity, each once', async () => {
    expect((await journal('J1')).documents).toEqual([
      { document: '7/A', documentType: 'invoice', address: 'https://archive.example/ONE/2026?number=7%2FA' },
    ]);
    expect((await journal('J2')).documents).toEqual([
      { document: 'RC-1', documentType: 'receipt', address: 'https://papers.example/receipt/RC-1' },
    ]);
    expect((await journal('J3')).documents).toEqual([]);
  });
});

describe('files of a journal', () => {
  it('hang on it once they are named, come back as they were, and go off again', async () => {
    const { id } = await journal('J1');
    const { name, sha256 } = await attachFile(app, 'Invoice 7.txt', 'an invented invoice');
    const path = `/journals/${id}/files/${sha256}`;
    expect((await app.inject(`/api/v1${path}`)).statusCode).toBe(404);
    expect((await ask('POST', `/journals/${id}/files`, { name, sha256, journal: 'J1', document: '' })).status).toBe(
      204,
    );
    expect((await journal('J1')).files).toEqual([{ name, sha256, journal: 'J1', document: '' }]);
    expect((await journal('J2')).files).toEqual([]);
    expect((await app.inject(`/api/v1${path}`)).body).toBe('an invented invoice');
    const off = () => ask('DELETE', `${path}?journal=J1&document=`);
    // what hangs on the document stays
    await ask('POST', `/journals/${id}/files`, { name, sha256, journal: '', document: '7/A' });
    expect((await off()).status).toBe(204);
    expect((await journal('J1')).files).toEqual([{ name, sha256, journal: '', document: '7/A' }]);
    expect((await off()).status).toBe(404);
  });

  it('are found by their document in whatever journal it is posted, and go along in a ledger package', async () => {
    const { id } = await journal('J1');
    const { name, sha256 } = await attachFile(app, 'Invoice 7.txt', 'an invented invoice');
    await ask('POST', `/journals/${id}/files`, { name, sha256, journal: '', document: '7/A' });
    await app.close();
    const folder = newFolder();
    await writePackage(databaseFile, folder);
    databaseFile = await newDatabase();
    expect(await bringIn(databaseFile, folder)).toMatchObject({ state: 'done', findings: { shown: [] } });
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const brought = await journal('J1');
    expect(brought.files).toEqual([{ name, sha256, journal: '', document: '7/A' }]);
    expect((await app.inject(`/api/v1/journals/${brought.id}/files/${sha256}`)).body).toBe('an invented invoice');
  });

  it.each([
    [
      'a file that is not kept',
      { name: 'x.txt', sha256: 'a'.repeat(64), journal: 'J1', document: '' },
      404,
      'SRV_FILE_UNKNOWN',
    ],
    ['no digest', { name: 'x.txt', sha256: '../x', journal: 'J1', document: '' }, 400, 'SRV_REQUEST_INVALID'],
  ])('is refused: %s', async (_, body, status, code) => {
    const { id } = await journal('J1');
    expect(await ask('POST', `/journals/${id}/files`, body)).toMatchObject({ status, body: { code } });
  });

  it('is refused on another journal', async () => {
    const { id } = await journal('J1');
    const { name, sha256 } = await attachFile(app, 'Invoice 7.txt', 'an invented invoice');
    const reply = await ask('POST', `/journals/${id}/files`, { name, sha256, journal: 'J2', document: '' });
    expect(reply).toMatchObject({ status: 404, body: { code: 'SRV_FILE_UNKNOWN' } });
  });

  it('is refused on a document that is none of the journal', async () => {
    const { id } = await journal('J2');
    const { name, sha256 } = await attachFile(app, 'Invoice 7.txt', 'an invented invoice');
    const reply = await ask('POST', `/journals/${id}/files`, { name, sha256, journal: '', document: '7/A' });
    expect(reply).toMatchObject({ status: 404, body: { code: 'SRV_FILE_UNKNOWN' } });
  });

  it('show more than some may see of the journal, and are kept from them', async () => {
    const whole = await journal('J1');
    const { name, sha256 } = await attachFile(app, 'Invoice 7.txt', 'an invented invoice');
    await ask('POST', `/journals/${whole.id}/files`, { name, sha256, journal: 'J1', document: '' });
    await app.close();
    await onStore(databaseFile, (store) =>
      store.aside(async ({ em }) => {
        const rights = RIGHTS.filter((right) => right !== 'see_totals');
        em.assign(await em.findOneOrFail(Person, { id: 'local' }), { rights, values: { team: ['red'] } });
      }),
    );
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    expect(await journal('J1')).toMatchObject({ hiddenLines: 1, files: [], documents: [{ document: '7/A' }] });
    expect((await app.inject(`/api/v1/journals/${whole.id}/files/${sha256}`)).statusCode).toBe(404);
    const reply = await ask('POST', `/journals/${whole.id}/files`, { name, sha256, journal: 'J1', document: '' });
    expect(reply).toMatchObject({ status: 403, body: { code: 'SRV_VALUES_LIMITED' } });
  });
});
