import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import type { DocumentView, KeptView, LibraryView, PostedView, VersionChanges } from '@margin-lens/contract';
import type { RowLayout } from '@margin-lens/core';
import { askingVersions, NONE } from '../../test/asking-versions';
import { servedApp } from '../../test/served-app';
import { bringIn, newDatabase, newFolder, query, tinyFiles, workspaceOf } from '../../test/tiny-package';
import { buildApp } from '../app';
import { Store } from '../store/store';
import { onStore, unsound } from '../../test/opened-store';
import { backUp, restore } from '../store/backup';

const { served, ask } = servedApp();
const { make } = askingVersions(ask);
type Refusal = { code: string; message: string };

describe('who may ask', () => {
  const get = (headers: Record<string, string>) => served.app.inject({ url: '/api/v1/workspace', headers });

  it('a page whose name is made to lead here is refused, on reads and on writes', async () => {
    for (const host of ['evil.example', 'localhost.evil.example:3000', '10.0.0.1'])
      expect((await get({ host })).json<Refusal>().code).toBe('SRV_HOST_FOREIGN');
    for (const host of ['localhost:3000', '127.0.0.1', '[::1]:3000', 'LOCALHOST'])
      expect((await get({ host })).statusCode).toBe(200);
  });

  it.each(['null', 'http://evil.example', 'not an address', 'http://localhost:1'])(
    'a write from %s is refused',
    async (origin) => {
      const headers = { host: 'localhost:3000', origin };
      const reply = await served.app.inject({ method: 'DELETE', url: '/api/v1/imports/x', headers });
      expect([reply.statusCode, reply.json<Refusal>().code]).toEqual([403, 'SRV_ORIGIN_FOREIGN']);
    },
  );

  it('beyond this machine only who knows the token is let in', async () => {
    const token = 'a secret of some length';
    const open = await buildApp({
      databaseFile: served.databaseFile,
      webRoot: '/nonexistent',
      hosts: ['books.example'],
      token,
    });
    const get = (url: string, headers: Record<string, string> = {}) =>
      open.inject({ url, headers: { host: 'books.example', ...headers } });
    expect((await get('/api/v1/workspace')).json<Refusal>().code).toBe('SRV_TOKEN_MISSING');
    expect((await get('/api/v1/workspace', { authorization: 'Bearer wrong' })).statusCode).toBe(401);
    expect((await get('/api/v1/workspace', { authorization: `Bearer ${token}` })).statusCode).toBe(200);
    const page = await get(`/?token=${encodeURIComponent(token)}`);
    expect(page.headers.location).toBe('/');
    const cookie = String(page.headers['set-cookie']);
    expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
    expect((await get('/api/v1/workspace', { cookie: cookie.split(';')[0]! })).statusCode).toBe(200);
    expect((await get('/api/v1/workspace', { cookie: `${cookie.split('=')[0]}=%` })).statusCode).toBe(401);
    await open.close();
  });
});

describe('adjustments', () => {
  const post = (amount: string) =>
    ask<PostedView & Refusal>('POST', '/adjustments', {
      entity: 'ONE',
      date: '2026-02-15',
      period: '',
      reason: 'x',
      reverses: false,
      lines: [
        { account: '5000', description: '', debit: amount, credit: '' },
        { account: '1000', description: '', debit: '', credit: amount },
      ],
    });

  it('go on counting after 9999', async () => {
    const db = new Database(served.databaseFile);
    db.prepare("update journal set number = 'ADJ-9999' where number = 'J2'").run();
    db.close();
    expect((await post('1.00')).body.journals).toEqual(['ADJ-10000']);
    expect((await post('1.00')).body.journals).toEqual(['ADJ-10001']);
    expect(existsTwice()).toBe(false);
  });

  const existsTwice = () =>
    query<{ n: number }>(
      served.databaseFile,
      'select count(*) as n from journal where until is null group by entity, fiscal_year, number having count(*) > 1',
    ).length > 0;

  it('whose sum could not be kept exactly are refused, and the books stay as they are', async () => {
    expect((await post('40000000000000.00')).status).toBe(200);
    const second = await post('40000000000000.00');
    expect([second.status, second.body.code]).toEqual([400, 'SRV_SUM_TOO_LARGE']);
    const sheet = await ask('GET', '/statements/balance_sheet?scope=ONE&as_at=2026-02');
    expect(sheet.status).toBe(200);
  });
});

describe('figures of a version', () => {
  const cell = (more: object) => ({
    account: '5000',
    combination: NONE,
    period: 'FY2026-P01',
    before: 0,
    after: 100,
    ...more,
  });
  const save = (cells: object[], label = '') =>
    ask<Refusal>('PUT', '/versions/PLAN/figures', { scope: 'ONE', how: 'typed', label, cells });

  it.each([
    ['a value that there is not', cell({ combination: '\u001f\u001fteam=blue' }), 'team has no value blue'],
    ['a dimension that there is not', cell({ combination: '\u001f\u001fplanet=mars' }), 'no dimension planet'],
    ['a partner that there is not', cell({ combination: 'X\u001f' }), 'partner has no value X'],
    ['more than can be added up', cell({ after: 9e15 }), 'larger than can be kept exactly'],
  ])('are not written to %s', async (_, wrong, words) => {
    const { status, body } = await save([wrong]);
    expect([status, body.code]).toEqual([400, 'SRV_FIGURE_PLACE']);
    expect(body.message).toContain(words);
  });

  it('name a place once', async () => {
    const { status, body } = await save([cell({}), cell({ after: 200 })]);
    expect([status, body.code]).toEqual([400, 'SRV_FIGURE_PLACE']);
  });

  it('have a history that a line break in a label does not end, and that lists no other version', async () => {
    for (const name of ['Q A', 'QXA']) await make({ name, kind: 'plan', cutOver: '' });
    const write = (code: string) =>
      ask('PUT', `/versions/${code}/figures`, { scope: 'ONE', how: 'typed', label: 'two\nlines', cells: [cell({})] });
    expect((await write('Q_A')).status).toBe(200);
    expect((await write('QXA')).status).toBe(200);
    const { body } = await ask<VersionChanges>('GET', '/versions/Q_A/changes');
    expect(body.changes.map(({ label, count }) => [label, count])).toEqual([['two lines', 1]]);
  });

  it('are given to nobody who is not there', async () => {
    const settings = { name: 'Plan', owner: 'Nobody at all', editors: [], opening: null };
    expect((await ask<Refusal>('PUT', '/versions/PLAN', settings)).body.code).toBe('SRV_PERSON_UNKNOWN');
    expect((await ask('PUT', '/versions/PLAN', { ...settings, owner: 'local' })).status).toBe(204);
  });
});

describe('layouts', () => {
  const layout = async () => {
    const { body } = await ask<DocumentView>('GET', '/documents/row_layout/income_by_heading');
    return body as DocumentView & { document: RowLayout };
  };

  it('are not kept over a revision that nobody has seen', async () => {
    const { document, base } = await layout();
    await ask('POST', `/documents/row_layout/${document.id}/keep`, { document: { ...document, note: 'theirs' }, base });
    for (const unseen of [base, 1e300, -1]) {
      const { body } = await ask<KeptView>('POST', `/documents/row_layout/${document.id}/keep`, {
        document: { ...document, note: 'mine' },
        base: unseen,
      });
      expect(body.state).toBe('conflict');
    }
  });

  it.each([
    ['constructor(1)', 'no function'],
    [`${'('.repeat(500)}1${')'.repeat(500)}`, 'stand in each other'],
    ['1' + ' + 1'.repeat(3000), 'longer than'],
    ['-'.repeat(500) + '1', 'stand in each other'],
  ])('with the formula %.20s are refused with words', async (formula, words) => {
    const { document, base } = await layout();
    const rows = [...document.rows, { kind: 'formula' as const, id: 'f', label: 'F', formula }];
    const { status, body } = await ask<Refusal>('POST', `/documents/row_layout/${document.id}/keep`, {
      document: { ...document, rows },
      base,
    });
    expect(status).toBe(400);
    expect(body.message).toContain(words);
  });

  it('whose totals stand in each other without end, or with hidden characters, are refused', async () => {
    const { document, base } = await layout();
    let rows: object[] = document.rows;
    for (let at = 0; at < 1500; at++) rows = [{ kind: 'group', id: `g${at}`, label: 'x', children: rows }];
    const deep = await ask<Refusal>('POST', `/documents/row_layout/${document.id}/keep`, {
      document: { ...document, rows },
      base,
    });
    expect([deep.status, deep.body.code]).toEqual([400, 'SRV_REQUEST_INVALID']);
    const hidden = await ask<Refusal>('POST', `/documents/row_layout/${document.id}/keep`, {
      document: { ...document, name: 'a\0b' },
      base,
    });
    expect([hidden.status, hidden.body.code]).toEqual([400, 'SRV_REQUEST_INVALID']);
  });

  it('of as many rows as may be, each computed from the one before, are drawn', async () => {
    const { document, base } = await layout();
    const chain = Array.from({ length: 1900 }, (_, at) => ({
      kind: 'formula' as const,
      id: `c${at}`,
      label: `C${at}`,
      formula: at === 0 ? `{${document.rows[0]!.id}} + 1` : `{c${at - 1}} + 1`,
    }));
    const kept = await ask<KeptView>('POST', `/documents/row_layout/${document.id}/keep`, {
      document: { ...document, rows: [...document.rows, ...chain] },
      base,
    });
    expect(kept.body.state).toBe('kept');
    expect((await ask('GET', '/statements/income_statement?scope=ONE&as_at=2026-02')).status).toBe(200);
  });
});

describe('a stored document that is not as it should be', () => {
  it('is set aside and named, never read', async () => {
    const logged = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const db = new Database(served.databaseFile);
    db.exec(
      `update document set body = '{"kind":"statement","id":"income_statement","rows":{}}' where kind = 'statement' and id = 'income_statement'`,
    );
    db.close();
    await onStore(served.databaseFile, (store) =>
      store.write('local', { kind: 'keep_document', subject: 'x' }, ({ touches }) =>
        Promise.resolve(void touches.add('documents')),
      ),
    );
    const { status, body } = await ask<Refusal>('GET', '/statements/income_statement?scope=ONE&as_at=2026-02');
    expect([status, body.code]).toEqual([409, 'SRV_DOCUMENT_BROKEN']);
    const library = await ask<LibraryView>('GET', '/documents');
    expect(library.body.setAside).toMatchObject([{ kind: 'statement', id: 'income_statement' }]);
    expect((await ask('GET', '/statements/balance_sheet?scope=ONE&as_at=2026-02')).status).toBe(200);
    expect(logged).toHaveBeenCalledWith(expect.stringContaining('statement income_statement cannot be read'));
    logged.mockRestore();
  });
});

describe('a request that is wrong in several places', () => {
  it('is told each of them', async () => {
    const { body } = await ask<Refusal & { details: string[] }>('PUT', '/versions/PLAN/figures', {
      scope: 1,
      how: 'x',
      cells: [],
    });
    expect(body.details.map((detail) => detail.split(':')[0])).toEqual(['scope', 'how', 'label', 'cells']);
  });
});

describe('texts and names', () => {
  it('of a megabyte are refused', async () => {
    const name = 'x'.repeat(1_000_000);
    const made = await ask<Refusal>('POST', '/versions', {
      name,
      kind: 'plan',
      from: 'FY2026-P01',
      to: 'FY2026-P12',
      cutOver: '',
      parent: '',
      copyOf: '',
      opening: null,
    });
    expect([made.status, made.body.code]).toEqual([400, 'SRV_REQUEST_INVALID']);
    const outcome = await bringIn(
      served.databaseFile,
      tinyFiles({ 'entities.csv': `code,name,currency,calendar\nONE,${name},EUR,cal\nTWO,Two,JPY,cal\n` }),
    );
    expect(outcome.state === 'refused' && outcome.findings.shown.map(({ code }) => code)).toEqual(['CORE_CELL_LONG']);
  });

  it('of files that no disk takes, or that stand in each other, are refused', async () => {
    const send = (names: string[]) => {
      const parts = names.map(
        (name) => `--x\r\ncontent-disposition: form-data; name="${name}"; filename="f.csv"\r\n\r\na\r\n`,
      );
      return served.app.inject({
        method: 'POST',
        url: '/api/v1/imports',
        payload: `${parts.join('')}--x--\r\n`,
        headers: { 'content-type': 'multipart/form-data; boundary=x' },
      });
    };
    for (const names of [
      [`${'n'.repeat(300)}.csv`],
      ['a.csv', 'a.csv/b.csv'],
      ['a/b.csv', 'a'],
      ['a.csv', 'a.csv'],
      [Array(30).fill('d').join('/')],
    ])
      expect((await send(names)).json<Refusal>().code).toBe('SRV_IMPORT_FILE_NAME');
  });
});

describe('files beside a workspace', () => {
  it('a backup holds what stands in the log only, and is never left half made', async () => {
    const source = await workspaceOf();
    const writer = new Database(source);
    writer.pragma('wal_autocheckpoint = 0');
    writer.exec("update entity set name = 'In the log' where code = 'ONE'");
    const [backup, target] = [path.join(newFolder(), 'b.db'), path.join(newFolder(), 'w.db')];
    await backUp(source, backup);
    await restore(backup, target);
    writer.close();
    expect(query(target, "select name from entity where code = 'ONE' and until is null")).toEqual([
      { name: 'In the log' },
    ]);
    expect(readdirSync(path.dirname(backup)).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('a log that another workspace has left is not taken for one of the restored', async () => {
    const target = path.join(newFolder(), 'w.db');
    writeFileSync(`${target}-wal`, 'of another');
    await expect(restore(await workspaceOf(), target)).rejects.toMatchObject({ code: 'SRV_BACKUP_EXISTS' });
    expect(existsSync(target)).toBe(false);
  });

  it('what is no database is said to be none, and is let go of', async () => {
    const file = path.join(newFolder(), 'w.db');
    writeFileSync(file, 'this is no database at all, only a text that is long enough');
    await expect(Store.open(file)).rejects.toMatchObject({ code: 'SRV_DATABASE_OTHER' });
  });

  it('uploads of servers that run no more are cleared', async () => {
    const left = path.join(os.tmpdir(), 'margin-lens-uploads', '999999999');
    mkdirSync(left, { recursive: true });
    await (await buildApp({ databaseFile: served.databaseFile, webRoot: '/nonexistent' })).close();
    expect(existsSync(left)).toBe(false);
  });
});

describe('lens check', () => {
  const off = async (file = served.databaseFile) => (await unsound(file)).map((each) => each.split(':')[0]!);
  const spoil = (sql: string) => {
    const db = new Database(served.databaseFile);
    db.exec(sql);
    db.close();
  };

  it('finds versions, numbers and documents that do not hold', async () => {
    expect(await off()).toEqual([]);
    spoil('update figure set amount = amount + 1');
    expect(await off()).toEqual(['Balances of versions are the sums of their figures']);
    spoil('update figure set amount = amount - 1');
    spoil("update document set body = '{}' where kind = 'statement' and id = 'income_statement'");
    expect(await off()).toEqual(['Layouts and statements can be read']);
    const again =
      "insert into journal (entity, fiscal_year, number, kind, since) select entity, fiscal_year, number, kind, since + 1000 from journal where number = 'J2'";
    expect(() => spoil(again)).toThrow('UNIQUE constraint failed');
    spoil(`drop index journal_current_number; ${again}`);
    expect(await off()).toContain('Journal numbers stand once in a year of an entity');
  });

  it('finds nothing wrong with a line that holds nothing', async () => {
    const files = tinyFiles();
    const journals = String(files['journals.csv']);
    expect(journals).toMatch(/^ONE,S1,.*,9000,,,4,/m);
    const empty = journals.replace(/^(ONE,S1,.*,9000,,,)4,/m, '$1,');
    const fresh = await newDatabase();
    expect((await bringIn(fresh, { ...files, 'journals.csv': empty })).state).toBe('done');
    expect(await off(fresh)).toEqual([]);
  });

  it('does not round a sum into agreeing', async () => {
    spoil(
      'update journal_line set debit = 9007199254740993 where debit > 0 and journal = 1; update journal_line set credit = 9007199254740992 where credit > 0 and journal = 1',
    );
    expect((await off()).some((name) => name.startsWith('Journals of ONE'))).toBe(true);
  });
});

describe('the page', () => {
  it('is never kept in a cache, under any of its names', async () => {
    const webRoot = newFolder();
    writeFileSync(path.join(webRoot, 'index.html'), '<ml-root></ml-root>');
    writeFileSync(path.join(webRoot, 'main-ABC.js'), '');
    const page = await buildApp({ databaseFile: served.databaseFile, webRoot });
    for (const url of ['/', '/index.html', '/statements/x']) {
      const { headers } = await page.inject(url);
      expect(headers['cache-control'] ?? 'none').not.toContain('max-age=3');
    }
    expect((await page.inject({ method: 'HEAD', url: '/statements/x' })).statusCode).toBe(200);
    expect((await page.inject('/main-ABC.js')).headers['cache-control']).toContain('immutable');
    await page.close();
  });
});
