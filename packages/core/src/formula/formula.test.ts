import { evaluateFormula, asPlainSum } from './evaluate-formula';
import { renameInFormula, storeFormula, typedFormula, type NameSpace } from './formula-names';
import { parseFormula } from './parse-formula';

const NAMES: NameSpace = {
  own: [
    { id: 'net_sales', label: 'Net sales' },
    { id: 'cost', label: 'Cost of sales' },
    { id: 'plant', label: 'Property, plant and equipment' },
  ],
  others: [{ id: 'sheet', name: 'Balance sheet', rows: [{ id: 'assets', label: 'Total assets' }] }],
};

describe('parseFormula', () => {
  it.each([
    ['Net sales +', 'The formula is not finished', 11],
    ['Net sales ) 1', '“) 1” is not expected here', 10],
    ['', 'The formula is not finished', 0],
    ['median(1, 2)', 'There is no function “median”', 0],
    ['if(1, 2, 3)', 'The first part of “if” is a comparison', 0],
    ['max(1 < 2)', 'A comparison stands only in “if”', 0],
    ['abs(1, 2)', '“abs” takes 1 parts, not 2', 0],
  ])('says what is wrong with “%s” and where', (text, problem, from) => {
    expect(parseFormula(text).error).toMatchObject({ problem, from });
  });

  it('binds products before sums, and reads percentages', () => {
    const amount = (text: string) =>
      evaluateFormula(parseFormula(text).tree!, { quantityOf: () => ({ amount: 0 }), days: 31, months: 1 }).amount;
    expect(amount('1 + 2 × 3')).toBe(7);
    expect(amount('8 ÷ 2 ÷ 2')).toBe(2);
    expect(amount('200 * 15 %')).toBe(30);
    expect(amount('-2 - -3')).toBe(1);
    expect(amount('round(2.345, 2)')).toBe(2.35);
    expect(amount('round(-2.5)')).toBe(-3);
    expect(amount('days() + months()')).toBe(32);
  });
});

describe('storeFormula', () => {
  it('keeps ids in place of names, whatever their case, and those of other layouts', () => {
    expect(storeFormula('net sales − Cost of sales', NAMES)).toEqual({ formula: '{net_sales} − {cost}' });
    expect(storeFormula('Net sales / Total assets @ Balance sheet', NAMES)).toEqual({
      formula: '{net_sales} / {sheet.assets}',
    });
    expect(storeFormula('"Property, plant and equipment" + 1', NAMES)).toEqual({ formula: '{plant} + 1' });
  });

  it('names what it does not know, with its place', () => {
    expect(storeFormula('Net sales - Turnover', NAMES).error).toEqual({
      problem: 'Nothing is called “Turnover”',
      from: 12,
      to: 20,
    });
    expect(storeFormula('Turnover @ Balance sheet', NAMES).error?.problem).toBe(
      '“Balance sheet” has no row “Turnover”',
    );
    expect(storeFormula('Cash @ Cash flow', NAMES).error?.problem).toBe('There are no rows called “Cash flow”');
    const twice: NameSpace = { own: [...NAMES.own, { id: 'other', label: 'Net sales' }], others: [] };
    expect(storeFormula('Net sales', twice).error?.problem).toMatch(/stands twice/);
  });

  it('is read back with the names of now', () => {
    const renamed: NameSpace = { ...NAMES, own: [{ id: 'net_sales', label: 'Turnover (net)' }] };
    expect(typedFormula('{net_sales} / {sheet.assets}', renamed)).toBe(
      '"Turnover (net)" / Total assets @ Balance sheet',
    );
    expect(typedFormula('{gone}', renamed)).toBe('{gone}');
    expect(renameInFormula('{a} + {b} / {x.a}', new Map([['a', 'c']]))).toBe('{c} + {b} / {x.a}');
  });
});

describe('evaluateFormula', () => {
  const amounts: Record<string, number | null> = { a: 6, b: null, zero: 0 };
  const of = (text: string) =>
    evaluateFormula(parseFormula(text).tree!, {
      quantityOf: (reference) => {
        const amount = amounts[(reference as { id: string }).id]!;
        return amount === null ? { amount, reason: 'no_data' } : { amount };
      },
      days: undefined,
      months: undefined,
    });

  it('passes over what holds no data in sums, not in products', () => {
    expect(of('{a} + {b}')).toEqual({ amount: 6 });
    expect(of('{a} * {b}')).toEqual({ amount: null, reason: 'no_data' });
    expect(of('average({a}, {b}, 2)')).toEqual({ amount: 4 });
    expect(of('coalesce({b}, {a})')).toEqual({ amount: 6 });
    expect(of('if({b} > 1, 1, 2)')).toEqual({ amount: null, reason: 'no_data' });
  });

  it('has no quotient by zero and no days without a span', () => {
    expect(of('{a} / {zero}')).toEqual({ amount: null, reason: 'no_base' });
    expect(of('1 + {a} / {zero}')).toEqual({ amount: null, reason: 'no_base' });
    expect(of('days()')).toEqual({ amount: null, reason: 'not_meaningful' });
  });
});

describe('asPlainSum', () => {
  const signs = (text: string) =>
    asPlainSum(parseFormula(text).tree!)?.map(({ of, sign }) => `${sign < 0 ? '-' : '+'}${(of as { id: string }).id}`);

  it('knows sums by their signs, and what is more than a sum', () => {
    expect(signs('{a} - ({b} - {c})')).toEqual(['+a', '-b', '+c']);
    expect(signs('sum({a}, {b}) - {a}')).toEqual(['+a', '+b', '-a']);
    expect(signs('{a} * 2')).toBeUndefined();
    expect(signs('{a} + 2')).toBeUndefined();
  });
});
