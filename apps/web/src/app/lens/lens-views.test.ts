import type { StatementView, WhyView } from '@margin-lens/contract';
import { SAMPLE_VIEW, SAMPLE_WHY } from '../testing/sample-view';
import { cumulatedOption, monthsOf, monthsOption } from '@margin-lens/core/drawn';
import { quantityWords, valueEffects, whySentence } from '../charts/why-text';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;

describe('whySentence', () => {
  const why = (more: Partial<WhyView> = {}): WhyView => ({
    ...SAMPLE_WHY,
    row: 'Energy',
    from: -1_000_000,
    to: -1_900_000,
    terms: [
      { id: '6400', label: '6400 Kiln gas', amount: -1_000_000, favour: 'adverse' },
      { id: '6410', label: '6410 Electricity', amount: 200_000, favour: 'favourable' },
      { id: 'rest', label: 'All else', amount: -100_000, favour: 'adverse' },
    ],
    ...more,
  });

  it('says the whole, the largest parts that go with it, and the largest against it', () => {
    expect(whySentence(why(), 1000)).toBe(
      'Energy: Actual (9) against Plan, mostly 6400 Kiln gas (10), partly offset by 6410 Electricity 2.',
    );
  });

  it('takes price, volume and mix as words', () => {
    const terms = [{ id: 'volume', label: 'Volume', amount: -900_000, favour: 'adverse' as const }];
    expect(whySentence(why({ terms, counted: '9110' }), 1000)).toBe(
      'Energy: Actual (9) against Plan, mostly volume (9).',
    );
  });

  it('says what each value brings to price and volume, and how many there are at what price', () => {
    const value = {
      label: 'Tiles',
      quantityOf: 12_900,
      quantityBase: 12_000,
      amountOf: 10_707_000,
      amountBase: 10_200_000,
      price: -258_000,
      unitCost: 0,
      volume: 765_000,
      mix: 0,
      other: 0,
    };
    const view = why({
      values: [value],
      terms: [{ id: 'price', label: 'Price', amount: -258_000, favour: 'adverse' }],
    });
    expect(valueEffects(view, 1)).toEqual([
      { name: 'Price', texts: ['(2,580)'] },
      { name: 'Volume', texts: ['7,650'] },
    ]);
    expect(quantityWords(view, value)).toBe('12,900 at 8.30, was 12,000 at 8.50');
    expect(quantityWords(view, { ...value, quantityBase: 0 })).toBe('12,900 at 8.30, was none');
    expect(valueEffects({ ...view, terms: [] }, 1)[0]!.name).toBe('Cost');
  });

  it('says when nothing changed, or nothing stands out', () => {
    expect(whySentence(why({ to: -1_000_000 }), 1000)).toBe('Energy: Actual is as Plan.');
    expect(whySentence(why({ terms: [] }), 1)).toBe('Energy: Actual (9,000) against Plan.');
  });
});

describe('charts of a row', () => {
  const head = (
    id: string,
    source: string,
    notation: 'actual' | 'plan' | 'empty',
    kind: 'figure' | 'total' = 'figure',
  ) => ({
    id,
    source,
    kind,
    notation,
    block: source,
    blockLabel: '',
    label: id,
    note: '',
    span: null,
    dates: '',
    held: null,
    flags: [],
    hideFromExport: false,
  });
  const cell = (amount: number | null) => ({ amount, unit: EUR });
  const view = {
    ...SAMPLE_VIEW,
    compared: { code: 'PLAN', name: 'Plan' },
    columns: [
      head('April', 'now', 'actual'),
      head('May', 'now', 'empty'),
      head('Total', 'now', 'actual', 'total'),
      head('April', 'base', 'plan'),
      head('May', 'base', 'plan'),
    ],
    rows: [
      {
        ...SAMPLE_VIEW.rows[0]!,
        id: 'sales',
        label: 'Sales',
        cells: [cell(100), cell(null), cell(100), cell(90), cell(95)],
      },
    ],
  } as StatementView;

  it('are drawn from the months of both sides, in their notation', () => {
    const months = monthsOf(view, 'sales')!;
    expect(months).toMatchObject({
      months: ['April', 'May'],
      now: [100, null],
      base: [90, 95],
      notation: ['actual', 'actual'],
      baseNotation: 'plan',
      baseName: 'Plan',
      isFlow: true,
    });
    const { series } = monthsOption(months) as { series: { data: { value: number | null }[] }[] };
    expect(series.map(({ data }) => data.map(({ value }) => value))).toEqual([
      [90, 95],
      [100, null],
    ]);
    expect(monthsOf(view, 'nothing')).toBeUndefined();
  });

  it('sum up as far as there are figures', () => {
    const { series } = cumulatedOption(monthsOf(view, 'sales')!, 1) as {
      series: { data: { value: number | null }[] }[];
    };
    expect(series.map(({ data }) => data.map(({ value }) => value))).toEqual([
      [90, 185],
      [100, null],
    ]);
  });
});
