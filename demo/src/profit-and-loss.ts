import { CHART, spreadAccounts } from './chart';
import { gasTariff, SEASON, trend, type DemoEntity, type Month, type ProductLine } from './scenario';

/** What a set of figures assumes: the actual course of things, or what a plan believed. */
export interface Assumptions {
  growth(line: ProductLine, index: number): number;
  gas(index: number): number;
}

export const WHAT_HAPPENED: Assumptions = { growth: trend, gas: gasTariff };

/** One account's amount of a month, in minor units, in the account's natural sign. */
export interface Amount {
  account: string;
  amount: number;
  line?: ProductLine;
  department?: string;
}

interface CostShare {
  category: string;
  subcategory: string;
  /** Share of an average month's sales. */
  share: number;
  /** 1 follows the month's sales fully, 0 not at all. */
  variable: number;
  department: string;
}

const SALES_ACCOUNTS: Record<ProductLine, readonly string[]> = {
  tableware: ['4000', '4010', '4020', '4030', '4040'],
  tiles: ['4200', '4210', '4220', '4230'],
  studio: ['4400', '4420', '4430'],
  contract: ['4410'],
};
/** Discounts, rebates and returns as shares of sales. */
const DEDUCTIONS: Record<ProductLine, readonly [account: string, share: number][]> = {
  tableware: [
    ['4050', 0.021],
    ['4060', 0.016],
    ['4070', 0.008],
  ],
  tiles: [
    ['4250', 0.014],
    ['4260', 0.018],
    ['4270', 0.004],
  ],
  studio: [['4440', 0.012]],
  contract: [['4440', 0.009]],
};

const cost = (
  category: string,
  subcategory: string,
  share: number,
  variable: number,
  department: string,
): CostShare => ({
  category,
  subcategory,
  share,
  variable,
  department,
});
const COSTS: readonly CostShare[] = [
  cost('Cost of sales', 'Materials', 0.198, 1, 'production'),
  cost('Cost of sales', 'Purchased goods', 0.02, 1, 'production'),
  cost('Cost of sales', 'Labour', 0.186, 0.35, 'production'),
  cost('Cost of sales', 'Energy', 0.118, 0.8, 'kiln_hall_a'),
  cost('Cost of sales', 'Other production costs', 0.04, 0.5, 'production'),
  cost('Cost of sales', 'Depreciation', 0.038, 0, 'production'),
  ...(['Selling', 'Distribution', 'Administration', 'Research and design'] as const).flatMap((category, index) => {
    const [share, department] = (
      [
        [0.098, 'sales'],
        [0.052, 'logistics'],
        [0.074, 'finance'],
        [0.026, 'design'],
      ] as const
    )[index]!;
    return [
      cost(category, 'People', share * 0.62, 0.1, department),
      cost(category, 'Specific costs', share * 0.26, category === 'Distribution' ? 0.9 : 0.4, department),
      cost(category, 'Overheads', share * 0.12, 0, department),
    ];
  }),
  cost('Finance costs', 'Finance costs', 0.011, 0, 'finance'),
];

const minor = (entity: DemoEntity) => 10 ** entity.digits;

/** Sales of a product line in a month, in minor units before deductions. */
export const salesOf = (entity: DemoEntity, line: ProductLine, month: Month, assume: Assumptions): number =>
  (entity.sales[line] ?? 0) * 1000 * minor(entity) * SEASON[line][month.month - 1]! * assume.growth(line, month.index);

function spread(total: number, category: string, subcategory: string): { account: string; amount: number }[] {
  const accounts = spreadAccounts(category, subcategory);
  const weights = accounts.reduce((sum, account) => sum + account.weight, 0);
  return accounts.map(({ number, weight }) => ({ account: number, amount: (total * weight) / weights }));
}

/** The income statement of an entity in a month, account by account, under the assumptions; unrounded. */
export function profitAndLoss(entity: DemoEntity, month: Month, assume: Assumptions): Amount[] {
  const lines = Object.keys(entity.sales) as ProductLine[];
  const amounts: Amount[] = [];
  let sales = 0;
  let average = 0;
  for (const line of lines) {
    const total = salesOf(entity, line, month, assume);
    sales += total;
    average += (entity.sales[line] ?? 0) * 1000 * minor(entity) * assume.growth(line, month.index);
    const accounts = SALES_ACCOUNTS[line].map((number) => CHART.find((account) => account.number === number)!);
    const weights = accounts.reduce((sum, account) => sum + account.weight, 0);
    for (const account of accounts)
      amounts.push({ account: account.number, amount: (total * account.weight) / weights, line, department: 'sales' });
    for (const [account, share] of DEDUCTIONS[line])
      amounts.push({ account, amount: -total * share, line, department: 'sales' });
  }
  for (const { category, subcategory, share, variable, department } of COSTS) {
    const isMade = category === 'Cost of sales' && subcategory !== 'Depreciation';
    const own = isMade ? (entity.makes ?? 1) : 1;
    const total = own * share * (variable * sales + (1 - variable) * average);
    for (const part of spread(total, category, subcategory)) {
      const isGas = part.account === '6400' || part.account === '6460';
      amounts.push({ ...part, amount: isGas ? part.amount * assume.gas(month.index) : part.amount, department });
    }
  }
  amounts.push({ account: '7800', amount: sales * 0.004, department: 'production' });
  amounts.push({ account: '7830', amount: sales * 0.001, department: 'production' });
  amounts.push({ account: '8100', amount: average * 0.0012, department: 'finance' });
  amounts.push({ account: '8110', amount: average * 0.0008, department: 'finance' });
  return amounts;
}

/** Income less expense of a list of amounts, in minor units. */
export function profitOf(amounts: readonly Amount[]): number {
  const isIncome = (account: string) => CHART.find((a) => a.number === account)!.nature === 'income';
  return amounts.reduce((profit, { account, amount }) => profit + (isIncome(account) ? amount : -amount), 0);
}
