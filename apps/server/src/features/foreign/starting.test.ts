import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  NOTHING_NEW,
  proposeClassification,
  type CalendarRule,
  type Mapping,
  type StartingBooks,
} from '@margin-lens/core';
import { newDatabase, newFolder, query } from '../../../test/tiny-package';
import { Store } from '../../store/store';
import { importPackage } from '../imports/import-package';
import { foreignContext, knownCodes } from './foreign-context';
import { openForeign } from './foreign-source';
import { inspectFile } from './inspect-file';
import { startingContext, startingSource } from './starting-source';
import { surveyFile, wideCalendar } from './survey-file';

/** Reference case 1: the trial balances of an invented entity, computed with Python's standard library. See its README. */
const CASE = path.resolve(__dirname, '../../../../../packages/core/test/golden/case01');
const rowsOf = (file: string) =>
  readFileSync(path.join(CASE, file), 'utf8')
    .trim()
    .split(/\r?\n/)
    .slice(1)
    .map((line) => line.split(','));
const EXPECTED = rowsOf('expected/trial_balance.csv');
const ACCOUNTS = rowsOf('input/accounts.csv').filter(([, , type]) => type !== 'statistic' && type !== 'statistical');
const MONTHS = [
  'Apr 2022',
  'May 2022',
  'Jun 2022',
  'Jul 2022',
  'Aug 2022',
  'Sep 2022',
  'Oct 2022',
  'Nov 2022',
  'Dec 2022',
  'Jan 2023',
  'Feb 2023',
  'Mar 2023',
];
const RULE: CalendarRule = { kind: 'months', firstMonth: 4, namedAfter: 'end', adjustments: 1 };

const closingOf = (account: string, month: number): string =>
  EXPECTED.find(
    ([, period, number]) => period === `2023-P${String(month).padStart(2, '0')}` && number === account,
  )?.[7] ?? '0.00';

/** The closing balances of twelve months side by side, as another program would give them. */
function trialBalanceFile(): string {
  const rows = ACCOUNTS.map(([number, name]) => [
    number!,
    `"${name}"`,
    ...MONTHS.map((_, at) => closingOf(number!, at + 1).replace('.', ',')),
  ]);
  const totals = ['Total', '', ...MONTHS.map(() => '0,00')];
  const file = path.join(newFolder(), 'trial balance.csv');
  writeFileSync(file, [['Account', 'Description', ...MONTHS], ...rows, totals].map((row) => row.join(';')).join('\n'));
  return file;
}

describe('a workspace started from one trial balance', () => {
  const file = trialBalanceFile();
  const name = path.basename(file);
  let database: string;
  let mapping: Mapping;
  beforeAll(async () => {
    database = await newDatabase();
    const store = await Store.open(database);
    const books = (await store.moment())!;
    const known = { ...knownCodes(await foreignContext(books)), calendar: wideCalendar(RULE, 2026) };
    const inspection = await inspectFile({ location: file, fileName: name, known, kept: [] });
    if (!('mapping' in inspection)) throw new Error('cannot be read');
    mapping = { ...inspection.mapping, constants: { entity: 'OSK' } };
    await books.close();
    await store.close();
  });

  it('recognises its months in an empty workspace', () => {
    expect(mapping).toMatchObject({ purpose: 'trial_balance', decimal: ',', delimiter: ';' });
    expect(Object.keys(mapping.columns)).toEqual(
      expect.arrayContaining(['account', 'account_name', 'month:FY2023-P01', 'month:FY2023-P12']),
    );
  });

  it('is surveyed for its accounts, names and years, totals passed over', async () => {
    const survey = await surveyFile(file, name, mapping, wideCalendar(RULE, 2026));
    if ('findings' in survey) throw new Error('cannot be read');
    expect(survey).toMatchObject({ entities: ['OSK'], years: { from: 2023, to: 2023 }, undated: 0 });
    expect(survey.accounts.find(({ number }) => number === '1000')).toEqual({
      number: '1000',
      name: 'Cash at bank',
      stand: Number(closingOf('1000', 12)),
    });
    expect(survey.accounts.map(({ number }) => number)).not.toContain('Total');
    // natures proposed from numbers, names and balances against those that the case gives
    const types = new Map(ACCOUNTS.map(([number, , type]) => [number, type]));
    const wrong = proposeClassification(survey.accounts).filter(({ number, nature }) => nature !== types.get(number));
    expect(wrong).toEqual([]);
  });

  it('closes every month as the trial balance says', async () => {
    const books: StartingBooks = {
      name: 'Oskelby',
      entities: [{ code: 'OSK', name: 'Oskelby Tileworks', currency: 'EUR' }],
      calendar: RULE,
      years: { from: 2022, to: 2024 },
      accounts: ACCOUNTS.map(([number, own, type]) => ({
        number: number!,
        name: own!,
        nature: type as 'asset',
        heading: '',
        subHeading: '',
        role: '',
      })),
    };
    const store = await Store.open(database);
    const source = startingSource(await openForeign(file, name, mapping, startingContext(books, NOTHING_NEW)), books);
    const outcome = await importPackage(store, {
      source,
      fileName: name,
      digest: await source.digest(),
      person: 'Tester',
      onProgress: () => undefined,
      isCancelled: () => false,
      now: () => new Date('2026-11-25T10:00:00Z'),
      mapping,
    });
    await store.close();
    expect(outcome).toMatchObject({ state: 'done', findings: { errors: 0 } });
    const closings = query<{ number: string; period: number; stand: number }>(
      database,
      `select a.number, p.period, sum(b.debit - b.credit) as stand from balance b join account a on a.id = b.account
       join fiscal_period p on p.calendar = 'MAIN' and p.fiscal_year = 2023 join fiscal_period q on q.id = b.period and q.fiscal_year = 2023 and q.period <= p.period
       group by 1, 2`,
    );
    const ours = new Map(closings.map(({ number, period, stand }) => [`${number} ${period}`, stand]));
    for (const [number] of ACCOUNTS)
      for (let month = 1; month <= 12; month++)
        expect([number, month, ours.get(`${number} ${month}`) ?? 0]).toEqual([
          number,
          month,
          Math.round(Number(closingOf(number!, month)) * 100),
        ]);
    expect(query(database, "select name, currency, calendar from entity where code = 'OSK'")).toEqual([
      { name: 'Oskelby Tileworks', currency: 'EUR', calendar: 'MAIN' },
    ]);
  });
});
