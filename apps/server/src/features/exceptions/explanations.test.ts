import type { FastifyInstance } from 'fastify';
import type { ExplanationsView, RemarkText, RemarkView } from '@margin-lens/contract';
import type { Explanation } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// by hand: in January 1,000 of sales against 900 planned; in February 300 of rent and 40 from a sale of scrap that was never
// planned; in March 280 of the rent come back, and in April nothing
const journals = `${String(tinyFiles()['journals.csv']).trimEnd()}
ONE,J3,,1,2026-02-20,,1000,40.00,,,Scrap,
ONE,J3,,2,2026-02-20,,4000,,40.00,,Scrap,
ONE,J4,,1,2026-03-10,,1000,280.00,,,Rent given back,
ONE,J4,,2,2026-03-10,,5000,,280.00,,Rent given back,
`;
let app: FastifyInstance;
beforeEach(async () => {
  const materiality = { amount: 20, percent: 1 };
  const settings = { name: 'Tiny', reporting_currency: 'EUR', materiality };
  const databaseFile = await workspaceOf(
    tinyFiles({ 'workspace.json': JSON.stringify(settings), 'journals.csv': journals }),
  );
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());
const ask = asking(() => app);

const explain = async (row: string, explains: Explanation, more: Partial<RemarkText> = {}): Promise<RemarkView> => {
  const remark: RemarkText = {
    ...{ scope: 'ONE', period: 'FY2026-P02', statement: 'income_statement', row, column: '', columns: '' },
    ...{ text: `About ${row}`, quotes: [], state: 'open', carries: '', explains, ...more },
  };
  const { status, body } = await ask<RemarkView>('POST', '/remarks', remark);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
};
const told = async (as_at = 'FY2026-P02', more: Record<string, string> = {}) => {
  const query = new URLSearchParams({ scope: 'ONE', as_at, statement: 'income_statement', ...more });
  return (await ask<ExplanationsView>('GET', `/exceptions/explanations?${query}`)).body;
};
const RENT: Explanation = { kind: 'timing', amount: -30_000, in: 'FY2026-P02', returns: 'FY2026-P03' };
const SCRAP: Explanation = { kind: 'one_off', amount: 4_000, in: 'FY2026-P02', returns: '' };

describe('what remarks say of a variance', () => {
  it('tells it apart by kind, with what nobody told', async () => {
    await explain('rent', RENT);
    await explain('goods', SCRAP);
    const view = await told();
    // 740 against 900: 160 short, of which 300 are timing and 40 for once; the 100 of January more than planned are untold
    expect(view.variance).toBe(-16_000);
    expect(view.parts.map(({ kind, amount }) => [kind, amount])).toEqual([
      ['timing', -30_000],
      ['permanent', 0],
      ['one_off', 4_000],
    ]);
    expect(view.rest).toBe(10_000);
  });

  it('leads from the reported to the underlying result by what does not come again alone', async () => {
    await explain('rent', RENT);
    await explain('goods', SCRAP, { text: 'Scrap sold: {q1}' });
    const view = await told();
    expect([view.reported, view.underlying]).toEqual([74_000, 70_000]);
    expect(view.terms).toEqual([expect.objectContaining({ label: 'Scrap sold', amount: -4_000 })]);
    // in January it had not come about; of March alone it is nothing
    expect((await told('FY2026-P01')).underlying).toBe(100_000);
    const march = await told('FY2026-P03', { span: 'period' });
    expect([march.reported, march.underlying]).toEqual([28_000, 28_000]);
    expect((await told('FY2026-P03')).underlying).toBe(98_000);
  });

  it('looks for what is a matter of timing in the month that gives it back', async () => {
    await explain('rent', RENT);
    await explain('goods', { ...SCRAP, kind: 'timing', returns: 'FY2026-P04' });
    const february = await told();
    expect(february.explained[0]!.returns).toMatchObject({ state: 'to_come', observed: null });
    expect(february.due).toEqual([]);
    // 280 of 300: no more is missing than the limit of 20
    const march = await told('FY2026-P03');
    expect(march.due).toEqual([
      expect.objectContaining({
        row: 'rent',
        returns: expect.objectContaining({ state: 'returned', observed: 28_000 }),
      }),
    ]);
    const april = await told('FY2026-P04');
    expect(april.due.map(({ row, returns }) => [row, returns!.state])).toEqual([['goods', 'not_returned']]);
    expect((await told('FY2026-P06')).due).toHaveLength(1); // late until it comes or is said otherwise
  });

  it('counts a matter once that is carried on from month to month, as it was said last', async () => {
    const first = await explain('goods', SCRAP);
    await explain('goods', { ...SCRAP, amount: 3_000 }, { period: 'FY2026-P03', carries: first.id });
    expect((await told('FY2026-P03')).underlying).toBe(102_000 - 3_000);
    expect((await told()).underlying).toBe(70_000);
  });
});
