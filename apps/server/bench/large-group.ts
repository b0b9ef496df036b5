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

/** A group of sixty entities in twelve currencies, made up, over a chart and calendar that there are. */
export function largeGroup(
  masters: Masters,
  calendar: StoredPeriods,
): { rows: number; scope: Scope; books: (stamp: number) => Books } {
  const builder = new SegmentBuilder();
  const { periods } = calendar.calendar;
  let seed = 7;
  const next = () => (seed = (seed * 48_271) % 2_147_483_647);
  for (let entity = 1; entity <= ENTITIES; entity++)
    for (const id of masters.accountIds.values())
      for (const period of periods)
        for (let combination = 1; combination <= COMBINATIONS; combination++)
          builder.add(0, entity, id, calendar.idOf(period), combination, 0, next() % 1e7, next() % 1e7, 0, 0);
  const segment = builder.finish();
  const cube = new Cube(1, [segment]);
  const combinations = new Combinations();
  combinations.add(1, '\u001f');
  combinations.add(2, '\u001f\u001fdepartment=a');
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
    };
  });
  const holdings = entities
    .slice(1)
    .map(({ code }) => ({ investor: 'E0', investee: code, from: '2000-01-01', percent: '100', method: 'full' }));
  const group = { code: 'G', name: 'Group', currency: entities[0]!.currency, calendar, topEntity: 'E0', parent: '' };
  const kept = new KeptBooks();
  return {
    rows: segment.period.length,
    scope: scopeOfGroup(group, entities, holdings),
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
