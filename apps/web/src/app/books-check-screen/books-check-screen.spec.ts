import type { BooksCheckView, BooksFindingView } from '@margin-lens/contract';
import { TestBed } from '@angular/core/testing';
import { ScreenBed } from '../testing/screen-bed';
import { BooksCheckScreen } from './books-check-screen';
import { findingWords, linesOfFinding } from './books-check-text';

const finding = (more: Partial<BooksFindingView>): BooksFindingView => ({
  check: 'suspense',
  key: 'suspense|1690',
  account: '1690',
  accountName: 'Suspense',
  amount: -1_254_000,
  expected: 0,
  effect: 1_254_000,
  from: 'FY2027-P01',
  to: 'FY2027-P05',
  text: null,
  dimension: null,
  count: 0,
  seen: null,
  ...more,
});
const VIEW: BooksCheckView = {
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  limit: 20_000,
  findings: [
    finding({}),
    finding({
      check: 'income_twice',
      key: 'twice',
      account: '4410',
      accountName: 'Contract series',
      text: 'Hotel order',
      expected: -1_840_000,
      effect: -1_840_000,
      count: 2,
    }),
  ],
};

async function open(view: BooksCheckView, asAt = '2026-08'): Promise<ScreenBed> {
  const bed = await ScreenBed.open(`/books-check?scope=LMG&as_at=${asAt}`, BooksCheckScreen);
  // months that are stepped through are not checked at once
  await jest.advanceTimersByTimeAsync(450);
  bed.reply('/books-check', view);
  await bed.settle();
  return bed;
}

describe('BooksCheckScreen', () => {
  it('says how many findings are open and what they would do to the profit', async () => {
    const bed = await open(VIEW);
    // 12,540.00 more and 18,400.00 less
    expect(bed.text('[data-testid="verdict"]')).toContain(
      '2 findings are to be looked at. Put right, they would change the profit by (5,860.00).',
    );
    expect(bed.text()).toContain('“Hotel order”, 18,400.00 in each of 2 journals');
    expect(bed.text()).toContain('stands at (12,540.00) and should come to nothing');
  });

  it('takes a finding as seen with a reason, and not without one', async () => {
    const bed = await open(VIEW);
    await bed.press('Seen…');
    await bed.press('Keep');
    bed.button('Seen…').click();
    await bed.settle();
    await bed.type('Seen, because', 'Cleared in September');
    await bed.press('Keep');
    const { request } = bed.reply('/books-check/seen', {}, 'POST');
    expect(request.body).toEqual({ scope: 'LMG', key: expect.any(String), reason: 'Cleared in September' });
  });

  it('says that nothing is left when all was seen, with who saw it', async () => {
    const seen = { reason: 'Known', person: 'Controller', at: '2026-09-02T08:00:00Z' };
    const bed = await open({ ...VIEW, findings: VIEW.findings.map((each) => ({ ...each, seen })) });
    expect(bed.text('[data-testid="verdict"]')).toContain('Nothing is left to look at.');
    expect(bed.text()).toContain('Seen, because Known · Controller');
  });

  // the sample books are of three months, of which August 2025 is the first
  it('gives no comfort where there is nothing to check, or too little to hold it against', async () => {
    const short = await open({ ...VIEW, findings: [] });
    expect(short.text('[data-testid="verdict"]')).toContain('Nothing is left to look at.');
    expect(short.text()).toContain('– Accounts that fell silent Too little history to say: it takes 6 months before.');
    TestBed.resetTestingModule();
    const none = await open({ ...VIEW, findings: [] }, '2025-04');
    expect(none.text('[data-testid="verdict"]')).toContain('There is nothing to check yet.');
    expect(none.text()).not.toContain('✓');
  });
});

describe('words of findings', () => {
  it('say for each check what was found', () => {
    const words = (more: Partial<BooksFindingView>) => findingWords(finding(more), VIEW);
    expect(words({ check: 'fallen_silent', expected: 5_000 })).toBe('nothing in August 2026, 50.00 a month before');
    expect(words({ check: 'dimension_missing', dimension: 'cost_type', count: 1, amount: 100 })).toBe(
      'one line without cost type, 1.00 in all',
    );
    expect(words({ check: 'date_outside', text: '2026-04-01/2026-04-03', count: 2, amount: 100 })).toBe(
      '2 lines dated from 2026-04-01 to 2026-04-03, 1.00 in all',
    );
  });

  it('lead to the lines: by the text they share, by what they lack, never by dates as text', () => {
    expect(linesOfFinding(finding({ text: 'Hotel order' }))).toMatchObject({
      account: '1690',
      q: 'Hotel order',
      dim: null,
    });
    expect(linesOfFinding(finding({ dimension: 'team' }))).toMatchObject({ dim: 'team=', q: null });
    expect(linesOfFinding(finding({ check: 'date_outside', text: '2026-04-01' })).q).toBeNull();
  });
});
