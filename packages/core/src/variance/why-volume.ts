import type { Evaluation } from '../statement/evaluation';
import type { TraceNode } from '../statement/trace-node';
import type { BridgeTerm } from './bridge';
import { priceVolumeMix, type ProductEffects, type ProductFigures } from './price-volume-mix';
import { accountTerms } from './why';

/** A side of a change for one value of a dimension. Units: minor units in the cell's sign; quantity as counted. */
export interface VolumeSide {
  /** What income accounts bring into the cell, and what all others do. */
  income: number;
  other: number;
  quantity: number;
}

/** A value of a dimension, such as a product, on both sides of a change. */
export interface VolumeValue {
  /** Empty for what has no value of the dimension: whatever it counts is no quantity of a product. */
  id: string;
  label: string;
  of: VolumeSide;
  base: VolumeSide;
}

export interface WhyVolume {
  /** Price, cost a unit, volume, mix, new and gone values, and what has no quantity; largest first, adding up to the change. */
  terms: BridgeTerm[];
  /** What each value with quantities brings to it. */
  values: (VolumeValue & { effects: ProductEffects })[];
}

const LABELS = {
  price: 'Price',
  unitCost: 'Cost a unit',
  volume: 'Volume',
  mix: 'Mix',
  newProduct: 'New',
  discontinued: 'Discontinued',
} as const;
type Effect = keyof typeof LABELS;

/** What income accounts, and what others, bring into a cell; undefined where it is no sum of accounts. */
export function incomeAndOther(evaluation: Evaluation, node: TraceNode): Omit<VolumeSide, 'quantity'> | undefined {
  const terms = accountTerms(evaluation, node);
  if (!terms) return undefined;
  const { accounts } = evaluation.input.slice;
  const side = { income: 0, other: 0 };
  for (const [account, amount] of terms) side[accounts[account]!.nature === 'income' ? 'income' : 'other'] += amount;
  return side;
}

/**
 * Tells a change apart into price, cost a unit, volume and mix by values that are counted in one unit.
 *
 * Units: minor units in the cell's sign, whole; the terms add up to `change` exactly, the largest taking what rounding
 * leaves. A cell of costs alone has no price: what a unit costs stands in its place. Values without a quantity on
 * either side, and what has no value, stand as "Amounts without quantities". Undefined where a side has no quantities at all.
 * @source reference definition 17
 */
export function whyByVolume(change: number, values: readonly VolumeValue[]): WhyVolume | undefined {
  const counted = values.filter(({ id, of, base }) => id !== '' && (of.quantity !== 0 || base.quantity !== 0));
  if (!counted.some(({ of }) => of.quantity !== 0) || !counted.some(({ base }) => base.quantity !== 0))
    return undefined;
  const holds = (part: 'income' | 'other') => counted.some(({ of, base }) => of[part] !== 0 || base[part] !== 0);
  const isCost = !holds('income');
  const products = counted.map((value) => productOf(value, isCost));
  const effects = priceVolumeMix(products, isCost || !holds('other') ? 'revenue' : 'margin');
  const sums = new Map<Effect, number>();
  for (const each of effects)
    for (const effect of Object.keys(LABELS) as Effect[]) {
      const named = isCost && effect === 'price' ? 'unitCost' : effect;
      sums.set(named, (sums.get(named) ?? 0) + each[effect]);
    }
  const whole = [...sums].map(([id, amount]) => ({ id, label: LABELS[id] as string, amount: Math.round(amount) }));
  const uncounted = values
    .filter((value) => !counted.includes(value))
    .reduce((sum, { of, base }) => sum + of.income + of.other - base.income - base.other, 0);
  const terms = [...whole, { id: 'without', label: 'Amounts without quantities', amount: uncounted }]
    .filter(({ amount }) => amount !== 0)
    .sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
  const left = change - terms.reduce((sum, { amount }) => sum + amount, 0);
  return {
    terms: terms.map((term, at) => (at === 0 ? { ...term, amount: term.amount + left } : term)),
    values: counted.map((value, at) => ({ ...value, effects: effects[at]! })),
  };
}

function productOf({ id, of, base }: VolumeValue, isCost: boolean): ProductFigures {
  const each = (amount: number, quantity: number) => (quantity === 0 ? 0 : amount / quantity);
  const [planPrice, actualPrice] = [base, of].map(({ income, other, quantity }) =>
    each(isCost ? other : income, quantity),
  );
  const [planUnitCost, actualUnitCost] = [base, of].map(({ other, quantity }) => (isCost ? 0 : -each(other, quantity)));
  return {
    product: id,
    planUnits: base.quantity,
    actualUnits: of.quantity,
    planPrice: planPrice!,
    actualPrice: actualPrice!,
    planUnitCost: planUnitCost!,
    actualUnitCost: actualUnitCost!,
  };
}
