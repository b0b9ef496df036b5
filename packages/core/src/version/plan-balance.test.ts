import fc from 'fast-check';
import { TEST_ACCOUNTS } from '../../test/properties/random-books';
import { runs } from '../../test/runs';
import { line, LINES, MONTHS, NONE } from '../../test/small-plan';
import { applyChanges } from './edit-figures';
import { balanceBy, planDifference, plansBalanceSheet } from './plan-balance';
import { linesOf } from './planning-sheet';

const OWN = MONTHS.map((_, at) => at >= 2);

describe('the balance sheet of a plan', () => {
  it('is out by debits less credits since the first own month, and not in those before', () => {
    const lines = linesOf([
      line('4000', NONE, -900, -900, -1000, -500),
      line('6000', NONE, 0, 0, 300, 500),
      line('1000', NONE, 0, 0, 800),
      line('9000', NONE, 7, 7, 7, 7),
    ]);
    // June: 300 + 800 − 1,000 = 100; July: nothing more; months before are actual, and statistics are no money
    const difference = planDifference(lines, TEST_ACCOUNTS, OWN);
    expect(difference.slice(0, 5)).toEqual([0, 0, 10_000, 10_000, 10_000]);
  });

  it('is not asked of a plan of income and expense alone', () => {
    const sales = line('4000', NONE, 0, 0, -100);
    expect(plansBalanceSheet(linesOf([sales, line('1000', NONE, 5)]), TEST_ACCOUNTS, OWN)).toBe(false);
    expect(plansBalanceSheet(linesOf([sales, line('1000', NONE, 0, 0, 5)]), TEST_ACCOUNTS, OWN)).toBe(true);
  });

  it('balances in every month once one account has taken the difference, wherever it began', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1_000_000, max: 1_000_000 }), { minLength: 12, maxLength: 12 }),
        fc.subarray(
          MONTHS.map((_, at) => at).filter((at) => OWN[at]),
          { minLength: 1 },
        ),
        (figures, months) => {
          const sales = { account: '4000', combination: NONE, figures };
          const lines = linesOf([sales, line('1000', NONE, 1, 1, 1)]);
          const before = planDifference(lines, TEST_ACCOUNTS, OWN);
          const after = applyChanges(lines, balanceBy('1000', months, lines, before), 12);
          const difference = planDifference(after, TEST_ACCOUNTS, OWN);
          for (const month of months) expect(difference[month]).toBe(0);
          expect(after.get([...lines.keys()][0]!)).toBe(lines.get([...lines.keys()][0]!));
        },
      ),
      runs(200),
    );
  });

  it('is balanced where the account has its largest figures when it is planned by values only', () => {
    const [change] = balanceBy('1000', [3], LINES, [0, 0, 0, 500, 500]);
    const held = [...LINES.values()].filter(({ account }) => account === '1000');
    expect(held.map(({ combination }) => combination)).toContain(change!.combination);
    expect(change!.after - change!.before).toBe(-500);
  });
});
