import { SAMPLE_VIEW } from '../testing/sample-view';
import { currencyUnit } from './currency-unit';
import { tieOutsOf } from './tie-outs';

describe('tieOutsOf', () => {
  it('says what does not tie, by how much and why', () => {
    const [balance, profit, coverage] = tieOutsOf(SAMPLE_VIEW, currencyUnit('EUR'));
    expect(balance).toMatchObject({ agrees: true, says: 'Debits and credits agree at 50.00' });
    expect(profit).toMatchObject({ agrees: false, brief: 'Profit off by 28,700.00' });
    expect(coverage).toMatchObject({ agrees: false, brief: '2 of 3 accounts placed once' });
    expect(coverage!.says).toContain('6510 Carbon allowances has no row');
  });

  it('agrees when every used account has a row', () => {
    const coverage = { ...SAMPLE_VIEW.coverage, misplaced: [] };
    const checks = tieOutsOf({ ...SAMPLE_VIEW, coverage, profit: [] }, currencyUnit('EUR'));
    expect(checks.map(({ name, agrees }) => [name, agrees])).toEqual([
      ['Trial balance', true],
      ['Coverage', true],
    ]);
  });
});
