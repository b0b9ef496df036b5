import type { FastifyInstance } from 'fastify';
import type { EvidenceView } from '@margin-lens/contract';
import type { BalanceEvidence } from '@margin-lens/core';
import { adjust } from '../../../test/adjusting';
import { asking } from '../../../test/asking';
import { attachFile } from '../../../test/attach-file';
import { onStore } from '../../../test/opened-store';
import { bringIn, newDatabase, newFolder, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { Person } from '../../store/tables';
import { writePackage } from '../export/write-package';

let app: FastifyInstance;
let databaseFile: string;
beforeEach(async () => {
  databaseFile = await workspaceOf();
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());
const ask = asking(() => app);

const read = async (more: Record<string, string> = {}) =>
  (await ask<EvidenceView>('GET', `/evidence?${new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', ...more })}`))
    .body;
const cash = (more: Partial<BalanceEvidence> = {}): BalanceEvidence => ({
  ...{ scope: 'ONE', account: '1000', period: 'FY2026-P02', source: 'bank', amount: 120_000, dated: '2026-02-28' },
  ...{ note: '', owner: 'Ines', accepted: false, files: [], ...more },
});
const save = async (put: BalanceEvidence[], more: object = {}) =>
  ask<{ code: string; message: string }>('PUT', '/evidence', {
    ...{ base: (await read()).revision, put, remove: [] },
    ...more,
  });

describe('balances of an entity', () => {
  // by hand: 500 brought forward, 1,000 of sales, 300 of rent; the sales and the rent are no balances
  it('are those of the balance sheet, and open while nothing is held against them', async () => {
    const { rows, entities } = await read();
    expect(rows.map(({ account, balance, state }) => [account, balance, state])).toEqual([
      ['1000', 120_000, 'open'],
      ['3000', 50_000, 'open'],
    ]);
    expect(entities).toEqual([expect.objectContaining({ code: 'ONE', accounts: 2, open: 2, balances: 170_000 })]);
  });

  it('agree with what is written, and say so of another figure', async () => {
    expect((await save([cash()])).status).toBe(204);
    const [agreed] = (await read()).rows;
    expect(agreed).toMatchObject({ state: 'agrees', difference: 0, isOpen: false });
    expect(agreed!.evidence).toMatchObject({ person: 'Controller', balance: 120_000, dated: '2026-02-28' });
    await save([cash({ amount: 119_000, note: 'A cheque on its way' })]);
    expect((await read()).rows[0]).toMatchObject({ state: 'differs', difference: 1_000, since: 'February 2026' });
    await save([cash({ amount: 119_000, note: 'A cheque on its way', accepted: true })]);
    expect((await read()).rows[0]).toMatchObject({ state: 'accepted', isOpen: false });
  });

  it('are open again once the balance moves', async () => {
    await save([cash()]);
    expect((await adjust(ask, '2026-02-28', '4000', '10.00')).status).toBe(200);
    expect((await read()).rows[0]).toMatchObject({ state: 'differs', was: 120_000, difference: 1_000, isOpen: true });
  });

  it('go on from the month before, and need nothing where that was said', async () => {
    await save([cash(), cash({ account: '3000', source: 'not_needed', amount: null })]);
    const { rows } = await read({ as_at: 'FY2026-P03' });
    expect(rows.map(({ account, state, before }) => [account, state, before?.owner])).toEqual([
      ['1000', 'open', 'Ines'],
      ['3000', 'not_needed', 'Ines'],
    ]);
  });

  it('of a group are counted by entity', async () => {
    await save([cash()]);
    const { rows, entities, scope } = await read({ scope: 'ALL' });
    expect([rows, scope.isGroup]).toEqual([[], true]);
    expect(entities.find(({ code }) => code === 'ONE')).toMatchObject({ open: 1, covered: 120_000 });
  });
});

describe('evidence is refused', () => {
  it.each([
    [cash({ account: '4000' }), 404, 'SRV_VALUE_UNKNOWN'],
    [cash({ account: '77' }), 404, 'SRV_VALUE_UNKNOWN'],
    [cash({ scope: 'NOBODY' }), 404, 'SRV_SCOPE_UNKNOWN'],
    [cash({ scope: 'ALL' }), 400, 'SRV_SCOPE_IS_GROUP'],
    [cash({ period: 'FY1999-P01' }), 400, 'SRV_PERIOD_UNKNOWN'],
    // a figure from nowhere, one of an account that needs none, a difference that stays without a reason
    [cash({ source: '' }), 400, 'SRV_REQUEST_INVALID'],
    [cash({ source: 'not_needed' }), 400, 'SRV_REQUEST_INVALID'],
    [cash({ accepted: true }), 400, 'SRV_REQUEST_INVALID'],
    [cash({ files: [{ name: 'x.pdf', sha256: 'a'.repeat(64), bytes: 1 }] }), 404, 'SRV_FILE_UNKNOWN'],
  ])('for %j', async (wrong, status, code) => {
    const reply = await save([cash(), wrong]);
    expect([reply.status, reply.body.code]).toEqual([status, code]);
    expect((await read()).rows[0]!.evidence).toBeNull(); // nothing of it was written
  });

  it('over what someone else has written since', async () => {
    const { revision } = await read();
    await save([cash()]);
    const late = await save([cash({ amount: 1 })], { base: revision });
    expect([late.status, late.body.code]).toEqual([409, 'SRV_EVIDENCE_CHANGED']);
    const taken = await save([], { base: revision, remove: [{ scope: 'ONE', account: '1000', period: 'FY2026-P02' }] });
    expect(taken.status).toBe(409);
    expect((await read()).rows[0]!.state).toBe('agrees');
  });

  it('from who may not see the entity', async () => {
    await app.close();
    await onStore(databaseFile, (store) =>
      store.aside(
        async ({ em }) => void em.assign(await em.findOneOrFail(Person, { id: 'local' }), { entities: ['TWO'] }),
      ),
    );
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const reply = await ask<{ code: string }>('PUT', '/evidence', { base: 99, put: [cash()], remove: [] });
    expect([reply.status, reply.body.code]).toEqual([403, 'SRV_SCOPE_NOT_PERMITTED']);
  });
});

describe('files of evidence', () => {
  it('come back as they were once evidence names them, and not before', async () => {
    const file = await attachFile(app, 'Statement of account.txt', 'balance 1200.00');
    expect(file).toMatchObject({ name: 'Statement of account.txt', bytes: 15 });
    const path = `/api/v1/evidence/files/${file.sha256}`;
    expect((await app.inject(path)).statusCode).toBe(404);
    await save([cash({ files: [file] })]);
    const reply = await app.inject(path);
    expect([reply.statusCode, reply.body]).toEqual([200, 'balance 1200.00']);
    expect(reply.headers['content-disposition']).toBe('attachment; filename="Statement-of-account.txt"');
  });

  it('go along in a ledger package, with the evidence', async () => {
    const file = await attachFile(app, 'bank.txt', 'balance 1200.00');
    await save([cash({ files: [file] })]);
    await app.close();
    const folder = newFolder();
    await writePackage(databaseFile, folder);
    databaseFile = await newDatabase();
    expect(await bringIn(databaseFile, folder)).toMatchObject({ state: 'done', findings: { shown: [] } });
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    expect((await read()).rows[0]).toMatchObject({
      state: 'agrees',
      evidence: { person: 'Controller', files: [file] },
    });
    expect((await app.inject(`/api/v1/evidence/files/${file.sha256}`)).body).toBe('balance 1200.00');
  });
});
