/** A line of a budget: what it is a unit, or what it is fixed at; costs positive. */
export interface BudgetLine {
  line: string;
  isCost: boolean;
  perUnit?: number;
  fixed?: number;
  actual: number;
}

/** A line at actual, flexed and planned volume; variances as effects on profit. */
export interface FlexedLine {
  line: string;
  actual: number;
  flexible: number;
  static: number;
  flexibleVariance: number;
  volumeVariance: number;
  staticVariance: number;
}

/**
 * Splits a variance into what prices and efficiency did and what volume did.
 * @source reference definition 19
 */
export function flexBudget(lines: readonly BudgetLine[], unitsPlan: number, unitsActual: number): FlexedLine[] {
  return lines.map(({ line, isCost, perUnit, fixed = 0, actual }) => {
    const at = (units: number) => (perUnit === undefined ? fixed : perUnit * units);
    const [flexible, planned] = [at(unitsActual), at(unitsPlan)];
    const effect = (amount: number) => (isCost ? -amount : amount) + 0;
    return {
      line,
      actual,
      flexible,
      static: planned,
      flexibleVariance: effect(actual - flexible),
      volumeVariance: effect(flexible - planned),
      staticVariance: effect(actual - planned),
    };
  });
}

/** An input of production: quantity allowed for the actual output, quantity used, and prices. */
export interface InputFigures {
  allowed: number;
  used: number;
  standardPrice: number;
  actualPrice: number;
}

/** Price and efficiency of an input, as effects on profit; they add up to its flexible-budget variance. */
export const inputVariances = ({ allowed, used, standardPrice, actualPrice }: InputFigures) => ({
  price: (standardPrice - actualPrice) * used,
  efficiency: (allowed - used) * standardPrice,
});
