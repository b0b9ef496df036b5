import { account } from '../../test/properties/random-books';
import type { NamedCondition } from '../cube/dimension-condition';
import { compileRows } from './compile-rows';
import { coverageOf } from './coverage';
import { displaceAccount, likelyPlace, placeAccount, placeAsLikely } from '../layout/place-account';
import { proposeRows } from '../layout/propose-rows';
import { splitRow } from '../layout/edit-rows';
import { outlineOf, type AccountsRow, type Row, type RowLayout } from '../layout/row-layout';
import { readAccountSet, accountSetText } from '../layout/rows-as-text';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const accounts = [
  account('1000', 'asset', 'Current', { role: 'cash' }),
  account('4000', 'income', 'Sales', { subHeading: 'Goods' }),
  account('4100', 'income', 'Sales', { subHeading: 'Goods' }),
  account('5000', 'expense', 'Costs'),
  account('5010', 'expense', 'Costs'),
];
const row = (id: string, numbers: string[], where?: NamedCondition[]): AccountsRow => ({
  kind: 'accounts',
  id,
  label: id,
  accounts: { include: numbers.map((number) => ({ by: 'account', number })) },
  ...(where ? { where } : {}),
});
const coverage = (rows: Row[], layout: Partial<RowLayout> = {}) => {
  const whole: RowLayout = { schema: 1, kind: 'row_layout', id: 'l', name: 'L', purpose: 'income', rows, ...layout };
  const { misplaced, ...counts } = coverageOf(whole, compileRows(whole, accounts, EUR), accounts);
  return { ...counts, misplaced: misplaced.map((place) => `${accounts[place.account]!.number} ${place.how}`) };
};
const team = (has: NamedCondition['has'], ...values: string[]): NamedCondition[] => [
  { dimension: 'team', has, values },
];

describe('coverageOf', () => {
  it('finds accounts in no row, in two, and in part', () => {
    const rows = [row('a', ['4000', '5000']), row('b', ['4000']), row('c', ['4100'], team('in', 'red'))];
    expect(coverage(rows)).toEqual({
      accounts: 4,
      placedOnce: 1,
      misplaced: ['5010 none', '4100 partly', '4000 twice'],
    });
  });

  it('takes rows that split the postings between them as one place', () => {
    const whole = (...parts: NamedCondition[][]) =>
      coverage([row('rest', ['4100', '5000', '5010']), ...parts.map((where, at) => row(`p${at}`, ['4000'], where))])
        .misplaced;
    expect(whole(team('any'), team('none'))).toEqual([]);
    expect(whole(team('in', 'red'), team('in', 'blue'), team('not_in', 'blue', 'red'))).toEqual([]);
    expect(whole(team('in', 'red'), team('not_in', 'blue'))).toEqual(['4000 partly']);
    expect(whole(team('in', 'red'), team('in', 'red'), team('not_in', 'red'))).toEqual(['4000 partly']);
  });

  it('asks a free layout for what it covers, and nothing else', () => {
    expect(coverage([row('a', ['4000'])], { purpose: 'free' })).toEqual({ accounts: 0, placedOnce: 0, misplaced: [] });
    const covers = { include: [{ by: 'heading' as const, heading: 'Costs' }] };
    expect(coverage([row('a', ['5000'])], { purpose: 'free', covers }).misplaced).toEqual(['5010 none']);
  });
});

describe('placing an account', () => {
  const rows: Row[] = [row('sales', ['4000']), row('costs', ['5000'])];
  const find = (number: string) => accounts.find((each) => each.number === number)!;

  it('goes to the row of its sub-heading, the nearest by number', () => {
    expect(likelyPlace(rows, find('4100'), accounts)?.row?.id).toBe('sales');
    expect(likelyPlace(rows, find('5010'), accounts)?.row?.id).toBe('costs');
    expect(likelyPlace(rows, find('1000'), accounts)).toBeUndefined();
  });

  describe('whose own row is gone', () => {
    const chart = [
      ...accounts,
      account('5100', 'expense', 'Costs', { subHeading: 'Energy' }),
      account('5110', 'expense', 'Costs', { subHeading: 'Energy' }),
      account('5200', 'expense', 'Costs', { subHeading: 'Freight' }),
      account('5900', 'expense', '', {}),
      account('5910', 'expense', '', {}),
      account('8000', 'expense', '', {}),
    ];
    const of = (number: string) => chart.find((each) => each.number === number)!;
    const group: Row = { kind: 'group', id: 'all', label: 'All costs', children: [rows[1]!, row('freight', ['5200'])] };

    it('gets a new row of its sub-heading behind its neighbour, not a place among what is of another kind', () => {
      const place = likelyPlace([rows[0]!, group], of('5100'), chart);
      expect(place).toMatchObject({ label: 'Energy', behind: { id: 'costs' } });
      const placed = placeAsLikely([rows[0]!, group], [of('5100'), of('5110')], chart);
      // the second finds the row that the first was given, inside the same total
      expect(outlineOf(placed).map(({ row: { id } }) => id)).toEqual(['sales', 'all', 'costs', 'energy', 'freight']);
      expect(coverage([...placed], {}).misplaced).not.toContain('5110 none');
      expect(outlineOf(placed)[3]!.row).toMatchObject({
        accounts: { include: [{ number: '5100' }, { number: '5110' }] },
      });
    });

    it('goes to the row of its heading where that holds several kinds, and never to one of some values', () => {
      const whole = row('whole', ['5000', '5200']);
      expect(likelyPlace([whole], of('5100'), chart)?.row?.id).toBe('whole');
      expect(likelyPlace([row('red', ['5110'], team('in', 'red')), whole], of('5100'), chart)?.row?.id).toBe('whole');
    });

    it('goes by its number where it has no heading, and nowhere where nothing begins as it does', () => {
      expect(likelyPlace([row('other', ['5910'])], of('5900'), chart)?.row?.id).toBe('other');
      expect(likelyPlace([row('other', ['5910'])], of('8000'), chart)).toBeUndefined();
    });
  });

  it('puts it in and takes it out again, also where a rule holds it', () => {
    const placed = placeAccount(rows, 'costs', find('5010'));
    expect(coverage(placed).misplaced).toEqual(['4100 none']);
    expect(displaceAccount(placed, 'costs', find('5010'))).toEqual(rows);
    const ruled: Row[] = [
      { kind: 'accounts', id: 'costs', label: 'costs', accounts: { include: [{ by: 'heading', heading: 'Costs' }] } },
    ];
    const without = displaceAccount(ruled, 'costs', find('5010'));
    expect((without[0] as AccountsRow).accounts.exclude).toEqual([{ by: 'account', number: '5010' }]);
    expect(placeAccount(without, 'costs', find('5010'))).toEqual(ruled);
  });
});

describe('splitRow', () => {
  const whole: Row[] = [{ ...row('sales', ['4000', '4100']), shown: 'brackets' }, row('costs', ['5000', '5010'])];
  const trees = [
    {
      name: 'team',
      values: [
        { value: 'red', name: 'Red', parent: '' },
        { value: 'pink', name: 'Pink', parent: 'red' },
      ],
    },
  ];

  it('puts a total with a row for each account in its place, still covered', () => {
    const split = splitRow(whole, 'sales', 'accounts', accounts, trees);
    expect(split[0]).toMatchObject({ kind: 'group', id: 'sales', orientation: 'credit', shown: 'brackets' });
    expect(outlineOf(split).map(({ row: each }) => each.label)).toEqual([
      'sales',
      'Account 4000',
      'Account 4100',
      'costs',
    ]);
    expect(coverage(split).misplaced).toEqual([]);
  });

  it('puts a total with a row for each top value and one for none in its place, still covered', () => {
    const split = splitRow(whole, 'sales', 'team', accounts, trees);
    expect(outlineOf(split).map(({ row: each }) => each.label)).toEqual(['sales', 'Red', 'Without team', 'costs']);
    const layout: RowLayout = { schema: 1, kind: 'row_layout', id: 'l', name: 'L', purpose: 'income', rows: split };
    const around = { cashFlow: [], dimensions: trees };
    expect(coverageOf(layout, compileRows(layout, accounts, EUR), accounts, around).misplaced).toEqual([]);
  });
});

describe('account sets as text', () => {
  it.each([
    '4000–4999, 5000',
    '4*, 50?0 without 5010',
    'Sales › Goods',
    'Costs without 5000',
    'role cash',
    'all expenses',
  ])('%s is read as it is written', (text) => {
    const read = readAccountSet(text, accounts);
    expect('set' in read && accountSetText(read.set)).toBe(text);
  });

  it('names what the chart does not know', () => {
    expect(readAccountSet('4000, Turnover', accounts)).toEqual({ unknown: 'Turnover' });
  });
});

describe('proposeRows', () => {
  it.each(['income', 'balance_sheet', 'cash_flow'] as const)('covers the accounts for %s', (purpose) => {
    const layout = proposeRows(purpose, accounts);
    expect(coverage(layout.rows, layout)).toMatchObject({ misplaced: [] });
  });
});
