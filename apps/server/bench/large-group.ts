import {
  Books,
  Combinations,
  Cube,
  DatedAmounts,
  KeptBooks,
  RateTable,
  scopeOfGroup,
  SegmentBuilder,
  StatedAmounts,
  type Books as BooksOf,
  type Scope,
  type StoredPeriods,
} from '@margin-lens/core';

type Masters = ConstructorParameters<typeof BooksOf>[0];

const ENTITIES = 60;
const CURRENCIES = ['EUR', 'PLN', 'GBP', 'USD', 'SEK', 'NOK', 'DKK', 'CZK', 'HUF', 'CHF', 'CAD', 'JPY'];
/** Balances of an account in a month: values of dimensions that it was posted with. */
const COMBINATIONS = 2;
/** Entities that each has balances with, those that come after it. */
const PARTNERS = 6;
/** Id of the combination that names the first entity as a partner. */
const FIRST_PARTNER = COMBINATIONS + 1;

/** A group of sixty entities in twelve currencies, made up, over a chart and calendar that there are. */
export function largeGroup(
  masters: Masters,
  calendar: StoredPeriods,
): { rows: number; scope: Scope; consolidated: Scope; books: (stamp: number) => Books } {
  const builder = new SegmentBuilder();
  const { periods } = calendar.calendar;
  let seed = 7;
  const next = () => (seed = (seed * 48_271) % 2_147_483_647);
  for (let entity = 1; entity <= ENTITIES; entity++)
    for (const id of masters.accountIds.values())
      for (const period of periods)
        for (let combination = 1; combination <= COMBINATIONS; combination++)
          builder.add(0, entity, id, calendar.idOf(period), combination, 0, next() % 1e7, next() % 1e7, 0, 0);
  const [claims, debts] = ['asset', 'liability'].map((nature) =>
    masters.accounts.find((each) => each.nature === nature)!,
  );
  for (let entity = 0; entity < ENTITIES; entity++)
    for (const period of periods)
      for (let after = 1; after <= PARTNERS; after++) {
        const other = (entity + after) % ENTITIES;
        const amount = next() % 1e6;
        const post = (own: number, account: string, partner: number, debit: number, credit: number) =>
          builder.add(
            ...([
              0,
              own + 1,
              masters.accountIds.get(account)!,
              calendar.idOf(period),
              FIRST_PARTNER + partner,
            ] as const),
            ...([0, debit, credit, 0, 0] as const),
          );
        post(entity, claims!.number, other, amount, 0);
        post(other, debts!.number, entity, 0, amount);
      }
  const segment = builder.finish();
  const cube = new Cube(1, [segment]);
  const combinations = new Combinations();
  combinations.add(1, '\u001f');
  combinations.add(2, '\u001f\u001fdepartment=a');
  for (let entity = 0; entity < ENTITIES; entity++) combinations.add(FIRST_PARTNER + entity, `E${entity}\u001f`);
  const entities = Array.from({ length: ENTITIES }, (_, at) => {
    const code = CURRENCIES[at % CURRENCIES.length]!;
    const digits = code === 'JPY' ? 0 : 2;
    return {
      id: at + 1,
      code: `E${at}`,
      name: `Entity ${at}`,
      currency: { kind: 'currency' as const, code, digits },
      calendar,
      translation: 'closing' as const,
      taxRate: undefined,
    };
  });
  const holdings = entities
    .slice(1)
    .map(({ code }) => ({ investor: 'E0', investee: code, from: '2000-01-01', percent: '80', method: 'full' }));
  const group = { code: 'G', name: 'Group', currency: entities[0]!.currency, calendar, topEntity: 'E0', parent: '' };
  const kept = new KeptBooks();
  const bought = {
    ...{
      investor: 'E0',
      date: periods[0]!.start,
      consideration: '1000000',
      nciMethod: 'proportionate',
      nciFairValue: '',
    },
    ...{ priorInterestFairValue: '', kind: 'book' as const, item: '', account: '', localAmount: '' },
    ...{ expenseAccount: '', lifeMonths: null },
  };
  const rule = {
    ...{ group: 'G', rule: 'Trade', kind: 'balances' as const, side: 'both' as const },
    ...{ accounts: claims!.number, partnerAccounts: debts!.number, differenceAccount: claims!.number },
    ...{ outsideAccount: '', tolerance: '' },
  };
  const consolidated = {
    ...{ group: 'G', topEntity: 'E0', currency: 'EUR', tiers: 'effective' as const },
    facts: {
      ...{
        holdings,
        disposals: [],
        impairments: [],
        associateResults: [],
        stockHeld: [],
        assetTransfers: [],
        byHand: [],
      },
      acquired: entities.slice(1).map(({ code }) => ({ ...bought, investee: code })),
      rules: [rule],
      partnerCodes: new Map(entities.map(({ code }) => [code, [code]])),
    },
  };
  return {
    rows: segment.period.length,
    scope: scopeOfGroup(group, entities, holdings),
    /** The same, with shares against equity, the part of others, and what each has with six others. */
    consolidated: scopeOfGroup({ ...group, code: 'C' }, entities, holdings, group.currency, calendar, consolidated),
    // another stamp has another rate of one currency
    books: (stamp) => {
      const rates = CURRENCIES.slice(1).flatMap((quote, at) =>
        periods.flatMap(({ key }) =>
          (['average', 'closing'] as const).map((type) => ({
            ...{ set: '', base: 'EUR', quote, type, period: key, date: '' },
            rate: `${at + 2}.${1000 + (at === 0 ? stamp : 0)}`,
          })),
        ),
      );
      const stated = new StatedAmounts([], 'EUR', () => undefined);
      const table = new RateTable(rates);
      const balances = {
        combinations,
        cubeAt: () => cube,
        ratesAt: () => table,
        stated,
        dated: new DatedAmounts(),
        layers: [],
        ownership: 1,
      };
      return new Books(masters, balances, kept);
    },
  };
}
