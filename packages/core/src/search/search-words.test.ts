import fc from 'fast-check';
import { matchesPhrases, searchPhrases, searchWords } from './search-words';

describe('searchWords', () => {
  it('tells words apart by what is neither letter nor digit, and forgets case and accents', () => {
    expect(searchWords('Rechnung RE-1042, Müller & Söhne')).toEqual(['rechnung', 're', '1042', 'muller', 'sohne']);
    expect(searchWords('Zażółć 東京 Ωμέγα')).toEqual(['zazołc', '東京', 'ωμεγα']);
    expect(searchWords(' – ')).toEqual([]);
  });
});

describe('matchesPhrases', () => {
  const TEXT = 'Invoice RE-1042, Müller';

  it('finds texts in which every phrase begins somewhere, in any order', () => {
    expect(matchesPhrases(TEXT, searchPhrases('MULL re-10'))).toBe(true);
    expect(matchesPhrases(TEXT, searchPhrases('voice'))).toBe(false);
    expect(matchesPhrases(TEXT, searchPhrases('invoice paid'))).toBe(false);
  });

  it('keeps the words of a phrase together, and lets only its last one go on', () => {
    expect(matchesPhrases('UT-2026-08-A', searchPhrases('ut-2026-08'))).toBe(true);
    expect(matchesPhrases('UT-2026-08-B, audit', searchPhrases('ut-2026-08-a'))).toBe(false);
    expect(matchesPhrases(TEXT, searchPhrases('r-1042'))).toBe(false);
  });

  it('takes whole words only where it is asked to', () => {
    expect(matchesPhrases('Batch 2026.01', searchPhrases('2026.01'), true)).toBe(true);
    expect(matchesPhrases('Batch 2026.012', searchPhrases('2026.01'), true)).toBe(false);
  });

  it('finds every text by any beginnings of its own words', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ minLength: 1 })), fc.nat(5), (parts, length) => {
        const text = parts.join(' ');
        return matchesPhrases(
          text,
          searchWords(text).map((word) => [word.slice(0, length + 1)]),
        );
      }),
    );
  });
});
