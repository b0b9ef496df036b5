import { matchDocuments, type PairLine } from './match-documents';

const line = (document: string, amount: number, date = '2026-03-10', currency = 'EUR'): PairLine => ({
  ...{ document, amount, date, currency, text: document },
});
const shown = (own: PairLine[], theirs: PairLine[]) =>
  matchDocuments(own, theirs).map(({ state, document, otherDocument, own: a, theirs: b }) => [
    ...[state, document, otherDocument, a, b],
  ]);

describe('matchDocuments', () => {
  it('meets by document, leaves out what is settled, and says where amounts differ', () => {
    expect(
      shown(
        [line('A', 100), line('B', 50), line('B', -50), line('C', 70)],
        [line('A', -100, '2026-03-12'), line('C', -60)],
      ),
    ).toEqual([
      ['meets', 'A', '', 100, -100],
      ['other_amount', 'C', '', 70, -60],
    ]);
  });

  it('meets by amount and the nearest date what bears another number', () => {
    expect(
      shown([line('A', 100, '2026-03-10')], [line('X', -100, '2026-01-30'), line('Y', -100, '2026-03-14')]),
    ).toEqual([
      ['alone', 'X', '', 0, -100],
      ['other_document', 'A', 'Y', 100, -100],
    ]);
    expect(shown([line('A', 100, '2026-03-10')], [line('X', -100, '2026-06-30')]).map(([state]) => state)).toEqual([
      'alone',
      'alone',
    ]);
  });

  it('does not meet what is in other currencies, or bears no number twice', () => {
    expect(shown([line('A', 100)], [line('A', -100, '2026-03-10', 'USD')]).map(([state]) => state)).toEqual([
      'alone',
      'alone',
    ]);
    expect(shown([line('', 5), line('', 5)], [line('', -5)]).map(([state]) => state)).toEqual([
      'other_document',
      'alone',
    ]);
  });
});
