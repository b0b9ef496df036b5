import path from 'node:path';
import fc from 'fast-check';
import { whyByVolume, type VolumeValue } from '../../../src/index';
import { priceVolumeMix, type ProductEffects } from '../../../src/variance/price-volume-mix';
import { readTable } from '../read-table';

/** Reference case 02 (see README.md here): computed with Python fractions. What statements show of it is in case02-statements.test.ts. */
const file = (name: string) => path.join(__dirname, name);
const table = (name: string) => readTable(file(name));
const near = (actual: number | undefined, expected: string, digits = 8) => {
  if (expected === '' || expected === 'undefined') expect(actual).toBeUndefined();
  else expect(actual).toBeCloseTo(Number(expected), digits);
};
/** Amounts in cents, so that sums are exact. */
const cents = (text: string) => Math.round(Number(text) * 100);

describe('price, volume and mix', () => {
  const input = table('input/pvm.csv').map((row) => ({
    product: row['product']!,
    planUnits: Number(row['plan_units']),
    planPrice: Number(row['plan_price']),
    planUnitCost: Number(row['plan_unit_cost']),
    actualUnits: Number(row['actual_units']),
    actualPrice: Number(row['actual_price']),
    actualUnitCost: Number(row['actual_unit_cost']),
  }));
  const EFFECTS = {
    price: 'price_effect',
    unitCost: 'unit_cost_effect',
    volume: 'volume_effect',
    mix: 'mix_effect',
    newProduct: 'new_product_effect',
    discontinued: 'discontinued_effect',
  } as const;

  it.each(table('expected/pvm.csv'))('$basis, $product', (row) => {
    const all = priceVolumeMix(input, row['basis'] as 'revenue' | 'margin');
    const chosen = row['product'] === 'TOTAL' ? all : all.filter(({ product }) => product === row['product']);
    const sum = (key: keyof Omit<ProductEffects, 'product'>) => chosen.reduce((total, each) => total + each[key], 0);
    for (const [key, column] of Object.entries(EFFECTS)) near(sum(key as keyof typeof EFFECTS), row[column]!, 6);
    near(sum('actual') - sum('plan'), row['variance']!, 6);
    const explained = Object.keys(EFFECTS).reduce((total, key) => total + sum(key as keyof typeof EFFECTS), 0);
    near(explained, row['variance']!, 6);
  });
});

describe('why, by price, volume and mix', () => {
  const values = table('input/pvm.csv').map((row): VolumeValue => {
    const side = (prefix: 'plan' | 'actual') => {
      const units = Number(row[`${prefix}_units`]);
      const times = (of: string) => Math.round(units * Number(row[`${prefix}_${of}`]) * 100);
      return { income: times('price'), other: -times('unit_cost'), quantity: units };
    };
    return { id: row['product']!, label: row['product']!, of: side('actual'), base: side('plan') };
  });
  const changeOf = (all: readonly VolumeValue[]) =>
    all.reduce((sum, { of, base }) => sum + of.income + of.other - base.income - base.other, 0);
  const EFFECTS = {
    price: 'price_effect',
    unitCost: 'unit_cost_effect',
    volume: 'volume_effect',
    mix: 'mix_effect',
    newProduct: 'new_product_effect',
    discontinued: 'discontinued_effect',
  };
  const total = (basis: string) =>
    table('expected/pvm.csv').find((row) => row['product'] === 'TOTAL' && row['basis'] === basis)!;

  it('of a margin tells price and cost a unit apart; the terms are those of the case and add up', () => {
    const { terms } = whyByVolume(changeOf(values), values)!;
    for (const { id, amount } of terms)
      expect(amount).toBe(cents(total('margin')[EFFECTS[id as keyof typeof EFFECTS]]!));
    expect(terms.reduce((sum, { amount }) => sum + amount, 0)).toBe(cents(total('margin')['variance']!));
    expect(terms[0]!.id).toBe('newProduct');
  });

  it('of sales alone has no cost, and of costs alone no price; what is not counted stands apart', () => {
    const sales = values.map(({ of, base, ...rest }) => ({
      ...rest,
      of: { ...of, other: 0 },
      base: { ...base, other: 0 },
    }));
    const ofSales = whyByVolume(changeOf(sales), sales)!.terms;
    expect(ofSales.map(({ id }) => id)).not.toContain('unitCost');
    for (const { id, amount } of ofSales)
      expect(amount).toBe(cents(total('revenue')[EFFECTS[id as keyof typeof EFFECTS]]!));
    const costs = values.map(({ of, base, ...rest }) => ({
      ...rest,
      of: { ...of, income: 0 },
      base: { ...base, income: 0 },
    }));
    const services = {
      id: '',
      label: 'No product',
      of: { income: 0, other: -700, quantity: 0 },
      base: { income: 0, other: -500, quantity: 0 },
    };
    const ofCosts = whyByVolume(changeOf([...costs, services]), [...costs, services])!.terms;
    expect(ofCosts.map(({ id }) => id)).not.toContain('price');
    expect(ofCosts.find(({ id }) => id === 'without')!.amount).toBe(-200);
    // unit cost of the three common products: 12,900 × −0.15 + 8,100 × −0.05 + 4,550 × 0.10 = −1,885.00
    expect(ofCosts.find(({ id }) => id === 'unitCost')!.amount).toBe(-188_500);
  });

  it('is not told where a side has no quantities', () => {
    const unplanned = values.map((value) => ({ ...value, base: { ...value.base, quantity: 0 } }));
    expect(whyByVolume(changeOf(unplanned), unplanned)).toBeUndefined();
  });

  it('counts nothing that has no value: people who work on no product are no quantity of it', () => {
    const people = { id: '', label: 'No product', of: { income: 0, other: -700, quantity: 12 }, base: values[0]!.base };
    expect(whyByVolume(changeOf([people]), [people])).toBeUndefined();
    const { terms } = whyByVolume(changeOf([...values, people]), [...values, people])!;
    const left = people.of.other - people.base.income - people.base.other;
    expect(terms.find(({ id }) => id === 'without')!.amount).toBe(left);
  });

  it('adds up to the change for any figures', () => {
    const side = fc.record({
      income: fc.integer({ min: -1e9, max: 1e9 }),
      other: fc.integer({ min: -1e9, max: 1e9 }),
      quantity: fc.integer({ min: 0, max: 1e6 }),
    });
    const value = fc.record({ id: fc.string(), label: fc.string(), of: side, base: side });
    fc.assert(
      fc.property(fc.array(value, { minLength: 1, maxLength: 6 }), (all) => {
        const found = whyByVolume(changeOf(all), all);
        if (found) expect(found.terms.reduce((sum, { amount }) => sum + amount, 0)).toBe(changeOf(all));
      }),
    );
  });
});
