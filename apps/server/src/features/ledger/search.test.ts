import type { FastifyInstance } from 'fastify';
import type { LinesView } from '@margin-lens/contract';
import { onStore } from '../../../test/opened-store';
import { bringIn, query, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { startWorker } from '../../base/start-worker';

const HEAD = 'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,document,partner,dim:team';
const LINES = {
  'journals.csv': [
    HEAD,
    'ONE,INV-1042,,1,2026-01-20,,1000,1250.50,,,Müller & Söhne,RE/77,TWO,',
    'ONE,INV-1042,,2,2026-01-20,,4000,,1250.50,,Müller & Söhne,RE/77,,red',
    'ONE,PAY-7,,1,2026-02-20,,5000,99.00,,,Zażółć rent,,,',
    'ONE,PAY-7,,2,2026-02-20,,1000,,99.00,,Zażółć rent,,,',
    '',
  ].join('\n'),
};

/** Brings the index up to the books, as the server does for many lines. */
const indexAll = (file: string): Promise<void> =>
  new Promise((resolve, reject) => {
    const worker = startWorker('store/search-index-worker', file);
    worker.on('error', reject);
    worker.on('exit', () => resolve());
  });

describe('search in the lines of the ledger', () => {
  let app: FastifyInstance;
  let file: string;
  const found = async (q: string, more = '') => {
    const view = (
      await app.inject(`/api/v1/ledger/lines?scope=ONE&q=${encodeURIComponent(q)}${more}`)
    ).json<LinesView>();
    return view.lines.map(({ journal, line }) => `${journal}.${line}`).sort();
  };
  beforeAll(async () => {
    file = await workspaceOf();
    await bringIn(file, tinyFiles(LINES));
    app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  });
  afterAll(() => app.close());

  const questions: [what: string, q: string, more: string, expected: string[]][] = [
    ['words of the text, without accents and case', 'mull', '', ['INV-1042.1', 'INV-1042.2']],
    ['several words', 'sohne muller', '', ['INV-1042.1', 'INV-1042.2']],
    ['the document', 'RE/77', '', ['INV-1042.1', 'INV-1042.2']],
    ['the journal', 'pay-7', '', ['PAY-7.1', 'PAY-7.2']],
    ['the partner', 'two', '', ['INV-1042.1']],
    ['a dimension value', 'red muller', '', ['INV-1042.2']],
    ['the words of a code together only', 'INV-7', '', []],
    ['whatever carries a partner', '', '&dim=partner%3DTWO', ['INV-1042.1']],
    ['a partner by the whole of its code alone', '', '&dim=partner%3DTW', []],
    ['what carries no partner', 'muller', '&dim=partner%3D', ['INV-1042.2']],
    ['an amount, as it is written', '1,250.50', '', ['INV-1042.1', 'INV-1042.2']],
    ['an amount in brackets', '(99)', '', ['PAY-7.1', 'PAY-7.2']],
    ['within an account', 'zaz', '&account=5000', ['PAY-7.1']],
    ['within periods', 'rent', '&from=FY2026-P02&to=FY2026-P02', ['J2.1', 'J2.2', 'PAY-7.1', 'PAY-7.2']],
    ['nothing for signs alone', '& –', '', []],
    ['nothing for what is not there', 'elephant', '', []],
  ];

  it.each(questions)('finds %s, before the index reaches the lines and after', async (_, q, more, expected) => {
    expect(await found(q, more)).toEqual(expected);
  });

  it('finds the same by the index', async () => {
    await indexAll(file);
    expect(query(file, 'select indexed_to = (select max(id) from journal_line) as done from search_state')).toEqual([
      { done: 1 },
    ]);
    for (const [what, q, more, expected] of questions) expect([what, await found(q, more)]).toEqual([what, expected]);
  });
});

describe('the index of words', () => {
  it('lets others write while it is filled', async () => {
    const JOURNALS = 6_000;
    const rows = Array.from({ length: JOURNALS }, (_, n) => [
      `ONE,L${n},,1,2026-01-20,,1000,1.00,,,Sale ${n},,,`,
      `ONE,L${n},,2,2026-01-20,,4000,,1.00,,Sale ${n},,,`,
    ]);
    const file = await workspaceOf(tinyFiles({ 'journals.csv': [HEAD, ...rows.flat(), ''].join('\n') }));
    await onStore(file, async (store) => {
      let isFilling = true;
      const filling = indexAll(file).finally(() => (isFilling = false));
      let writes = 0;
      for (; isFilling; writes++)
        await store.write(
          'local',
          { kind: 'mark_seen', subject: 'x' },
          () => new Promise((done) => setTimeout(done, 5)),
        );
      await filling;
      expect(writes).toBeGreaterThan(2);
    });
    const [state] = query<{ at: number; last: number }>(
      file,
      'select indexed_to as at, (select max(id) from journal_line) as last from search_state',
    );
    expect(state!.at).toBe(state!.last);
  });
});
