import { formatMinor } from '@margin-lens/core';
import type { CsvFile } from './csv-file';
import { CHART } from './chart';
import { kilnHours, piecesPlanned } from './pieces';
import { profitAndLoss, profitOf, type Assumptions } from './profit-and-loss';
import { DIMENSION_NAMES } from './book';
import {
  ENTITIES,
  gasTariff,
  periodKey,
  productOf,
  trend,
  type DemoEntity,
  type Month,
  type ProductLine,
} from './scenario';

export const FIGURE_HEADER = [
  'version',
  'entity',
  'account',
  'period',
  'amount',
  'quantity',
  'partner',
  'flow',
  ...DIMENSION_NAMES.map((name) => `dim:${name}`),
];

interface VersionPlan {
  code: string;
  /** Months that the version has figures of its own for. */
  covers(month: Month): boolean;
  assume: Assumptions;
  /** Accounts left out: what nobody planned. */
  leavesOut(entity: DemoEntity, account: string): boolean;
}

const even = (yearly: Record<ProductLine, number>) => (line: ProductLine, index: number) =>
  (1 + yearly[line]) ** (index / 12);
const hopeful = even({ tableware: 0.03, tiles: 0.055, studio: 0.035, contract: 0.03 });

/** Salaries of the design studio were forgotten in Plan FY27. */
const forgotten = (entity: DemoEntity, account: string) => entity.code === 'LMS' && account === '7600';

export const VERSIONS: readonly VersionPlan[] = [
  {
    code: 'PLAN_FY26',
    covers: (m) => m.fiscalYear === 2026,
    assume: { growth: hopeful, gas: () => 1.02 },
    leavesOut: () => false,
  },
  {
    code: 'PLAN_FY27',
    covers: (m) => m.fiscalYear === 2027,
    assume: { growth: hopeful, gas: () => 1.17 },
    leavesOut: forgotten,
  },
  {
    code: 'FORECAST_1',
    covers: (m) => m.fiscalYear === 2027 && m.period > 2,
    assume: { growth: (line, index) => trend(line, index) * 1.005, gas: () => 1.2 },
    leavesOut: () => false,
  },
  {
    code: 'FORECAST_2',
    covers: (m) => m.fiscalYear === 2027 && m.period > 5,
    assume: { growth: trend, gas: gasTariff },
    leavesOut: () => false,
  },
];

/** Kiln hours of a plan, as a part of the usual ones. */
const PLANNED_HOURS = 0.97;

const isSales = new Set(CHART.filter((account) => account.category === 'Net sales').map((account) => account.number));

/** What of sales is planned for each channel; the last has the rest. */
const PLANNED_CHANNELS: readonly [channel: string, part: number][] = [
  ['retail', 0.24],
  ['wholesale', 0.26],
  ['online', 0.23],
  ['projects', 0.27],
];

function byChannel(amount: number, round: (amount: number) => number): [channel: string, part: number][] {
  let left = amount;
  return PLANNED_CHANNELS.map(([channel, part], at) => {
    const own = at === PLANNED_CHANNELS.length - 1 ? left : round(amount * part);
    left -= own;
    return [channel, own];
  });
}

/** Figures are planned in round hundreds: sales by product line and channel, costs by department. */
export function writeFigures(file: CsvFile, months: readonly Month[]): void {
  for (const version of VERSIONS) {
    for (const entity of ENTITIES) {
      for (const month of months.filter((m) => version.covers(m))) writeMonth(file, version, entity, month);
    }
  }
}

function writeMonth(file: CsvFile, version: VersionPlan, entity: DemoEntity, month: Month): void {
  const period = periodKey(month.fiscalYear, month.period);
  const round = (amount: number) => Math.round(amount / (100 * 10 ** entity.digits)) * 100 * 10 ** entity.digits;
  const row = (account: string, amount: number, quantity: number, dims: Record<string, string>) => {
    if (amount === 0 && quantity === 0) return;
    const text = amount === 0 ? '' : formatMinor(amount, entity.digits);
    const cells = [version.code, entity.code, account, period, text, quantity || '', '', ''];
    file.add([...cells, ...DIMENSION_NAMES.map((name) => dims[name] ?? '')]);
  };
  const amounts = profitAndLoss(entity, month, version.assume);
  const sums = new Map<string, { account: string; amount: number; dims: Record<string, string> }>();
  for (const { account, amount, line, department } of amounts) {
    if (version.leavesOut(entity, account)) continue;
    const dims: Record<string, string> = isSales.has(account)
      ? { product_line: productOf(account, line!), department: 'sales' }
      : { department: department ?? 'finance' };
    const key = `${account}|${Object.values(dims).join('|')}`;
    const sum = sums.get(key) ?? { account, amount: 0, dims };
    sum.amount += amount;
    sums.set(key, sum);
  }
  for (const { account, amount, dims } of sums.values()) {
    if (!isSales.has(account)) row(account, round(amount), 0, dims);
    else for (const [channel, part] of byChannel(round(amount), round)) row(account, part, 0, { ...dims, channel });
  }
  row('8200', round(profitOf(amounts) * 0.25), 0, { department: 'finance' });
  for (const line of Object.keys(entity.sales) as ProductLine[])
    row('9110', 0, piecesPlanned(entity, line, month, version.assume), { product_line: line });
  row('9200', 0, kilnHours(entity, PLANNED_HOURS), {});
}
