import fc from 'fast-check';
import { FIRST_GENERATION, movedTo, PARTS, partsKey, type Part } from './generation';

const somePart = fc.constantFrom(...PARTS);
const someParts = fc.uniqueArray(somePart);

/** The generation after writes that touch some parts each; the first is revision 1. */
const after = (writes: readonly Part[][]) =>
  writes.reduce((generation, touches, index) => movedTo(generation, touches, index + 1), FIRST_GENERATION);

describe('a generation', () => {
  it('names for each part the write that last moved it (property)', () => {
    fc.assert(
      fc.property(fc.array(someParts), somePart, (writes, part) => {
        expect(after(writes)[part]).toBe(writes.findLastIndex((touches) => touches.includes(part)) + 1);
      }),
    );
  });

  it('has another key for some parts exactly when a write has moved one of them (property)', () => {
    fc.assert(
      fc.property(fc.array(someParts), someParts, someParts, (writes, touches, read) => {
        const before = after(writes);
        const now = movedTo(before, touches, writes.length + 1);
        expect(partsKey(before, read) === partsKey(now, read)).toBe(!read.some((part) => touches.includes(part)));
      }),
    );
  });

  it('leaves the generation before it as it was', () => {
    const before = movedTo(FIRST_GENERATION, ['ledger'], 1);
    movedTo(before, ['ledger'], 2);
    expect(before.ledger).toBe(1);
  });
});
