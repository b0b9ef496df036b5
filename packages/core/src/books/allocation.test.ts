import fc from 'fast-check';
import { accountOf } from '../account/nature';
import { combinationOf } from '../account/combination';
import { checkAllocation, type AllocationRule } from './allocation';
import { netOf, visitOne, type BookRows } from './book-rows';
import { movesWithin, spreadCosts, SpreadCombinations, withMoves } from './spread-costs';

const TREE = {
  name: 'team',
  values: ['it', 'hr', 'press', 'sales'].map((value) => ({ value, name: value.toUpperCase(), parent: '' })),
};

const ruleOf = (method: AllocationRule['method'], ...steps: [from: string, to: string[]][]): AllocationRule => ({
  ...{ id: 'rule', name: 'Rule', dimension: 'team', method },
  accounts: { include: [{ by: 'nature', nature: 'expense' }] },
  steps: steps.map(([from, to], at) => ({
    ...{ id: `s${at}`, name: `Step ${at + 1}`, from: [from], to },
    key: { by: 'fixed', weights: to.map((value, place) => ({ value, weight: place + 1 })) },
  })),
});

const checked = (rule: AllocationRule, tree = TREE) =>
  checkAllocation(rule, { accounts: [], entities: [], trees: [tree] });
const codesOf = (rule: AllocationRule) => checked(rule).map(({ code }) => code);

describe('a rule that costs are spread by', () => {
  it('is refused where costs would come back, the circle named', () => {
    const circle = ruleOf('step_down', ['it', ['hr', 'press']], ['hr', ['it', 'sales']]);
    const [found] = checked(circle);
    expect(found).toMatchObject({ code: 'CORE_ALLOCATION_CIRCLE', params: { circle: 'IT → HR → IT' } });
    expect(codesOf(ruleOf('step_down', ['it', ['hr', 'press']], ['hr', ['press', 'sales']]))).toEqual([]);
    // the direct method leaves out what pools give each other
    expect(codesOf(ruleOf('direct', ['it', ['hr', 'press']], ['hr', ['sales']]))).toEqual(['CORE_ALLOCATION_POOL']);
  });

  it('is refused for what there is not, and for itself', () => {
    expect(codesOf(ruleOf('direct', ['it', ['it']]))).toEqual(['CORE_ALLOCATION_SELF']);
    expect(codesOf(ruleOf('direct', ['it', ['ops']]))).toEqual(['CORE_ALLOCATION_VALUE']);
    expect(codesOf({ ...ruleOf('direct', ['it', ['hr']]), dimension: 'shop' })).toEqual(['CORE_ALLOCATION_DIMENSION']);
    // below what gives is part of it
    const below = {
      ...TREE,
      values: TREE.values.map((each) => (each.value === 'hr' ? { ...each, parent: 'it' } : each)),
    };
    const [found] = checked(ruleOf('direct', ['it', ['hr']]), below);
    expect(found?.code).toBe('CORE_ALLOCATION_SELF');
  });
});

describe('costs that are spread', () => {
  const ACCOUNTS = [accountOf('6000', 'expense'), accountOf('6100', 'expense'), accountOf('4000', 'income')];
  const TEAMS = ['it', 'hr', 'press', 'sales', ''];
  const PERIODS = 3;
  const posting = fc.record({
    account: fc.nat(ACCOUNTS.length - 1),
    period: fc.nat(PERIODS - 1),
    team: fc.nat(TEAMS.length - 1),
    amount: fc.integer({ min: -1_000_000, max: 1_000_000 }),
  });
  const steps = fc.constantFrom<[string, string[]][]>(
    [['it', ['press', 'sales']]],
    [
      ['it', ['hr', 'press', 'sales']],
      ['hr', ['press', 'sales']],
    ],
  );

  it('are none the less and none the more, in every account and month; pools are empty then (property)', () => {
    fc.assert(
      fc.property(fc.array(posting, { maxLength: 40 }), steps, (postings, ofSteps) => {
        const texts = TEAMS.map((team) => combinationOf(new Map(team === '' ? [] : [['team', team]])));
        const combinations = new SpreadCombinations((id) => texts[id - 1]!);
        const rows: BookRows = (visit) => {
          const tell = visitOne(visit);
          for (const { account, period, team, amount } of postings)
            tell(account, period, false, combinations.idOf(team + 1), amount, 0, 0);
        };
        const rule = ruleOf('step_down', ...ofSteps);
        const source = { rule, accounts: ACCOUNTS, trees: [TREE], rows, before: () => undefined, combinations };
        const spread = spreadCosts({ ...source, periods: PERIODS });
        const sumsOf = (of: BookRows, keyOf: (account: number, period: number, combination: number) => string) => {
          const sums = new Map<string, number>();
          of((account, period, _, combination, row, amounts) => {
            const key = keyOf(account, period, combination);
            sums.set(key, (sums.get(key) ?? 0) + netOf(amounts, row));
          });
          return Object.fromEntries([...sums].filter(([, sum]) => sum !== 0).sort());
        };
        const after = withMoves(rows, movesWithin(spread));
        const byPlace = (account: number, period: number) => `${account} ${period}`;
        expect(sumsOf(after, byPlace)).toEqual(sumsOf(rows, byPlace));
        const byTeam = (account: number, _: number, combination: number) =>
          `${ACCOUNTS[account]!.nature} ${combinations.all.textOf(combination)}`;
        const pools = new Set(ofSteps.map(([from]) => `expense ${texts[TEAMS.indexOf(from)]!}`));
        for (const key of Object.keys(sumsOf(after, byTeam))) expect(pools).not.toContain(key);
        // income stays where it is
        const ofIncome = (all: Record<string, number>) =>
          Object.entries(all).filter(([key]) => key.startsWith('income'));
        expect(ofIncome(sumsOf(after, byTeam))).toEqual(ofIncome(sumsOf(rows, byTeam)));
      }),
    );
  });
});
