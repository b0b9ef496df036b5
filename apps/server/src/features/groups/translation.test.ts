import type { FastifyInstance } from 'fastify';
import type { NeededRatesView, SavedTable, SetupTableView, TieOutsView, TranslationProof } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { CASES, caseTable, keyOf, minorOf, packageOfCase, partsOfCase } from '../../../test/case03';
import { workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
beforeAll(async () => {
  app = await buildApp({ databaseFile: await workspaceOf(packageOfCase()), webRoot: '/nonexistent' });
});
afterAll(() => app.close());
const ask = asking(() => app);

const proofOf = async (scope: string, asAt: string, currency?: string) => {
  const query = new URLSearchParams({ scope, as_at: asAt, ...(currency && { currency }) });
  const reply = await ask<TranslationProof>('GET', `/translation?${query}`);
  if (reply.status !== 200) throw new Error(JSON.stringify(reply.body));
  return reply.body;
};

// Published reference case 3, see test/reference/case03/README.md: the exact roll-forward of the translation adjustment
describe('the proof of the translation reserve', () => {
  it.each(CASES)('%s: step by step, exact to the last decimal, on two ways', async (name) => {
    const { entity, to } = partsOfCase(name);
    const expected = caseTable(name, 'cta_rollforward.csv');
    const months = (await Promise.all(['FY2024-P12', 'FY2025-P12'].map((asAt) => proofOf(entity, asAt, to)))).flatMap(
      ({ entities }) => entities[0]!.months.map((month) => ({ ...month, accounts: entities[0]!.others })),
    );
    expect(months.map(({ key }) => key)).toEqual(expected.map(({ period }) => keyOf(period!)));
    const number = (text: string | undefined) => Number(text).toFixed(9);
    months.forEach((month, at) => {
      const step = expected[at]!;
      const opening = Number(month.opening) + Number(month.opened);
      expect(number(String(opening))).toBe(number(step['opening_cta']));
      expect(number(month.netAssets)).toBe(number(step['opening_net_assets_x_rate_change']));
      expect(number(month.result)).toBe(number(step['profit_x_closing_less_average']));
      const other = (account: string) =>
        month.others[month.accounts.findIndex((each) => each.number === account)] ?? '0';
      expect(number(other('3000'))).toBe(number(step['capital_x_closing_less_spot']));
      expect(number(other('3200'))).toBe(number(step['dividend_x_closing_less_spot']));
      expect(number(month.closing)).toBe(number(step['closing_cta_exact']));
      expect(month.missing).toBe(month.closing);
      expect(month.difference).toBe('0');
      expect(month.shown.amount).toBe(minorOf(name, step['closing_cta']!));
      // the case counts what is over in debits
      expect(month.rounding.amount).toBe(minorOf(name, step['rounding_difference']!));
    });
  });

  it('is a tie-out, as are the rates that are needed', async () => {
    const { ties } = (await ask<TieOutsView>('GET', '/tie-outs?scope=PAIR&as_at=FY2025-P12')).body;
    const of = (check: string) => ties.filter((tie) => tie.check === check);
    expect(of('translation').map(({ subjectName, agrees }) => [subjectName, agrees])).toEqual([
      ['NAD', true],
      ['TCP', true],
    ]);
    expect(of('rates')).toMatchObject([{ left: { amount: 96 }, right: { amount: 96 }, agrees: true }]);
  });
});

describe('rates', () => {
  const needed = async () =>
    (await ask<NeededRatesView>('GET', '/rates/needed?scope=PAIR&as_at=FY2024-P06')).body.rates.filter(
      ({ from }) => from === 'KWD',
    );

  it('are needed for each currency, kind and month; what is missing or doubtful is said and does not tie', async () => {
    expect(await needed()).toHaveLength(12);
    expect((await needed()).every(({ isThere, doubt }) => isThere && doubt === null)).toBe(true);
    const table = (await ask<SetupTableView>('GET', '/setup/tables/rates')).body;
    const rateOf = (period: string, type: string) =>
      table.rows.find(({ cells }) => cells[1] === 'KWD' && cells[3] === period && cells[5] === type)!.cells;
    const [march, april] = [rateOf('FY2024-P03', 'closing'), rateOf('FY2024-P04', 'closing')];
    const inverted = [...april.slice(0, 6), (1 / Number(april[6])).toFixed(4)];
    const key = (cells: string[]) =>
      table.key.map((name) => cells[table.columns.findIndex((each) => each.name === name)]!);
    const saved = await ask<SavedTable>('PUT', '/setup/tables/rates', {
      ...{ base: table.revision, put: [inverted], remove: [key(march)] },
    });
    expect(saved.body.issues.filter(({ severity }) => severity === 'error')).toEqual([]);
    const wrong = (await needed()).filter(({ isThere, doubt }) => !isThere || doubt !== null);
    expect(wrong.map(({ period, type, isThere, doubt }) => [period, type, isThere, doubt])).toEqual([
      ['FY2024-P03', 'closing', false, null],
      ['FY2024-P04', 'closing', true, 'inverted'],
    ]);
    const { ties } = (await ask<TieOutsView>('GET', '/tie-outs?scope=PAIR&as_at=FY2024-P06')).body;
    expect(ties.filter(({ agrees }) => !agrees).map(({ check, difference }) => [check, difference])).toEqual([
      ['rates', -1],
      ['plausible_rates', -1],
    ]);
    // the reserve of the month without a rate is not told; those after it are
    const [, tcp] = (await proofOf('PAIR', 'FY2024-P05')).entities;
    expect(tcp!.months.map(({ shown }) => shown.reason ?? 'told')).toEqual([
      'told',
      'told',
      'rate_missing',
      'told',
      'told',
    ]);
  });
});
