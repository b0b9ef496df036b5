import type { Store, Write } from '../../store/store';
import { Store as WorkspaceStore } from '../../store/store';
import { LOCAL_PERSON } from '../../store/people';
import { combinationId } from '../../store/balances';
import { writeAdjustment } from '../../store/adjustments';
import { postJournalsOf } from '../../store/post-journals';
import { resourceOf, storeMasterRows } from '../../store/masters';
import { query, tinyFiles, workspaceOf, writeFolder } from '../../../test/tiny-package';
import { unsound } from '../../../test/opened-store';
import { importPackage } from './import-package';
import type { ImportOutcome } from './import-request';
import { openPackage } from './package-source';

const HEAD = 'entity,journal,line,date,account,debit,credit,description,dim:team';
const MARCH = tinyFiles({
  'journals.csv': [
    HEAD,
    'ONE,J2,1,2026-02-10,5000,310.00,,Rent,red',
    'ONE,J2,2,2026-02-10,1000,,310.00,Rent,red',
    'ONE,M1,1,2026-03-31,1000,70.00,,Sales in March,red',
    'ONE,M1,2,2026-03-31,4000,,70.00,Sales in March,red',
    '',
  ].join('\n'),
});

type Work = (write: Write) => Promise<unknown>;

const idOf = (file: string, table: string, where: string) =>
  query<{ id: number }>(file, `select id from ${table} where until is null and ${where}`)[0]!.id;

const ACCRUED = {
  ...{ debit: 0, credit: 0, description: 'Accrued', combination: '\u001f', document: '' },
  ...{ currency: 'EUR', currencyAmount: null },
};

const adjustment =
  (file: string): Work =>
  async (write) => {
    const [cash, rent] = [idOf(file, 'account', `number = '1000'`), idOf(file, 'account', `number = '5000'`)];
    await writeAdjustment(write, {
      entity: idOf(file, 'entity', `code = 'ONE'`),
      fiscalYear: 2026,
      period: idOf(file, 'fiscal_period', 'period = 3'),
      ...{ number: 'ADJ-0001', date: '2026-03-31' },
      lines: [
        { ...ACCRUED, account: rent, debit: 500 },
        { ...ACCRUED, account: cash, credit: 500 },
      ],
    });
    postJournalsOf(write, write.revision, 1);
  };

const combination: Work = async ({ db }) => combinationId(db, '\u001fnew\u001fteam=red');

const renaming: Work = (write) =>
  storeMasterRows(write, resourceOf('dimensions'), [{ line: 2, cells: ['team', 'blue', 'Blue', '', ''] }]);

/** Brings March in, and has others write each time when its journals are about to be read. */
async function bringInWhile(file: string, works: readonly Work[]): Promise<{ outcome: ImportOutcome; reads: number }> {
  const source = await openPackage(writeFolder(MARCH));
  const [store, others] = [await WorkspaceStore.open(file), await WorkspaceStore.open(file)];
  let reads = 0;
  const rows: typeof source.rows = async (path, sink, report) => {
    if (path === 'journals.csv') {
      const work = works[reads++];
      if (work) await written(others, work);
    }
    await source.rows(path, sink, report);
  };
  try {
    const outcome = await importPackage(store, {
      source: { ...source, rows },
      ...{ fileName: 'march', digest: 'march', person: LOCAL_PERSON, replacesChanged: true },
      onProgress: () => undefined,
      isCancelled: () => false,
      now: () => new Date('2026-11-24T10:00:00Z'),
    });
    return { outcome, reads };
  } finally {
    await store.close();
    await others.close();
  }
}

const written = (store: Store, work: Work) => store.write(LOCAL_PERSON, { kind: 'adjust', subject: '' }, work);

const DONE = { state: 'done', counts: { journals: 1, lines: 2, changedJournals: 1 } };

describe('a delivery that is read while others write', () => {
  it('lets a journal be posted meanwhile, and stands behind it', async () => {
    const file = await workspaceOf();
    const { outcome, reads } = await bringInWhile(file, [adjustment(file)]);
    expect(outcome).toMatchObject(DONE);
    expect(reads).toBe(1);
    const order = query(file, `select number from journal where number in ('ADJ-0001', 'M1') order by since, id`);
    expect(order).toEqual([{ number: 'ADJ-0001' }, { number: 'M1' }]);
    expect(await unsound(file)).toEqual([]);
  });

  it.each([
    ['master data', renaming],
    ['a combination of dimension values', combination],
  ])('is read again where %s came meanwhile', async (_, work) => {
    const file = await workspaceOf();
    const { outcome, reads } = await bringInWhile(file, [work]);
    expect(outcome).toMatchObject(DONE);
    expect(reads).toBe(2);
    expect(await unsound(file)).toEqual([]);
  });

  it('keeps others waiting in the end, where they never leave it in peace', async () => {
    const file = await workspaceOf();
    const moving =
      (name: string): Work =>
      (write) =>
        storeMasterRows(write, resourceOf('dimensions'), [{ line: 2, cells: ['team', 'blue', name, '', ''] }]);
    const works = ['One', 'Two'].map(moving);
    // while the third is read nobody else could write
    const { outcome, reads } = await bringInWhile(file, works);
    expect(outcome).toMatchObject(DONE);
    expect(reads).toBe(3);
    expect(await unsound(file)).toEqual([]);
  });
});
