import fc from 'fast-check';
import { groupStructure, othersOf, percentOf, shareOf, type Holding } from './group-structure';

const holding = (
  investor: string,
  investee: string,
  percent: string,
  method = 'full',
  from = '2024-01-01',
): Holding => ({
  ...{ investor, investee, percent, method, from },
});
const told = (holdings: readonly Holding[], day = '2026-08-31') =>
  groupStructure('TOP', holdings, day).map(
    ({ entity, method, effective }) => `${entity} ${method} ${percentOf(effective)}`,
  );

describe('the structure of a group on a day', () => {
  it('is the head alone where nothing is held', () => {
    expect(told([holding('X', 'Y', '100')])).toEqual(['TOP top 100']);
  });

  it('goes by the shares of the day: bought, changed, sold', () => {
    const shares = [
      holding('TOP', 'A', '60', 'full', '2024-04-01'),
      holding('TOP', 'A', '75', 'full', '2025-04-01'),
      holding('TOP', 'A', '25', 'equity', '2026-04-01'),
      holding('TOP', 'A', '0', 'equity', '2026-07-01'),
    ];
    expect(told(shares, '2024-03-31')).toEqual(['TOP top 100']);
    expect(told(shares, '2025-03-31')).toEqual(['TOP top 100', 'A full 60']);
    expect(told(shares, '2025-04-01')).toEqual(['TOP top 100', 'A full 75']);
    expect(told(shares, '2026-06-30')).toEqual(['TOP top 100', 'A equity 25']);
    expect(told(shares, '2026-07-01')).toEqual(['TOP top 100']);
  });

  it('takes the fullest of what its holders record, and nothing that an associate holds alone', () => {
    const shares = [
      holding('TOP', 'A', '80'),
      holding('TOP', 'ASC', '30', 'equity'),
      holding('A', 'B', '40', 'equity'),
      holding('TOP', 'B', '30'),
      holding('ASC', 'LOW', '100'),
    ];
    expect(told(shares)).toEqual(['TOP top 100', 'A full 80', 'ASC equity 30', 'B full 62']);
  });

  it('says where votes question what is recorded', () => {
    const [, half, more] = groupStructure(
      'TOP',
      [holding('TOP', 'A', '50'), holding('TOP', 'B', '50.01', 'equity')],
      '2026-01-01',
    );
    expect([half!.isControlled, more!.isControlled]).toEqual([false, true]);
  });

  it('reads percentages exactly', () => {
    expect(shareOf('33.3333')).toEqual({ part: 333_333n, whole: 1_000_000n });
    expect(percentOf(shareOf('66.6667'))).toBe(66.6667);
  });

  /** Entities 0 to 6; each is held by ones before it alone, by no more than all of it. */
  const graph = fc
    .array(fc.array(fc.integer({ min: 0, max: 9_999 }), { minLength: 6, maxLength: 6 }), { minLength: 6, maxLength: 6 })
    .map((rows) =>
      rows.flatMap((weights, at) => {
        const holders = weights.slice(0, at + 1);
        const all = Math.max(
          10_000,
          holders.reduce((sum, each) => sum + each, 0),
        );
        return holders.flatMap((weight, from) =>
          weight === 0
            ? []
            : [
                holding(
                  from === 0 ? 'TOP' : `E${from}`,
                  `E${at + 1}`,
                  (Math.floor((1_000_000 * weight) / all) / 10_000).toFixed(4),
                ),
              ],
        );
      }),
    );

  it('gives owners and others parts that come to the whole, whoever holds what (property)', () => {
    fc.assert(
      fc.property(graph, (holdings) => {
        const structure = groupStructure('TOP', holdings, '2026-01-01');
        const parts = new Map(structure.map(({ entity, effective }) => [entity, effective]));
        for (const { entity, effective, holders } of structure) {
          if (entity === 'TOP') continue;
          expect(effective.part >= 0n && effective.part <= effective.whole).toBe(true);
          // the part of others, told the other way: those outside, and the others' part of each holder's share
          const outside = holders.reduce((left, { share }) => left - Number(share.part) / Number(share.whole), 1);
          const through = holders.reduce((sum, { investor, share }) => {
            const { part, whole } = othersOf(parts.get(investor)!);
            return sum + (Number(part) / Number(whole)) * (Number(share.part) / Number(share.whole));
          }, 0);
          expect(percentOf(othersOf(effective))).toBeCloseTo(100 * (outside + through), 8);
        }
      }),
    );
  });

  it('does not depend on the order in which shares are recorded (property)', () => {
    const sorted = (holdings: readonly Holding[]) => told(holdings).sort();
    fc.assert(
      fc.property(graph, fc.infiniteStream(fc.nat()), (holdings, order) => {
        const shuffled = holdings
          .map((each) => ({ each, at: order.next().value as number }))
          .sort((a, b) => a.at - b.at);
        expect(sorted(shuffled.map(({ each }) => each))).toEqual(sorted(holdings));
      }),
    );
  });
});
