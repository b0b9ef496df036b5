import { accountOf, type Account } from '../account/nature';
import { linesOf, type SheetRow } from './planning-sheet';
import { watchPlan, watchTotals } from './watch-plan';

const account = (number: string, nature: Account['nature'] = 'expense'): Account =>
  accountOf(number, nature, { name: `Account ${number}` });
const ACCOUNTS = [account('6000'), account('6100'), account('4000', 'income'), account('1000', 'asset')];
const lines = (figures: Record<string, number[]>) =>
  linesOf(Object.entries(figures).map(([number, held]) => ({ account: number, combination: '\u001f', figures: held })));
const OWN = [false, true, true, true, true];
/** A row of costs, made of two accounts. */
const ROWS: SheetRow[] = [
  {
    ...{ id: 'costs', kind: 'layout', label: 'Costs', depth: 0, style: 'detail', compiled: 0, decimals: undefined },
    leaves: ['6000', '6100'].map((number) => ({ account: number, sign: 1, combination: '\u001f' })),
    ...{ isBalance: false, isLevel: false, shownSign: -1, direction: 'down', opens: 'costs', isOpen: false },
    unit: { kind: 'currency', code: 'EUR', digits: 2 },
  },
];
const watch = (plan: Record<string, number[]>, past: Record<string, number[]>) =>
  watchPlan({ lines: lines(plan), lastYear: lines(past), rows: ROWS }, ACCOUNTS, OWN);

describe('watchPlan', () => {
  it('questions a month near a third, a quarter or a twelfth of its history, or so many times it', () => {
    const found = watch({ '6000': [9, 1000, 3050, 1000, 250] }, { '6000': [9, 1000, 1000, 1010, 1000] });
    expect(found.map(({ kind, month, factor }) => [kind, month, factor])).toEqual([
      ['grain', 2, 3],
      ['grain', 4, 1 / 4],
    ]);
  });

  it('speaks of the row where all of it is off, and then not of its accounts', () => {
    const past = { '6000': [0, 100, 100, 100, 100], '6100': [0, 200, 200, 200, 200] };
    const found = watch({ '6000': [0, 100, 300, 100, 100], '6100': [0, 200, 600, 200, 200] }, past);
    expect(found).toMatchObject([{ kind: 'grain', row: 'costs', name: 'Costs', month: 2, planned: 900, history: 300 }]);
    // of one account alone the row says nothing
    const one = watch({ '6000': [0, 100, 300, 100, 100], '6100': [0, 200, 200, 200, 200] }, past);
    expect(one.map(({ row, account: number, month }) => [row, number, month])).toEqual([[undefined, '6000', 2]]);
  });

  it('leaves a row in peace that is three times what it was all along', () => {
    expect(watch({ '6000': [0, 3000, 3000, 3000, 3000] }, { '6000': [0, 1000, 1000, 1000, 1000] })).toEqual([]);
  });

  it('names accounts with actuals and no plan, and the reverse, by the own months alone', () => {
    const found = watch({ '6000': [5, 0, 0, 0, 0], '4000': [0, -7, 0, 0, 0] }, { '6000': [0, 10, 10, 10, 10] });
    expect(found).toMatchObject([
      { kind: 'no_plan', account: '6000', planned: 0, history: 40 },
      { kind: 'no_actuals', account: '4000', planned: 7, history: 0 },
    ]);
  });

  it('says nothing about balances, nor about what is as it was', () => {
    expect(watch({ '1000': [1, 2, 3, 4, 5], '6100': [1, 1, 1, 1, 1] }, { '6100': [1, 1, 1, 1, 1] })).toEqual([]);
  });
});

describe('watchTotals', () => {
  const RED = '\u001f\u001fteam=red';
  const BLUE = '\u001f\u001fteam=blue';
  const split = (red: number[], blue: number[], number = '6000') =>
    linesOf([
      { account: number, combination: RED, figures: red },
      { account: number, combination: BLUE, figures: blue },
    ]);
  const totals = (now: ReturnType<typeof split>, before: ReturnType<typeof split>) =>
    watchTotals(now, before, ACCOUNTS, OWN);

  it('names the one value that was revised while the others were left, with the total before and after', () => {
    const found = totals(split([0, 10, 25, 10, 10], [0, 5, 5, 5, 5]), split([0, 10, 10, 10, 10], [0, 5, 5, 5, 5]));
    expect(found).toMatchObject([
      { kind: 'one_value', account: '6000', month: 2, history: 15, planned: 30, combination: RED },
    ]);
    const income = totals(
      split([0, -9, 0, 0, 0], [0, -1, 0, 0, 0], '4000'),
      split([0, -4, 0, 0, 0], [0, -1, 0, 0, 0], '4000'),
    );
    expect(income).toMatchObject([{ history: 5, planned: 10 }]);
  });

  it('is quiet where several values moved, where there is one alone, and in months that are actual', () => {
    const before = split([7, 10, 10, 10, 10], [1, 5, 5, 5, 5]);
    expect(totals(split([7, 10, 12, 10, 10], [1, 5, 3, 5, 5]), before)).toEqual([]);
    expect(totals(split([9, 10, 10, 10, 10], [1, 5, 5, 5, 5]), before)).toEqual([]);
    expect(totals(lines({ '6000': [0, 2, 0, 0, 0] }), lines({ '6000': [0, 1, 0, 0, 0] }))).toEqual([]);
    expect(totals(split([0, 3, 0, 0, 0], [0, 0, 0, 0, 0]), split([0, 1, 0, 0, 0], [0, 0, 0, 0, 0]))).toEqual([]);
  });
});
