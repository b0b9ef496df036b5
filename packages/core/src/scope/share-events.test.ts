import type { AcquiredItem, Disposal } from './group-records';
import type { Holding } from './group-structure';
import { shareEvent } from './share-events';

const share = (from: string, percent: string, method = 'full'): Holding => ({
  ...{ investor: 'TOP', investee: 'SUB', from, percent, method },
});
const terms = (date: string, more: Partial<AcquiredItem> = {}): AcquiredItem => ({
  ...{ investor: 'TOP', investee: 'SUB', date, consideration: '100.00', nciMethod: '', nciFairValue: '' },
  ...{ priorInterestFairValue: '', kind: 'fair_value', item: '', account: '', localAmount: '' },
  ...{ expenseAccount: '', lifeMonths: null, ...more },
});
const sale = (date: string, keptFairValue = ''): Disposal => ({
  ...{ investor: 'TOP', investee: 'SUB', date, percentSold: '50', proceeds: '80.00', keptFairValue },
});
const SHARES = [
  share('2024-01-01', '15', 'equity'),
  share('2025-01-01', '60'),
  share('2026-01-01', '80'),
  share('2027-01-01', '30', 'equity'),
];
const told = (at: number, acquired: AcquiredItem[] = [], disposals: Disposal[] = []) => {
  const { change, lacks } = shareEvent(SHARES[at]!, SHARES, acquired, disposals);
  return [change, ...lacks];
};

describe('what has to be known of a change of shares', () => {
  it('is what was paid, and of what was held before control its fair value', () => {
    expect(told(0)).toEqual(['bought', 'consideration']);
    expect(told(1)).toEqual(['bought', 'consideration', 'prior_interest_fair_value']);
    expect(told(1, [terms('2025-01-01', { priorInterestFairValue: '9.00' })])).toEqual(['bought']);
    expect(told(2, [terms('2025-01-01')])).toEqual(['bought', 'consideration']); // of another day
    expect(told(2, [terms('2026-01-01')])).toEqual(['bought']);
  });

  it('is the fair value of others’ interests where they are told at it', () => {
    const at = (more: Partial<AcquiredItem>) =>
      told(1, [terms('2025-01-01', { priorInterestFairValue: '9.00', nciMethod: 'fair_value', ...more })]);
    expect(at({})).toEqual(['bought', 'nci_fair_value']);
    expect(at({ nciFairValue: '40.00' })).toEqual(['bought']);
  });

  it('is what was got for what was sold, and what the rest is worth where control goes', () => {
    expect(told(3)).toEqual(['sold', 'proceeds', 'kept_fair_value']);
    expect(told(3, [], [sale('2027-01-01')])).toEqual(['sold', 'kept_fair_value']);
    expect(told(3, [], [sale('2027-01-01', '30.00')])).toEqual(['sold']);
  });
});
