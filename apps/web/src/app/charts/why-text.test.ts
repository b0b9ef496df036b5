import type { WhyView } from '@margin-lens/contract';
import { cutWords } from '@margin-lens/core';
import { whySentence, whySteps } from './why-text';

const EURO = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const term = (id: string, label: string, amount: number) => ({ id, label, amount, favour: null });
const why = (terms: WhyView['terms'], counted: string | null = null): WhyView => ({
  ...{
    row: 'Energy',
    column: 'Change',
    of: 'Actual',
    base: 'Plan',
    ofNotation: 'actual',
    baseNotation: 'plan',
    unit: EURO,
    from: 100_000,
    to: 130_000,
  },
  ...{ terms, counted, folded: 0, note: '', basis: '', problem: null, counts: [], varies: true, values: [] },
});

describe('cutWords', () => {
  it('says where the ends begin when the steps are small beside them, of costs from the other side', () => {
    expect(cutWords(whySteps(why([term('a', 'A', 30_000)])), 1)).toBe('The bars of the ends begin at 880.');
    expect(cutWords(whySteps({ ...why([term('a', 'A', -30_000)]), from: -100_000, to: -130_000 }), 1)).toBe(
      'The bars of the ends begin at (880).',
    );
    expect(cutWords(whySteps(why([term('a', 'A', 300_000)])), 1)).toBe('');
  });
});

describe('whySentence', () => {
  it('writes effects as words and accounts by their names', () => {
    const effects = [
      term('price', 'Price', 25_000),
      term('volume', 'Volume', 10_000),
      term('efficiency', 'Efficiency', -5_000),
    ];
    expect(whySentence(why(effects), 1)).toBe(
      'Energy: Actual 300 against Plan, mostly price 250 and volume 100, partly offset by efficiency (50).',
    );
    expect(whySentence(why([term('6400', '6400 Kiln gas', 30_000)]), 1)).toContain('mostly 6400 Kiln gas 300');
    expect(whySentence(why([term('mix', 'Mix', 30_000)], '9100'), 1)).toContain('mostly mix 300');
  });
});
