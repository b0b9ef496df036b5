import {
  type AssetLayer,
  DatedAmounts,
  type Account,
  Books,
  Combinations,
  Cube,
  KeptBooks,
  RateTable,
  StatedAmounts,
  SegmentBuilder,
  type ScopeEntity,
} from '../../src/index';
import { ALL_SEEN, type Sight } from '../../src/books/sight';
import { TEST_ACCOUNTS, testCalendar } from './random-books';

export const calendar = testCalendar();
export const stored = { calendar, idOf: ({ ordinal }: { ordinal: number }) => ordinal + 1 };

export const entity = (id: number, code: string, currency = 'EUR', digits = 2): ScopeEntity => ({
  ...{ id, code, name: code, calendar: stored, translation: 'closing', taxRate: undefined },
  currency: { kind: 'currency', code: currency, digits },
});

/** A posting; entity by its id, account and period by their place, amount debit positive, opening as kind 1. */
export interface Posting {
  entity: number;
  account: number;
  period: number;
  combination: number;
  amount: number;
  kind?: number;
}

/** What is wanted of books; the combinations are of no team, of each of the teams and of each of the partners, ids from 1 on. */
interface Wanted {
  teams: readonly string[];
  partners?: readonly string[];
  /** What is posted after all else was read. */
  later?: readonly Posting[];
  /** What other books of the same were made from. */
  kept?: KeptBooks;
  rates?: RateTable;
  stated?: StatedAmounts;
  sight?: Sight;
  accounts?: readonly Account[];
  layers?: readonly AssetLayer[];
}

export const treesOf = (teams: readonly string[]) => [
  { name: 'team', values: teams.map((value) => ({ value, name: value, parent: '' })) },
];

/** Books over a cube that holds some postings alone. */
export function booksOfPostings(
  postings: readonly Posting[],
  wanted: Wanted & { trees: ReturnType<typeof treesOf> },
): Books {
  const { teams, trees, rates = new RateTable([]), sight = ALL_SEEN, accounts = TEST_ACCOUNTS } = wanted;
  const { stated = new StatedAmounts([], '', () => undefined), kept = new KeptBooks() } = wanted;
  const { partners = [], later, layers = [] } = wanted;
  const segmentOf = (all: readonly Posting[]) => {
    const builder = new SegmentBuilder();
    for (const { entity: id, account, period, combination, amount, kind = 0 } of all) {
      const isCount = accounts[account]!.nature === 'statistic';
      const [debit, credit] = isCount ? [0, 0] : [Math.max(amount, 0), Math.max(-amount, 0)];
      // as much is posted in quantity
      builder.add(0, id, account + 1, period + 1, combination, kind, debit, credit, amount, 0);
    }
    return builder.finish();
  };
  const loaded = new Cube(1, [segmentOf(postings)]);
  const cube = later ? loaded.with(2, segmentOf(later)) : loaded;
  const combinations = new Combinations();
  combinations.add(1, '\u001f');
  teams.forEach((team, at) => combinations.add(at + 2, `\u001f\u001fteam=${team}`));
  partners.forEach((partner, at) => combinations.add(at + 2 + teams.length, `${partner}\u001f`));
  const accountIds = new Map(accounts.map(({ number }, at) => [number, at + 1]));
  const none = { versions: [], allocations: [], entities: [], partnerCodes: new Map<string, string[]>() };
  const masters = { ...none, accounts, accountIds, trees };
  return new Books(
    masters,
    {
      combinations,
      cubeAt: () => cube,
      ratesAt: () => rates,
      stated,
      dated: new DatedAmounts(),
      layers,
      ownership: 1,
    },
    kept,
    sight,
  );
}
