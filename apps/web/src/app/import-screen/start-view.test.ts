import { isReady, proposedAccounts, sumsOf } from './start-view';

describe('what a workspace is started with', () => {
  // a trial balance by hand: assets 150, liabilities 60, equity 70, income 50, expenses 30, so a profit of 20
  const survey = {
    entities: ['MAIN'],
    accounts: [
      { number: '1000', name: 'Cash at bank', stand: 150 },
      { number: '2000', name: 'Trade payables', stand: -60 },
      { number: '3000', name: 'Share capital', stand: -70 },
      { number: '4000', name: 'Sales', stand: -50 },
      { number: '5000', name: 'Office rent', stand: 30 },
    ],
    years: { from: 2026, to: 2026 },
    undated: 0,
    values: [],
  };

  it('is proposed from names and numbers, and adds up', () => {
    const proposed = proposedAccounts(survey);
    const rows = [...proposed.values()].map(({ cells }) => cells);
    expect(rows.map((cells) => cells[2])).toEqual(['asset', 'liability', 'equity', 'income', 'expense']);
    expect([...proposed.values()].every(({ because }) => because !== '')).toBe(true);
    const sums = sumsOf(rows, (number) => proposed.get(number)!.stand);
    expect(sums).toEqual({ assets: 150, liabilities: 60, equity: 70, profit: 20, none: 0 });
    expect(sums.assets).toBe(sums.liabilities + sums.equity + sums.profit);
  });

  it('is not ready without a name, a currency or the nature of an account', () => {
    const books = {
      name: 'A',
      entities: [{ code: 'MAIN', name: 'A', currency: 'EUR' }],
      calendar: { kind: 'months' as const, firstMonth: 1, namedAfter: 'end' as const, adjustments: 0 },
      years: { from: 2025, to: 2027 },
      accounts: [{ number: '1', name: 'Cash', nature: 'asset' as const, heading: '', subHeading: '', role: '' }],
    };
    expect(isReady(books)).toBe(true);
    expect(isReady({ ...books, name: ' ' })).toBe(false);
    expect(isReady({ ...books, entities: [{ code: 'MAIN', name: 'A', currency: 'EURO' }] })).toBe(false);
    expect(isReady({ ...books, accounts: [{ ...books.accounts[0]!, nature: '' }] })).toBe(false);
  });
});
