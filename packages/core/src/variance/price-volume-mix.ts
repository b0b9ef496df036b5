/** A product with its quantities and unit values, in plan (0) and actual (1). Units: any, the same for all products. */
export interface ProductFigures {
  product: string;
  planUnits: number;
  planPrice: number;
  planUnitCost: number;
  actualUnits: number;
  actualPrice: number;
  actualUnitCost: number;
}

/** What explains a product's variance in sales, or in margin; the effects add up to it. */
export interface ProductEffects {
  product: string;
  plan: number;
  actual: number;
  price: number;
  unitCost: number;
  volume: number;
  mix: number;
  newProduct: number;
  discontinued: number;
}

/**
 * Price, unit cost, volume and mix of products that are counted in one unit.
 *
 * Shape: one row a product. Products without plan or without actual units stand apart as new or discontinued, outside
 * the quantities that volume and mix are made of.
 * @source reference definition 17 (sales price, quantity and mix variances of management accounting handbooks)
 */
export function priceVolumeMix(products: readonly ProductFigures[], basis: 'revenue' | 'margin'): ProductEffects[] {
  const isMargin = basis === 'margin';
  const common = products.filter(({ planUnits, actualUnits }) => planUnits !== 0 && actualUnits !== 0);
  const sum = (value: (each: ProductFigures) => number) => common.reduce((total, each) => total + value(each), 0);
  const planValue = (each: ProductFigures) => each.planPrice - (isMargin ? each.planUnitCost : 0);
  const [q0, q1] = [sum(({ planUnits }) => planUnits), sum(({ actualUnits }) => actualUnits)];
  return products.map((each): ProductEffects => {
    const plan = each.planUnits * planValue(each);
    const actual = each.actualUnits * (each.actualPrice - (isMargin ? each.actualUnitCost : 0));
    const none = {
      product: each.product,
      plan,
      actual,
      price: 0,
      unitCost: 0,
      volume: 0,
      mix: 0,
      newProduct: 0,
      discontinued: 0,
    };
    if (each.planUnits === 0) return { ...none, newProduct: actual };
    if (each.actualUnits === 0) return { ...none, discontinued: -plan };
    const atPlanMix = (q1 * each.planUnits) / q0;
    return {
      ...none,
      price: (each.actualPrice - each.planPrice) * each.actualUnits,
      unitCost: isMargin ? -(each.actualUnitCost - each.planUnitCost) * each.actualUnits : 0,
      volume: (atPlanMix - each.planUnits) * planValue(each),
      mix: (each.actualUnits - atPlanMix) * planValue(each),
    };
  });
}
