import type { FastifyInstance } from 'fastify';
import type { StatementView, TraceView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import {
  CASE_LAYOUTS,
  caseAccounts,
  CASES,
  caseTable,
  keyOf,
  minorOf,
  packageOfCase,
  partsOfCase,
  type CaseName,
} from '../../../test/case03';
import { workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
beforeAll(async () => {
  app = await buildApp({ databaseFile: await workspaceOf(packageOfCase()), webRoot: '/nonexistent' });
});
afterAll(() => app.close());
const ask = asking(() => app);

const shown = async (scope: string, year: number, currency?: string): Promise<StatementView> => {
  const context = { scope, as_at: `FY${year}-P12`, ...(currency && { currency }) };
  const reply = await ask<StatementView>('POST', '/statements/preview', { ...CASE_LAYOUTS, context });
  if (reply.status !== 200) throw new Error(JSON.stringify(reply.body));
  return reply.body;
};
const row = (view: StatementView, account: string) =>
  view.rows.find(({ id }) => id === `a${account}`)!.cells.map(({ amount, reason }) => amount ?? reason);
const sum = (amounts: readonly number[]) => amounts.reduce((a, b) => a + b, 0);
const numbers = caseAccounts.map(({ account }) => account!);

/** Expected closings of an account over the months of a year, in minor units. */
const closings = (name: CaseName, account: string, year: number): number[] =>
  caseTable(name, 'translated_trial_balance.csv')
    .filter((each) => each['account'] === account && each['period']!.startsWith(String(year)))
    .map((each) => minorOf(name, each['presentation_rounded']!));

// Published reference case 3, see test/reference/case03/README.md: IAS 21.39 to 21.41
describe('a statement in another currency', () => {
  it.each(CASES)('%s: balances at closing rates, results at averages, equity as it came about', async (name) => {
    const { entity, to } = partsOfCase(name);
    for (const year of [2024, 2025]) {
      const view = await shown(entity, year, to);
      expect(view.scope).toMatchObject({ code: entity, currency: to });
      for (const account of numbers) {
        const expected = closings(name, account, year);
        expect(expected).toHaveLength(12);
        expect([account, ...row(view, account).slice(0, 12)]).toEqual([account, ...expected]);
      }
      // debits and credits agree, and the books balance in every month
      expect(view.trialBalance!.debit).toBe(view.trialBalance!.credit);
    }
  });

  it('moves by what is posted and by the exchange difference, so that opening and movement are the closing', async () => {
    const view = await shown('NAD', 2025, 'EUR');
    for (const account of numbers) {
      const isOfYear = Number(account) >= 4000;
      const before = isOfYear ? 0 : closings('NAD_JPY_to_EUR', account, 2024).at(-1)!;
      const moved = row(view, account).at(-1) as number;
      // the result of the year before has moved into retained earnings
      const rolled =
        account === '3200'
          ? sum(
              numbers
                .filter((each) => Number(each) >= 4000)
                .map((each) => closings('NAD_JPY_to_EUR', each, 2024).at(-1)!),
            )
          : 0;
      expect([account, before + rolled + moved]).toEqual([account, closings('NAD_JPY_to_EUR', account, 2025).at(-1)]);
    }
  });

  it('is as ever in its own currency', async () => {
    const own = await shown('NAD', 2024);
    expect(await shown('NAD', 2024, 'JPY')).toMatchObject({ rows: own.rows });
  });
});

describe('equity at the rates of its days', () => {
  it.each(['NAD_JPY_to_EUR', 'TCP_KWD_to_EUR'] as const)('%s: as at those of its months', async (name) => {
    const files = packageOfCase();
    // the case has one day of postings a month, its last, and a rate of that transaction
    const spot = String(files['rates.csv']).replace(
      /,FY(\d{4})-P(\d{2}),,historical,/g,
      (_, year: string, month: string) =>
        `,,${new Date(Date.UTC(Number(year), Number(month), 0)).toISOString().slice(0, 10)},spot,`,
    );
    expect(spot).not.toContain('historical');
    const databaseFile = await workspaceOf({ ...files, 'rates.csv': spot });
    const other = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const { entity, to } = partsOfCase(name);
    const context = { scope: entity, as_at: 'FY2025-P12', currency: to };
    const payload = { ...CASE_LAYOUTS, context };
    const view = (
      await other.inject({ method: 'POST', url: '/api/v1/statements/preview', payload })
    ).json<StatementView>();
    await other.close();
    for (const account of numbers)
      expect([account, ...row(view, account).slice(0, 12)]).toEqual([account, ...closings(name, account, 2025)]);
  });
});

describe('a group', () => {
  it('is the sum of its entities, each in the currency of the group', async () => {
    for (const year of [2024, 2025]) {
      const view = await shown('PAIR', year);
      expect(view.scope).toEqual({ code: 'PAIR', name: 'Pair', currency: 'EUR' });
      for (const account of numbers) {
        const [nad, tcp] = [closings('NAD_JPY_to_EUR', account, year), closings('TCP_KWD_to_EUR', account, year)];
        expect([account, ...row(view, account).slice(0, 12)]).toEqual([
          account,
          ...nad.map((amount, at) => amount + tcp[at]!),
        ]);
      }
    }
  });

  const trace = async (address: string) => {
    const query = new URLSearchParams({ scope: 'PAIR', as_at: 'FY2024-P12', columns: 'twelve_months', address });
    return (await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`)).body;
  };

  it('explains a figure by entity, by rate and down to the journal lines', async () => {
    const month = await trace('movement~6000~FY2024-P01~1');
    expect(month).toMatchObject({ operation: 'members', figure: { amount: 2_892_489 + 12_476_368 } });
    expect(month.terms.map(({ label, figure }) => [label.kind === 'entity' && label.entity, figure.amount])).toEqual([
      ['NAD', 2_892_489],
      ['TCP', 12_476_368],
    ]);
    const nad = await trace(month.terms[0]!.address);
    const at = { type: 'average', rate: { rate: '0.00636143', isInverse: false }, stated: [] };
    expect(nad).toMatchObject({ operation: 'scaled', turned: { from: 'JPY', to: 'EUR', at, less: null, rest: 0 } });
    const [yen] = nad.terms;
    expect(yen!.figure).toEqual({ amount: 4_546_917, unit: { kind: 'currency', code: 'JPY', digits: 0 } });
    const lines = await trace(yen!.address);
    expect(lines).toMatchObject({ operation: 'postings', postings: { count: 1, total: 4_546_917 } });
  });

  it('explains a balance by its own closing and the closing rate', async () => {
    const cash = await trace('closing~1000~FY2024-P03~1~member:NAD');
    const [expected] = caseTable('NAD_JPY_to_EUR', 'translated_trial_balance.csv').filter(
      ({ period, account }) => period === '2024-03' && account === '1000',
    );
    expect(cash.figure.amount).toBe(minorOf('NAD_JPY_to_EUR', expected!['presentation_rounded']!));
    expect(cash).toMatchObject({
      operation: 'scaled',
      turned: { at: { type: 'closing', rate: { rate: expected!['rate'] } } },
    });
    expect(cash.terms.map(({ figure }) => figure.amount)).toEqual([Number(expected!['local_balance_ytd_for_pl'])]);
  });

  it('explains how the reserve moves by its steps, down to rates and postings', async () => {
    for (const step of caseTable('NAD_JPY_to_EUR', 'cta_rollforward.csv')) {
      const movement = await trace(`exchange_difference~3900~${keyOf(step['period']!)}~-1~member:NAD`);
      const amountOf = (what: string) =>
        movement.terms
          .filter(({ label }) => label.kind === 'entity' && label.what === what)
          .reduce((total, { figure }) => total + figure.amount!, 0);
      const cents = (name: string) => minorOf('NAD_JPY_to_EUR', step[name]!);
      expect(amountOf('reserve_net_assets')).toBe(cents('opening_net_assets_x_rate_change'));
      expect(amountOf('reserve_result')).toBe(cents('profit_x_closing_less_average'));
      expect(amountOf('reserve_other')).toBe(
        cents('dividend_x_closing_less_spot') + cents('capital_x_closing_less_spot'),
      );
      expect(movement.sum).toBe(movement.figure.amount);
      // no more than the rounding of opening, closing and each step
      expect(Math.abs(amountOf('reserve_rounding'))).toBeLessThanOrEqual(2);
    }
    const march = await trace('exchange_difference~3900~FY2024-P03~-1~member:NAD');
    const result = await trace(
      march.terms.find(({ label }) => label.kind === 'entity' && label.what === 'reserve_result')!.address,
    );
    expect(result).toMatchObject({
      operation: 'at_difference',
      turned: { at: { rate: { rate: '0.00641744' } }, less: { type: 'average', rate: { rate: '0.00640177' } } },
    });
    const sales = result.terms.find(({ label }) => label.kind === 'period' && label.number === '4000')!;
    expect(await trace(sales.address)).toMatchObject({ operation: 'postings', postings: { count: 1 } });
  });

  it('says what capital was worth when it came', async () => {
    const opening = await trace('opening_entries~3000~FY2024-P01~-1~member:NAD');
    expect(opening).toMatchObject({
      operation: 'scaled',
      figure: { amount: 23_808_000 },
      turned: { at: { stated: [{ date: '2023-12-31', local: -40_000_000, amount: -23_808_000 }] } },
    });
  });
});
