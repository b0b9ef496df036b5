import fc from 'fast-check';
import { entity } from '../../test/properties/books-of-postings';
import type { AccountSet } from '../account/account-set';
import { accountOf } from '../account/nature';
import { combinationOf } from '../account/combination';
import { checkAllocation, type AllocationRule } from './allocation';
import { netOf, visitOne, type BookRows } from './book-rows';
import { WHOLE_BOOKS } from './books-selection';
import { movesWithin, spreadCosts, SpreadCombinations, withMoves, type Move } from './spread-costs';
import { SpreadLayer } from './spread-layer';

const statistics: AccountSet = { include: [{ by: 'nature', nature: 'statistic' }] };
const NO_IDS = { accountIds: new Map<string, number>(), partnerCodes: new Map<string, string[]>() };

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
    // one pool may keep a part, several would give each other theirs
    expect(codesOf(ruleOf('direct', ['it', ['it', 'hr']]))).toEqual([]);
    const [both] = ruleOf('direct', ['it', ['it', 'sales']]).steps;
    const several = { ...ruleOf('direct'), steps: [{ ...both!, from: ['it', 'hr'] }] };
    expect(codesOf(several)).toEqual(['CORE_ALLOCATION_SELF']);
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

describe('costs that are spread over entities', () => {
  const CODES = ['TOP', 'SUB', 'OPS'];
  const entities = CODES.map((code, at) => entity(at + 1, code));
  const accounts = [
    accountOf('6000', 'expense'),
    accountOf('1500', 'asset'),
    accountOf('2500', 'liability'),
    accountOf('9000', 'statistic'),
  ];
  const posting = fc.record({
    at: fc.nat(CODES.length - 1),
    account: fc.constantFrom(0, 3),
    period: fc.nat(2),
    team: fc.constantFrom('', 'red'),
    amount: fc.integer({ min: -1_000_000, max: 1_000_000 }),
  });
  const weights = fc.array(fc.nat(5), { minLength: 3, maxLength: 3 });
  const step = (from: string, to: string[], key: AllocationRule['steps'][number]['key']) => ({
    ...{ id: from, name: from, from: [from], to, key },
  });

  it('leave each in balance, and all of them as they were, in every account and month (property)', () => {
    fc.assert(
      fc.property(
        fc.array(posting, { maxLength: 30 }),
        weights,
        fc.constantFrom<AllocationRule['method']>('direct', 'step_down'),
        fc.boolean(),
        (postings, parts, method, keepsOwn) => {
          const fixed = { by: 'fixed' as const, weights: CODES.map((value, at) => ({ value, weight: parts[at]! })) };
          const counted = { by: 'accounts' as const, of: 'closing' as const, accounts: statistics };
          const rule: AllocationRule = {
            ...{ id: 'rule', name: 'Rule', dimension: 'entity', method },
            ...{ accounts: { include: [{ by: 'nature', nature: 'expense' }] } },
            clearing: { receivable: '1500', payable: '2500' },
            steps: [
              step('TOP', keepsOwn ? CODES : ['SUB', 'OPS'], fixed),
              ...(method === 'step_down' ? [step('SUB', ['OPS'], counted)] : []),
            ],
          };
          expect(checkAllocation(rule, { accounts, entities, trees: [] })).toEqual([]);
          const texts = ['', 'red'].map((team) => combinationOf(new Map(team === '' ? [] : [['team', team]])));
          const combinations = new SpreadCombinations((id) => texts[id - 1]!);
          const rowsOf =
            ({ code }: { code: string }): BookRows =>
            (visit) => {
              const tell = visitOne(visit);
              for (const { at, account, period, team, amount } of postings)
                if (CODES[at] === code)
                  tell(account, period, false, team === '' ? 1 : 2, account === 3 ? 0 : amount, 0, Math.abs(amount));
            };
          const masters = { ...{ accounts, entities, trees: [], versions: [], allocations: [] }, ...NO_IDS };
          const layer = new SpreadLayer(rule, combinations, { masters, rows: rowsOf });
          const moves = entities.map((each) => layer.movesIn(layer.find(each, WHOLE_BOOKS), each).moves);
          const sumsOf = (some: readonly Move[], keyOf: (move: Move) => string) => {
            const sums = new Map<string, number>();
            for (const move of some) sums.set(keyOf(move), (sums.get(keyOf(move)) ?? 0) + move.amount);
            return [...sums.values()].filter((sum) => sum !== 0);
          };
          for (const own of moves) expect(sumsOf(own, ({ period }) => String(period))).toEqual([]);
          const place = ({ account, period }: Move) => `${account === 0 ? 'cost' : 'owed'} ${period}`;
          expect(sumsOf(moves.flat(), place)).toEqual([]);
          const values = ({ account, period, combination }: Move) =>
            account === 0 ? `${period} ${combinations.all.textOf(combination)}` : '';
          expect(sumsOf(moves.flat(), values)).toEqual([]);
        },
      ),
    );
  });

  it('may leave a part where they are: that of a pool that is among those who take it', () => {
    // by hand: 400 by 1, 1 and 2 of 4
    const texts = [combinationOf(new Map())];
    const rowsOf =
      ({ code }: { code: string }): BookRows =>
      (visit) =>
        code === 'TOP' ? visitOne(visit)(0, 0, false, 1, 400, 0, 0) : undefined;
    const to = CODES.map((value, at) => ({ value, weight: [1, 1, 2][at]! }));
    const rule: AllocationRule = {
      ...{ id: 'rule', name: 'Rule', dimension: 'entity', method: 'direct' },
      ...{ accounts: { include: [{ by: 'nature', nature: 'expense' }] } },
      clearing: { receivable: '1500', payable: '2500' },
      steps: [step('TOP', CODES, { by: 'fixed', weights: to })],
    };
    const masters = { ...{ accounts, entities, trees: [], versions: [], allocations: [] }, ...NO_IDS };
    const layer = new SpreadLayer(rule, new SpreadCombinations((id) => texts[id - 1]!), { masters, rows: rowsOf });
    const moved = entities.map((each) =>
      layer.movesIn(layer.find(each, WHOLE_BOOKS), each).moves.map(({ account, amount }) => [account, amount]),
    );
    expect(moved).toEqual([
      [
        [0, -100],
        [1, 100],
        [0, -200],
        [1, 200],
      ],
      [
        [0, 100],
        [2, -100],
      ],
      [
        [0, 200],
        [2, -200],
      ],
    ]);
  });
});
