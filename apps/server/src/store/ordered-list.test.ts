import fc from 'fast-check';
import { orderedList, sliceOf } from './ordered-list';

const rows = fc.array(fc.tuple(fc.nat(), fc.nat(1_000_000), fc.nat(1_000_000)), { maxLength: 3000 });

describe('an ordered list', () => {
  it('gives any part with what moved before it, and the sums of all (property)', () => {
    fc.assert(
      fc.property(rows, fc.nat(3100), fc.nat(50), (all, skip, take) => {
        const { ids, movedBefore, count, debit, credit } = sliceOf(orderedList(all), skip, take);
        const net = (part: typeof all) => part.reduce((sum, [, d, c]) => sum + d - c, 0);
        expect(ids).toEqual(all.slice(skip, skip + take).map(([id]) => id));
        expect([count, movedBefore, debit - credit]).toEqual([all.length, net(all.slice(0, skip)), net(all)]);
      }),
    );
  });
});
