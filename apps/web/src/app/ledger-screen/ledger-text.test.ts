import type { LedgerLineView } from '@margin-lens/contract';
import { amountText, carriedWords, linesQueryOf, selectionWords } from './ledger-text';

const line = (debit: number, credit: number): LedgerLineView => ({
  id: 1,
  journalId: 1,
  journal: 'J1',
  kind: 'normal',
  line: 1,
  date: '2026-08-31',
  period: 'FY2027-P05',
  account: '6400',
  accountName: 'Kiln gas',
  localAccount: '',
  basis: 'books',
  debit,
  credit,
  quantity: 0,
  description: 'Gas',
  document: '',
  isLate: false,
  attributes: [
    { name: 'department', value: 'kiln_hall_a', text: 'kiln hall a' },
    { name: 'cost_type', value: 'direct', text: 'direct' },
  ],
});

describe('words of the ledger', () => {
  it('reads the filter of an address and leaves out what is no filter', () => {
    const params = {
      account: '6400',
      from: 'FY2027-P01',
      q: '',
      sort: 'amount',
      order: 'desc',
      as_at: '2026-08',
      journal: '7',
    };
    expect(linesQueryOf(params, 'LMG')).toEqual({
      scope: 'LMG',
      account: '6400',
      from: 'FY2027-P01',
      sort: 'amount',
      order: 'desc',
    });
    expect(linesQueryOf({ sort: 'colour' }, 'LMG')).toEqual({ scope: 'LMG' });
  });

  it('sums what is selected, from two lines on', () => {
    expect(selectionWords([line(100, 0)], 'EUR')).toBe('');
    expect(selectionWords([line(12_550, 0), line(0, 20_000)], 'EUR')).toBe(
      '2 lines: debit 125.50 · credit 200.00 · net (74.50)',
    );
    expect(amountText(-5, 'JPY')).toBe('(5)');
  });

  it('says what a line carries', () => {
    expect(carriedWords(line(1, 0))).toBe('kiln hall a · direct');
  });
});
