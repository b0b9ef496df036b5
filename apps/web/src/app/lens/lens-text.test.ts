import type { TraceView } from '@margin-lens/contract';
import { eur, ratio } from '../testing/sample-view';
import { crumbsOf, labelWords, levelHeading, namedBy, proofOf, sentenceOf, unitAfter } from './lens-text';

const cell = (row: string, column: string) => ({ kind: 'cell', row, column, block: 'August 2026' }) as const;
const level = (change: Partial<TraceView>): TraceView => ({
  address: 'cell~profit~now',
  label: cell('Profit', 'Actual'),
  figure: eur(300),
  operation: 'sum',
  omitted: 0,
  formula: null,
  sum: 300,
  postings: null,
  lines: null,
  turned: null,
  terms: [
    { address: 'a', label: cell('Sales', 'Actual'), sign: 1, figure: eur(500) },
    { address: 'b', label: cell('Costs', 'Actual'), sign: 1, figure: eur(-200) },
  ],
  ...change,
});

describe('a level of the trace', () => {
  it('proves a sum, and says when it does not hold', () => {
    expect(proofOf(level({}))).toEqual({ text: 'The terms add up to 3.00', holds: true });
    expect(proofOf(level({ sum: 299 }))).toEqual({ text: 'The terms add up to 2.99', holds: false });
    expect(levelHeading(level({ omitted: 4 }))).toEqual({
      title: 'Sum of 2 parts',
      aside: '4 without figures left out',
    });
  });

  it('says a translation with its rate, and what rounding gave', () => {
    const yen = { amount: 4_546_917, unit: { kind: 'currency', code: 'JPY', digits: 0 } } as const;
    const label = {
      kind: 'period',
      what: 'movement',
      period: 'January 2024',
      number: '6000',
      name: 'Payroll',
    } as const;
    const at = { type: 'average', rate: { rate: '0.00636143', isInverse: false }, stated: [] } satisfies NonNullable<
      TraceView['turned']
    >['at'];
    const translated = level({
      ...{ operation: 'scaled', figure: eur(2_892_489), sum: null },
      turned: { from: 'JPY', to: 'EUR', at, less: null, rest: 0 },
      terms: [{ address: 'a', label, sign: 1, figure: yen }],
    });
    expect(levelHeading(translated)).toEqual({
      title: 'Translated',
      aside: '0.00636143 EUR for 1 JPY, average of the month',
    });
    expect(proofOf(translated)!.text).toBe('4,546,917 × 0.00636143 = 28,924.89');
    const part = level({ ...translated, turned: { ...translated.turned!, rest: 1 } });
    expect(proofOf(part)!.text).toBe('4,546,917 × 0.00636143 = 28,924.89, with 0.01 so that parts add up');
    const half = level({ ...translated, turned: { ...translated.turned!, at: { ...at, share: '50' } } });
    expect(levelHeading(half).aside).toBe('0.00636143 EUR for 1 JPY, average of the month, 50 % of it');
    expect(proofOf(half)!.text).toContain('4,546,917 × 0.00636143 × 50 % =');
    const own = level({ ...half, turned: { ...half.turned!, at: { type: 'share', share: '50', stated: [] } } });
    expect(levelHeading(own)).toEqual({ title: 'Part that the group takes', aside: '50 % of it' });
    expect(proofOf(level({ operation: 'hidden' }))).toBeUndefined();
  });

  it('writes changes and ratios out', () => {
    expect(proofOf(level({ operation: 'difference', figure: eur(700), sum: null }))!.text).toBe('5.00 − (2.00) = 7.00');
    expect(proofOf(level({ operation: 'quotient', figure: ratio(-0.4), sum: null }))!.text).toBe(
      '5.00 ÷ (2.00) = (40.0) %',
    );
    expect(proofOf(level({ operation: 'undefined', figure: { ...eur(0), amount: null }, terms: [] }))).toBeUndefined();
    // what is planned at a higher level is no sum that fails
    expect(proofOf(level({ figure: { ...eur(0), amount: null, reason: 'planned_higher' }, sum: 0 }))).toBeUndefined();
  });

  it('proves lines by their total, also those on other pages', () => {
    const postings = { account: '6400', period: 'FY2027-P05', lines: [], skipped: 0, count: 1200, total: 300 };
    expect(proofOf(level({ operation: 'postings', postings, terms: [] }))).toEqual({
      text: '1,200 lines add up to 3.00',
      holds: true,
    });
  });

  it('names terms by what differs', () => {
    expect(namedBy(level({}))).toBe('rows');
    // months of the year that a total is of
    const months = ['Apr', 'May'].map(
      (month) => ({ address: month, label: cell('Sales', month), sign: 1, figure: eur(1) }) as const,
    );
    const by = namedBy(level({ label: cell('Sales', 'Total'), terms: [...months] }));
    expect(labelWords(months[1]!.label, by)).toEqual({ name: 'May', thin: '' });
    expect(labelWords(cell('Sales', 'Actual'), 'rows')).toEqual({ name: 'Sales', thin: '' });
    expect(labelWords(cell('Sales', 'Actual'), 'columns').name).toBe('August 2026 · Actual');
    expect(labelWords({ kind: 'account', number: '6400', name: 'Kiln gas' })).toEqual({
      name: '6400 Kiln gas',
      thin: '',
    });
  });

  it('says units and judgement', () => {
    expect([unitAfter(eur(1)), unitAfter(ratio(1)), unitAfter({ amount: 1, unit: { kind: 'points' } })]).toEqual([
      'EUR',
      '%',
      'percentage points',
    ]);
    expect(sentenceOf(eur(-1, { favour: 'adverse' }))).toBe('adverse');
    expect(sentenceOf({ amount: null, unit: { kind: 'ratio' }, reason: 'no_base' })).toBe(
      'No base: the other side is zero',
    );
  });
});

describe('crumbsOf', () => {
  const level = (label: TraceView['label']) => ({
    kind: 'level' as const,
    level: { label, figure: eur(1) } as TraceView,
  });
  const cell = level({ kind: 'cell', row: 'Energy', block: 'August 2026', column: 'Actual' });
  const account = level({ kind: 'account', number: '6400', name: 'Kiln gas' });
  const month = level({ kind: 'period', what: 'movement', period: 'August 2026', number: '6400', name: 'Kiln gas' });
  const names = (...steps: Parameters<typeof crumbsOf>[0]) => crumbsOf(steps).map(({ name, thin }) => [name, thin]);

  it('names the account of a month, unless the level above does', () => {
    expect(names(cell, month)[1]).toEqual(['6400 Kiln gas', 'August 2026']);
    expect(names(cell, account, month)[2]).toEqual(['August 2026', '']);
  });
});
