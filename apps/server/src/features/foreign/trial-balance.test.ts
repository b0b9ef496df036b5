import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { TrialBalanceView } from '@margin-lens/contract';
import { buildCalendar, periodsOfRule, type CalendarRule, type Mapping } from '@margin-lens/core';
import { bringIn, newDatabase, newFolder, tinyFiles, workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { Store } from '../../store/store';
import { importPackage } from '../imports/import-package';
import { foreignContext, knownCodes } from './foreign-context';
import { openForeign } from './foreign-source';
import { inspectFile } from './inspect-file';

/** Reference case 1: the trial balances of an invented entity, computed with Python's standard library. See its README. */
const CASE = path.resolve(__dirname, '../../../../../packages/core/test/golden/case01');
const rowsOf = (file: string) =>
  readFileSync(path.join(CASE, file), 'utf8')
    .trim()
    .split(/\r?\n/)
    .slice(1)
    .map((line) => line.split(','));
const RETAINED = '3200';
const ACCOUNTS = rowsOf('input/accounts.csv').filter(([, , type]) => !type!.startsWith('stat'));
const RULE: CalendarRule = { kind: 'months', firstMonth: 4, namedAfter: 'end', adjustments: 1 };
const PERIODS = buildCalendar(
  'MAIN',
  [2023, 2024].flatMap((year) => periodsOfRule(RULE, year)),
).periods;

/** What the case says that each account closes with, as `period account`. */
const CLOSINGS = new Map(
  rowsOf('expected/trial_balance.csv').map(([, period, account, , , , , closing]) => [
    `FY${period} ${account}`,
    closing!,
  ]),
);
const keysOf = (from: string, to: string) => PERIODS.map(({ key }) => key).filter((key) => key >= from && key <= to);

/** Master data of the case, and the opening entries of its first year where they are wanted. */
function masters(hasOpening: boolean): PackageFiles {
  const opening = rowsOf('input/opening_balances.csv')
    .filter(([, account, , amount]) => Number(amount) !== 0 && ACCOUNTS.some(([number]) => number === account))
    .map(([, account, , amount], at) => {
      const [debit, credit] = amount!.startsWith('-') ? ['', amount!.slice(1)] : [amount!, ''];
      return `OSK,O1,opening,${at + 1},2022-04-01,,${account},${debit},${credit}`;
    });
  return {
    'workspace.json': JSON.stringify({ name: 'Oskelby', reporting_currency: 'EUR' }),
    'calendars.csv': [
      'calendar,fiscal_year,period,label,start,end,kind,quarter',
      ...PERIODS.map((p) => `MAIN,${p.fiscalYear},${p.number},${p.label},${p.start},${p.end},${p.kind},${p.quarter}`),
      '',
    ].join('\n'),
    'entities.csv': 'code,name,currency,calendar\nOSK,Oskelby Tileworks,EUR,MAIN\n',
    'accounts.csv': [
      'number,name,nature,role',
      ...ACCOUNTS.map(
        ([number, name, type]) => `${number},${name},${type},${number === RETAINED ? 'retained_earnings' : ''}`,
      ),
      '',
    ].join('\n'),
    'journals.csv': [
      'entity,journal,kind,line,date,period,account,debit,credit',
      ...(hasOpening ? opening : []),
      '',
    ].join('\n'),
  };
}

async function bringTrialBalance(
  databaseFile: string,
  rows: readonly (readonly string[])[],
  { entity = 'OSK', start = 'opened' as Mapping['start'] } = {},
): Promise<void> {
  const location = path.join(newFolder(), 'trial balance.csv');
  writeFileSync(location, rows.map((row) => row.join(',')).join('\n'));
  const store = await Store.open(databaseFile);
  const books = (await store.moment())!;
  try {
    const found = await inspectFile({
      location,
      fileName: 'trial balance.csv',
      known: knownCodes(await foreignContext(books)),
      kept: [],
      said: { purpose: 'trial_balance' },
    });
    if (!('mapping' in found)) throw new Error(JSON.stringify(found.findings));
    const mapping = {
      ...found.mapping,
      constants: { ...found.mapping.constants, entity },
      measure: 'closing' as const,
      start,
    };
    const source = await openForeign(location, 'trial balance.csv', mapping, await foreignContext(books));
    const outcome = await importPackage(store, {
      source,
      fileName: 'tb',
      digest: 'x',
      person: 'x',
      onProgress: () => undefined,
      isCancelled: () => false,
      now: () => new Date(),
    });
    if (outcome.state !== 'done') throw new Error(JSON.stringify(outcome));
  } finally {
    await books.close();
    await store.close();
  }
}

/** What the ledger of the application shows that accounts close with. */
async function shownClosings(databaseFile: string, keys: readonly string[]): Promise<[string, string][]> {
  const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  const shown: [string, string][] = [];
  for (const key of keys) {
    const { columns, lines } = (
      await app.inject(`/api/v1/ledger/trial-balance?scope=OSK&as_at=${key}`)
    ).json<TrialBalanceView>();
    const at = columns.findIndex((column) => column.key === 'closing');
    for (const line of lines)
      if (line.kind === 'account') shown.push([`${key} ${line.id}`, (line.amounts[at]! / 100).toFixed(2)]);
  }
  await app.close();
  return shown;
}

const agree = (shown: readonly [string, string][]) => {
  expect(shown.length).toBeGreaterThan(20);
  expect(shown.filter(([place, amount]) => Number(amount) !== Number(CLOSINGS.get(place) ?? 0))).toEqual([]);
};

/** The same order every time, and not that of the months. */
const shuffled = <T>(rows: readonly T[]): T[] =>
  rows
    .map((row, at) => ({ row, by: (at * 7919) % 1009 }))
    .sort((a, b) => a.by - b.by)
    .map(({ row }) => row);

describe('closing balances of several months', () => {
  const keys = keysOf('FY2023-P01', 'FY2024-P03');

  it('with a row an account and month, in any order, over an adjustment period and a year end', async () => {
    const file = await newDatabase();
    expect((await bringIn(file, masters(false))).state).toBe('done');
    const rows = keys.flatMap((key) =>
      ACCOUNTS.map(([account]) => [account!, key, CLOSINGS.get(`${key} ${account}`) ?? '0.00']),
    );
    await bringTrialBalance(file, [['Account', 'Period', 'Balance'], ...shuffled(rows)]);
    agree(await shownClosings(file, keys));
  });

  it('side by side over a year end, where the result moves into retained earnings', async () => {
    const file = await newDatabase();
    expect((await bringIn(file, masters(false))).state).toBe('done');
    const months = keys.filter((key) => !key.endsWith('P13'));
    const rows = ACCOUNTS.map(([account, name]) => [
      account!,
      name!,
      ...months.map((key) => CLOSINGS.get(`${key} ${account}`) ?? '0.00'),
    ]);
    const labels = months.map((key) => PERIODS.find((period) => period.key === key)!.start.slice(0, 7));
    await bringTrialBalance(file, [['Account', 'Name', ...labels], ...rows]);
    agree(await shownClosings(file, months));
  });

  it('in accounts of the entity’s own, two for each of the group, in two files', async () => {
    const file = await newDatabase();
    const maps = ACCOUNTS.map(([account]) => `OSK,"A${account}, B${account}",${account},`);
    const files = { ...masters(false), 'account_map.csv': ['entity,from,to,valid_from', ...maps].join('\n') };
    expect((await bringIn(file, files)).state).toBe('done');
    const rows = (of: readonly string[]) =>
      of.flatMap((key) =>
        ACCOUNTS.flatMap(([account]) => {
          const closing = CLOSINGS.get(`${key} ${account}`) ?? '0.00';
          const part = (Math.trunc(Number(closing) * 40) / 100).toFixed(2);
          const rest = (Number(closing) - Number(part)).toFixed(2);
          return [
            [`A${account}`, key, part],
            [`B${account}`, key, rest],
          ];
        }),
      );
    const [first, then] = [keys.slice(0, 8), keys.slice(8)];
    for (const months of [first, then])
      await bringTrialBalance(file, [['Account', 'Period', 'Balance'], ...shuffled(rows(months))]);
    agree(await shownClosings(file, keys));
  });

  it('of the first month, after the opening entries of the same month', async () => {
    const file = await newDatabase();
    expect(await bringIn(file, masters(true))).toMatchObject({ state: 'done' });
    const rows = ACCOUNTS.map(([account]) => [account!, 'FY2023-P01', CLOSINGS.get(`FY2023-P01 ${account}`) ?? '0.00']);
    await bringTrialBalance(file, [['Account', 'Period', 'Balance'], ...rows]);
    agree(await shownClosings(file, ['FY2023-P01']));
  });
});

describe('the first balances of an entity without books', () => {
  const ROWS = [
    ['account', 'period', 'amount'],
    ['1000', 'FY2026-P02', '900'],
    ['3000', 'FY2026-P02', '-600'],
    ['4000', 'FY2026-P02', '-1000'],
    ['5000', 'FY2026-P02', '700'],
  ];
  /** Opening and closing of an account as the ledger of the application shows them, in whole yen. */
  const ledgerOf = async (start: Mapping['start']) => {
    const databaseFile = await workspaceOf(tinyFiles());
    await bringTrialBalance(databaseFile, ROWS, { entity: 'TWO', start });
    const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const reply = await app.inject('/api/v1/ledger/trial-balance?scope=TWO&as_at=FY2026-P02');
    const { columns, lines } = reply.json<TrialBalanceView>();
    await app.close();
    const places = ['opening', 'closing'].map((key) => columns.findIndex((column) => column.key === key));
    const told = lines.filter(({ kind }) => kind === 'account');
    return new Map(told.map(({ id, amounts }) => [id, places.map((at) => amounts[at]!)]));
  };

  // by hand: the profit of 300 to date came in as cash, so that the year opened with cash of 600
  it('are what the year opened with, but for what the result to date brought in', async () => {
    const ledger = await ledgerOf('opened');
    expect([ledger.get('1000'), ledger.get('3000')]).toEqual([
      [600, 900],
      [-600, -600],
    ]);
    expect(ledger.get('4000')).toEqual([0, -1000]);
  });

  it('or came about in their month where that is said', async () => {
    const ledger = await ledgerOf('moved');
    expect([ledger.get('1000'), ledger.get('3000')]).toEqual([
      [0, 900],
      [0, -600],
    ]);
  });
});
