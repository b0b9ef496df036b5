import { accountOf } from '../account/nature';
import { proposeRules, type PartnerSide } from './propose-rules';

const CHART = [
  accountOf('1150', 'asset'),
  accountOf('1151', 'asset'),
  accountOf('1330', 'asset'),
  accountOf('2050', 'liability'),
  accountOf('2230', 'liability'),
  accountOf('4050', 'income'),
  accountOf('5050', 'expense'),
];
const side = (entity: string, partner: string, number: string, amount: number): PartnerSide => ({
  ...{ entity, partner, amount },
  account: CHART.findIndex((each) => each.number === number),
});
const shown = (sides: PartnerSide[]) =>
  proposeRules(sides, CHART).map(({ kind, accounts, partnerAccounts, pairs, amount }) => [
    kind,
    accounts.map((at) => CHART[at]!.number),
    partnerAccounts.map((at) => CHART[at]!.number),
    pairs,
    amount,
  ]);

describe('proposeRules', () => {
  it('lets accounts meet that have what the other side has, and keeps loans from trade', () => {
    expect(
      shown([
        side('A', 'B', '1150', 100),
        side('B', 'A', '2050', -95),
        side('A', 'B', '1330', 5_000),
        side('B', 'A', '2230', -5_000),
        side('A', 'B', '4050', -300),
        side('B', 'A', '5050', 280),
        side('C', 'B', '1151', 40),
        side('B', 'C', '2050', -40),
      ]),
    ).toEqual([
      ['balances', ['1330'], ['2230'], 1, 5_000],
      ['income_expense', ['4050'], ['5050'], 1, 280],
      ['balances', ['1150', '1151'], ['2050'], 2, 135],
    ]);
  });

  it('proposes nothing of what one side alone has', () => {
    expect(shown([side('A', 'B', '1150', 100), side('B', 'A', '5050', -100), side('C', 'A', '2050', -100)])).toEqual(
      [],
    );
  });
});
