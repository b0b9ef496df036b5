import fc from 'fast-check';
import type { Completion, TextMatch } from '../../src/index';
import { ALL_SEEN } from '../../src/books/sight';
import { slot } from '../../src/books/ledger-slice';
import { booksOfPostings, entity, treesOf, type Posting } from './books-of-postings';
import { TEST_ACCOUNTS } from './random-books';
import { runs } from '../runs';

const ONE = entity(1, 'ONE');
const TEAMS = ['red', 'blue', 'green'];
const TREES = treesOf(TEAMS);
const PARTNERS = ['P1', 'P2'];
/** What combinations carry, by their ids from 1 on: nothing, each of the teams, and each of the partners without a team. */
const CARRIED = [{}, ...TEAMS.map((team) => ({ team })), ...PARTNERS.map((partner) => ({ partner }))] as {
  team?: string;
  partner?: string;
}[];

/** A journal line with a text; amounts are positive debits, so that nothing that is there comes to nothing. */
const lines: fc.Arbitrary<(Posting & { description: string })[]> = fc.array(
  fc.record({
    entity: fc.constant(1),
    account: fc.nat({ max: TEST_ACCOUNTS.length - 2 }),
    period: fc.integer({ min: 0, max: 27 }),
    combination: fc.integer({ min: 1, max: CARRIED.length }),
    kind: fc.constantFrom(0, 0, 0, 1),
    amount: fc.integer({ min: 1, max: 1_000_000 }),
    description: fc.constantFrom('Rent', 'HIRE of kilns', 'Rent and hire', ''),
  }),
  { maxLength: 25 },
);

const number = fc.nat({ max: TEST_ACCOUNTS.length - 2 }).map((at) => TEST_ACCOUNTS[at]!.number);
const rule = fc.record(
  {
    id: fc.constant('r'),
    value: fc.constantFrom(...TEAMS),
    accounts: number.map((each) => ({ include: [{ by: 'account' as const, number: each }] })),
    partners: fc.subarray(PARTNERS, { minLength: 1 }),
    text: fc.constantFrom('hire', 'Rent'),
  },
  { requiredKeys: ['id', 'value'] },
);
const completion = fc
  .array(rule, { minLength: 1, maxLength: 4 })
  .map((rules): Completion => ({ id: 'c', name: 'C', dimension: 'team', rules }));

/** The team that a line is read with, found rule by rule. */
function teamOf({ account, combination, description }: Posting & { description: string }, { rules }: Completion) {
  const { team, partner = '' } = CARRIED[combination - 1]!;
  const met = rules.find(
    ({ accounts, partners, text }) =>
      (accounts === undefined ||
        accounts.include.some((each) => 'number' in each && each.number === TEST_ACCOUNTS[account]!.number)) &&
      (partners === undefined || partners.includes(partner)) &&
      (text === undefined || description.toLowerCase().includes(text.toLowerCase())),
  );
  return team ?? met?.value;
}

const asMatch = (line: Posting & { description: string }, id: number): TextMatch => ({
  ...{ id, account: line.account + 1, period: line.period + 1, combination: line.combination, kind: line.kind ?? 0 },
  ...{ debit: line.amount, credit: 0, quantity: 0, description: line.description },
});

it('postings are read with the first rule that they meet, and nothing is gained or lost (property)', () => {
  fc.assert(
    fc.property(lines, completion, (posted, rules) => {
      const books = booksOfPostings(posted, { teams: TEAMS, partners: PARTNERS, trees: TREES, sight: ALL_SEEN });
      const texts = rules.rules.flatMap(({ text }) => text ?? []);
      const matches = posted
        .map(asMatch)
        .filter(({ description }) => texts.some((text) => description.toLowerCase().includes(text.toLowerCase())));
      const all = [rules];
      const completed = books.completedBy({ all, at: () => all, matching: () => matches }, JSON.stringify(rules));
      const read = (where: { has: 'in' | 'none'; values: string[] }) =>
        completed.read(ONE, {
          ...{ scope: undefined, version: 'actual', basis: 'reported' },
          where: [{ dimension: 'team', ...where }],
        });
      const parts = [...TEAMS.map((team) => read({ has: 'in', values: [team] })), read({ has: 'none', values: [] })];
      const whole = completed.read(ONE);
      const expected = parts.map(() => new Map<number, number>());
      for (const line of posted) {
        if (line.kind === 1) continue;
        const team = teamOf(line, rules);
        const sums = expected[team === undefined ? TEAMS.length : TEAMS.indexOf(team)]!;
        const at = slot(whole, line.account, line.period);
        sums.set(at, (sums.get(at) ?? 0) + line.amount);
      }
      const held = ({ movement }: typeof whole) =>
        new Map([...movement].flatMap((amount, at): [number, number][] => (amount === 0 ? [] : [[at, amount]])));
      expect(parts.map(held)).toEqual(expected);
      whole.movement.forEach((amount, at) => {
        if (parts.reduce((sum, { movement }) => sum + movement[at]!, 0) !== amount) throw new Error(`lost at ${at}`);
      });
    }),
    runs(60),
  );
});
