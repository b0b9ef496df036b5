import type { PackReadiness, PackSince } from '@margin-lens/contract';
import type { PackPage } from '@margin-lens/core';
import { adjust } from '../../../test/adjusting';
import { CONTEXT, PACK, packFiles, servedPacks, wordsOf } from '../../../test/served-packs';

const { ask, serve, previewed } = servedPacks();

describe('a pack of the next month', () => {
  const since = async (context: Record<string, string> = CONTEXT) =>
    (await ask<PackSince>('POST', '/packs/since', { pack: PACK, context })).body;
  const issue = (isIssued = true) => ask('POST', '/packs/monthly/issues', { scope: 'ONE', as_at: '2026-01', isIssued });
  const post = (date: string, account: string, amount: string) => adjust(ask, date, account, amount);

  // by hand: January has sales alone, rent comes in February; then 10 more of sales are posted to January
  it('says what is new since the month before, and what of that month moved since its pack was issued', async () => {
    await serve(packFiles(PACK));
    const first = await since();
    expect(first).toMatchObject({ issued: null, before: { name: 'January 2026', issued: null } });
    expect(first.pages.find(({ page }) => page === 'income_statement')).toMatchObject({ moved: [], gone: [] });
    expect(first.pages.find(({ page }) => page === 'income_statement')!.added).toContain('=Rent');
    expect((await issue()).status).toBe(204);
    expect((await post('2026-01-31', '4000', '10.00')).status).toBe(200);
    const later = await since();
    expect(later.before!.issued).toMatchObject({ person: 'Controller' });
    const income = later.pages.find(({ page }) => page === 'income_statement')!;
    expect(income.moved).toContainEqual(
      expect.objectContaining({ label: 'Profit for the period', was: '1,000', now: '1,010' }),
    );
    // issued anew it is of the figures of now; taken back, nobody knows what was issued
    await issue();
    expect((await since()).pages.flatMap(({ moved }) => moved)).toEqual([]);
    await issue(false);
    expect((await since()).before!.issued).toBeNull();
  });

  it('has nothing before the first month', async () => {
    await serve(packFiles(PACK));
    expect(await since({ ...CONTEXT, as_at: '2026-01' })).toMatchObject({ before: null, pages: [] });
  });
});

describe('what is open of a pack', () => {
  const limited = () => ({
    ...packFiles({ ...PACK, pages: [{ kind: 'exceptions', id: 'moved', of: 'income_statement' }] }),
    'workspace.json': JSON.stringify({
      ...{ name: 'Tiny', reporting_currency: 'EUR', materiality: { amount: 50, percent: 5 } },
    }),
  });
  const remark = (period: string, words: string) =>
    ask('POST', '/remarks', {
      ...{ scope: 'ONE', period, statement: 'income_statement', row: 'goods', column: '', columns: '', text: words },
      ...{ quotes: [], state: 'open', carries: '' },
    });
  const openOf = async (): Promise<string[]> => (await previewed({ ...PACK, pages: keptPages })).pages[0]!.open;
  const keptPages: PackPage[] = [{ kind: 'exceptions', id: 'moved', of: 'income_statement' }];

  it('is each variance beyond the limits without a remark, and whether there was one last month', async () => {
    await serve(limited());
    // sales of 1,000 against 900 planned, and rent of 300 against nothing
    expect(await openOf()).toEqual(['2 to explain']);
    await remark('FY2026-P01', 'More orders');
    expect(await openOf()).toEqual(['2 to explain', 'one was explained last month']);
    await remark('FY2026-P02', 'More orders than planned');
    expect(await openOf()).toEqual(['1 to explain']);
    const words = wordsOf(await previewed({ ...PACK, pages: keptPages }))
      .flat()
      .join(' ');
    expect(words).toMatch(/Goods 1,000 900 100 11\.1/);
    expect(words).toContain('Goods: More orders than planned');
    expect(words).toContain('=Rent: Not explained yet.');
  });

  it('is said check by check, with where it is mended', async () => {
    await serve(limited());
    const { body } = await ask<PackReadiness>('POST', '/packs/readiness', {
      pack: { ...PACK, pages: keptPages },
      context: CONTEXT,
    });
    const of = (kind: string) => body.checks.find(({ check }) => check === kind);
    expect(body.checks.map(({ check }) => check)).toEqual([
      ...['delivered', 'books', 'tie_outs', 'evidence', 'tasks', 'closed', 'versions', 'pages'],
    ]);
    expect(of('delivered')).toMatchObject({ isDone: true, says: [] });
    expect(of('versions')).toMatchObject({ isDone: false, says: ['Plan is a draft'], path: '/versions' });
    expect(of('pages')).toMatchObject({ isDone: false, says: ['2 to explain'], page: 'moved' });
    const march = { ...CONTEXT, as_at: '2026-03' };
    const { body: later } = await ask<PackReadiness>('POST', '/packs/readiness', {
      pack: { ...PACK, pages: keptPages },
      context: march,
    });
    expect(later.checks[0]).toMatchObject({
      check: 'delivered',
      isDone: false,
      says: ['nothing is posted in First Ltd'],
    });
  });
});
