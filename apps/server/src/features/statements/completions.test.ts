import type {
  CompletenessView,
  CompletionEffectView,
  DocumentView,
  ErrorReply,
  FiguresView,
  JournalView,
  LinesView,
  PostingView,
  StatementView,
  TraceView,
} from '@margin-lens/contract';
import type { Breakdown, CompletionDocument } from '@margin-lens/core';
import { onStore } from '../../../test/opened-store';
import { servedPackage } from '../../../test/served-app';
import { bringIn, tinyFiles, workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { RIGHTS } from '../../base/viewer';
import { Person } from '../../store/tables';
import { TextKeeper } from '../../store/text-keeper';

const { ask, serve, served } = servedPackage();

const ACCOUNTS = {
  rent: { include: [{ by: 'account' as const, number: '5000' }] },
  sales: { include: [{ by: 'account' as const, number: '4000' }] },
};

/** Rent by partner, then by its text, and sales. */
const RULES: CompletionDocument = {
  ...{ schema: 1, kind: 'completion', id: 'teams', name: 'Teams', dimension: 'team' },
  rules: [
    { id: 'a', partners: ['TWO'], accounts: ACCOUNTS.rent, value: 'green' },
    { id: 'b', text: 'BLUE', accounts: ACCOUNTS.rent, value: 'blue' },
    { id: 'c', accounts: ACCOUNTS.sales, value: 'red' },
  ],
};

const line = (day: string, account: string, amount: string, text: string, partner = '', team = '') =>
  `ONE,${day}${amount},,${account === '1000' ? 2 : 1},${day},,${account},${
    account === '1000' || account === '4000' ? `,${amount}` : `${amount},`
  },,${text},${partner},${team}`;
const rent = (day: string, amount: string, text: string, partner = '', team = '') => [
  line(day, '5000', amount, text, partner, team),
  line(day, '1000', amount, text),
];

// the sums below are added up by hand: rent of 349, of which 300 were posted with a team
const files = (...completions: CompletionDocument[]): PackageFiles =>
  tinyFiles({
    'dimensions.csv': 'dimension,value,name,parent\nteam,red,Red,\nteam,blue,Blue,red\nteam,green,Green,\n',
    'rates.csv':
      'base,quote,period,type,rate\nEUR,JPY,FY2026-P02,average,160.123\nEUR,JPY,FY2026-P02,closing,160.123\nEUR,JPY,FY2026-P01,average,160\nEUR,JPY,FY2026-P01,closing,160\n',
    'ownership.csv': 'investor,investee,from,percent,method\n',
    'journals.csv': [
      'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,partner,dim:team',
      ...rent('2026-02-10', '300.00', 'Rent', '', 'red'),
      ...rent('2026-02-11', '40.00', 'Hall in blue', 'TWO'),
      ...rent('2026-02-12', '7.00', 'Cleaning the Blue floor'),
      ...rent('2026-02-13', '2.00', 'Something else'),
      '',
    ].join('\n'),
    ...Object.fromEntries(completions.map((each) => [`completions/${each.id}.json`, JSON.stringify(each)])),
  });

async function byTeam(more: Record<string, string> = {}, breakdown: Partial<Breakdown> = {}): Promise<StatementView> {
  const asked: Breakdown = { of: ['rent'], down: [{ by: 'team' }], across: [], ...breakdown };
  const query = new URLSearchParams({
    ...{ scope: 'ONE', as_at: '2026-02', columns: 'month_and_year_to_date', breakdown: JSON.stringify(asked), ...more },
  });
  const { status, body } = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

const amounts = ({ rows, columns }: StatementView): Record<string, number | null> =>
  Object.fromEntries(
    rows.map(({ label, cells }) => [label, cells[columns.findIndex(({ id }) => id === 'ytd')]!.amount]),
  );

const POSTED = { Red: -300_00, 'No team': -49_00, '=Rent': -349_00 };
// blue stands below red
const COMPLETED = { Red: -307_00, Green: -40_00, 'No team': -2_00, '=Rent': -349_00 };

describe('postings without a value', () => {
  it('are read with that of the first rule that they meet, in figures, filters and statements', async () => {
    await serve(files(RULES));
    const view = await byTeam();
    expect(amounts(view)).toEqual(COMPLETED);
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-02', columns: 'month_and_year_to_date' });
    const { body } = await ask<StatementView>('GET', `/statements/income_statement?${query}&where=team:green`);
    expect(amounts(body)['=Rent']).toBe(-40_00);
    const blue = await byTeam({}, { where: [{ dimension: 'team', has: 'in', values: ['blue'] }] });
    expect(amounts(blue)['=Rent']).toBe(-7_00);
  });

  it('are as they were posted without rules, and where these are put away', async () => {
    await serve(files({ ...RULES, archived: true }));
    expect(amounts(await byTeam())).toEqual(POSTED);
  });

  it('in another currency to the unit, and by week', async () => {
    await serve(files(RULES));
    const yen = await byTeam({ currency: 'JPY' });
    expect(yen.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    expect(amounts(yen)).toMatchObject({ Green: -Math.round(40 * 160.123), '=Rent': -Math.round(349 * 160.123) });
    const weeks = await byTeam(
      {},
      { down: [{ by: 'posting_day' }], where: [{ dimension: 'team', has: 'in', values: ['blue'] }] },
    );
    expect(amounts(weeks)).toEqual({ 'Week 7, 9 Feb – 15 Feb 2026': -7_00, '=Rent': -7_00 });
  });

  it('are traced to the line, which says what it was read with and by which rule, one for a value that is gone before it', async () => {
    const gone = { id: 'gone', accounts: ACCOUNTS.rent, value: 'violet' };
    await serve(files({ ...RULES, rules: [gone, ...RULES.rules] }));
    const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-02', columns: 'month_and_year_to_date' });
    const ends = async (address: string): Promise<PostingView[]> => {
      const path = `/statements/income_statement/trace?${query}&where=team:red&address=${address}`;
      const { body } = await ask<TraceView>('GET', path);
      if (body.postings) return body.postings.lines;
      return (await Promise.all(body.terms.map(({ address: of }) => (of ? ends(of) : [])))).flat();
    };
    const found = (await ends('cell~rent~month')).filter(({ amount }) => amount !== 0);
    expect(found.map(({ amount, completed }) => [amount, completed])).toEqual([
      [-300_00, undefined],
      [-7_00, ['Team Blue by rule 3 of “Teams”']],
    ]);
    const lines = async (only: string) =>
      (await ask<LinesView>('GET', `/ledger/lines?scope=ONE&account=5000&only=${only}`)).body;
    expect([(await lines('team:blue')).debit, (await lines('team:red')).debit, (await lines('team:')).debit]).toEqual([
      7_00, 307_00, 2_00,
    ]);
  });

  it('in another way at once where a posting comes, a rule changes or is taken back', async () => {
    await serve(files());
    expect(amounts(await byTeam())).toEqual(POSTED);
    expect((await ask('POST', '/documents', { document: RULES })).status).toBe(200);
    expect(amounts(await byTeam())).toEqual(COMPLETED);
    const deliver = (text: string) => {
      const journals = `${String(files()['journals.csv'])}${rent('2026-02-20', '5.00', text).join('\n')}\n`;
      return bringIn(served.databaseFile, { ...files(), 'journals.csv': journals }, undefined, {
        replacesChanged: true,
      });
    };
    await deliver('More blue');
    expect(amounts(await byTeam())).toEqual({ ...COMPLETED, Red: -312_00, '=Rent': -354_00 });
    // delivered again with another text, the line that was there went
    await deliver('More of it');
    expect(amounts(await byTeam())).toEqual({ ...COMPLETED, 'No team': -7_00, '=Rent': -354_00 });
    const { base } = (await ask<DocumentView>('GET', '/documents/completion/teams')).body;
    const fewer = { ...RULES, rules: RULES.rules.slice(1) };
    const kept = await ask('POST', '/documents/completion/teams/keep', { document: fewer, base });
    expect(kept.status).toBe(200);
    expect(amounts(await byTeam())).toEqual({ Red: -347_00, 'No team': -7_00, '=Rent': -354_00 });
  });
});

it('lines with a text are looked for once, however many ask for figures meanwhile', async () => {
  const looked = jest.spyOn(TextKeeper.prototype, 'prepare');
  await serve(files(RULES));
  const views = await Promise.all(Array.from({ length: 5 }, () => byTeam()));
  expect(views.map(amounts)).toEqual(Array(5).fill(COMPLETED));
  expect(looked).toHaveBeenCalledTimes(1);
  looked.mockRestore();
});

describe('what a completion does', () => {
  it('is told before it counts: by rule and month, with what is still without a value', async () => {
    await serve(files());
    const { status, body } = await ask<CompletionEffectView>(
      'POST',
      '/completions/effect?scope=ONE&as_at=2026-02',
      RULES,
    );
    expect(status).toBe(200);
    expect(body.entities).toEqual([
      {
        ...{ code: 'ONE', name: 'One', currency: 'EUR', digits: 2, rules: [40_00, 7_00, 0] },
        ...{ before: [null, 300 / 349], after: [null, 347 / 349], missingWhole: 2_00 },
        missing: [{ number: '5000', name: 'Rent', amount: 2_00 }],
      },
    ]);
    expect(amounts(await byTeam())).toEqual(POSTED);
    await ask('POST', '/documents', { document: RULES });
    const { entities } = (await ask<CompletenessView>('GET', '/ledger/completeness?scope=ONE&as_at=2026-02')).body;
    expect(entities[0]!.dimensions).toEqual([{ name: 'team', months: [null, 347 / 349], posted: [null, 300 / 349] }]);
  });

  it('is refused for a value that there is not, and for a rule that would take everything', async () => {
    await serve(files());
    const keep = async (rule: Partial<CompletionDocument['rules'][number]>) => {
      const document = { ...RULES, rules: [{ id: 'a', value: 'red', ...rule }] };
      const { status, body } = await ask<ErrorReply>('POST', '/documents', { document });
      return [status, body.message];
    };
    expect(await keep({ value: 'pink', text: 'x' })).toEqual([400, expect.stringContaining('gives pink')]);
    expect(await keep({})).toEqual([400, expect.stringContaining('would take all postings')]);
  });
});

it('a locked version keeps the values that its actual months were read with', async () => {
  await serve(files(RULES));
  const made = await ask<{ code: string }>('POST', '/versions', {
    ...{ name: 'Outlook', kind: 'forecast', cutOver: 'FY2026-P02', from: 'FY2026-P01', to: 'FY2026-P12' },
    ...{ parent: '', copyOf: '', opening: null },
  });
  const { code } = made.body;
  for (const to of ['submitted', 'approved', 'locked'])
    expect((await ask('POST', `/versions/${code}/state`, { to, reason: '' })).status).toBe(204);
  const { base } = (await ask<DocumentView>('GET', '/documents/completion/teams')).body;
  await ask('POST', '/documents/completion/teams/keep', { document: { ...RULES, rules: RULES.rules.slice(1) }, base });
  expect(amounts(await byTeam())['Green']).toBeUndefined();
  expect(amounts(await byTeam({ version: code }))).toMatchObject(COMPLETED);
});

it('who may see one value sees what is read with it, and nothing else', async () => {
  const databaseFile = await workspaceOf(files(RULES));
  await onStore(databaseFile, (store) =>
    store.aside(async ({ em }) => {
      const held = { rights: RIGHTS.filter((right) => right !== 'see_totals'), values: { team: ['green'] } };
      em.assign(await em.findOneOrFail(Person, { id: 'local' }), held);
    }),
  );
  served.app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  expect(amounts(await byTeam())).toEqual({ Green: -40_00, '=Rent': null });
  const { body } = await ask<LinesView>('GET', '/ledger/lines?scope=ONE');
  expect([body.count, body.debit]).toEqual([1, 40_00]);
  const journal = await ask<JournalView>('GET', `/journals/${body.lines[0]!.journalId}`);
  expect(journal.body).toMatchObject({ hiddenLines: 1, lines: [{ debit: 40_00 }] });
});

it('what a plan is seeded from counts what carries a value and what is read with it as one', async () => {
  // 300 posted red, and 9 read red; 40 more with a partner, which stand apart (by hand)
  const red = { id: 'r', accounts: ACCOUNTS.rent, value: 'red' };
  await serve(files({ ...RULES, rules: [red] }));
  const query = 'version=actual&scope=ONE&from=FY2026-P02&to=FY2026-P02';
  const { body } = await ask<FiguresView>('GET', `/figures?${query}`);
  const rents = body.lines.filter(({ account, figures }) => account === '5000' && figures[0] !== 0);
  expect(rents.map(({ figures }) => figures[0]!).sort()).toEqual([309_00, 40_00]);
});
