/** The facts of the Larkmoor scenario that generators share. All of it is invented. */
export interface DemoEntity {
  code: string;
  name: string;
  currency: 'EUR' | 'PLN' | 'GBP' | 'JPY' | 'USD' | 'SEK' | 'NOK';
  digits: number;
  region: string;
  /** Sales of an average month in thousands of local currency, by product line. */
  sales: Partial<Record<ProductLine, number>>;
  headcount: number;
  /** Percent of the profit. */
  taxRate: number;
  /** Part of the cost of making that it bears itself, where it sells what others of the group make. */
  makes?: number;
  /** Where it is another than that of the groups. */
  calendar?: string;
  /** How it is turned into another currency, where not at closing rates. */
  translation?: 'temporal';
}
export type ProductLine = 'tableware' | 'tiles' | 'studio' | 'contract';

/** Accounts whose sales are told apart within their product line. */
const PRODUCT_OF: Readonly<Record<string, string>> = { '4030': 'gift', '4040': 'hotel', '4220': 'facade' };

export const productOf = (account: string, line: ProductLine): string => PRODUCT_OF[account] ?? line;

export const ENTITIES: readonly DemoEntity[] = [
  {
    code: 'LMG',
    name: 'Larkmoor Ceramics',
    currency: 'EUR',
    digits: 2,
    region: 'iberia',
    sales: { tableware: 1680, studio: 190, contract: 260 },
    headcount: 214,
    taxRate: 25,
  },
  {
    code: 'LMT',
    name: 'Larkmoor Tile',
    currency: 'PLN',
    digits: 2,
    region: 'central',
    sales: { tiles: 12_900, contract: 700 },
    headcount: 236,
    taxRate: 19,
  },
  {
    code: 'LMS',
    name: 'Larkmoor Studio',
    currency: 'EUR',
    digits: 2,
    region: 'iberia',
    sales: { studio: 520, contract: 310 },
    headcount: 71,
    taxRate: 25,
  },
  {
    code: 'LMU',
    name: 'Larkmoor Supply',
    currency: 'GBP',
    digits: 2,
    region: 'british_isles',
    sales: { tableware: 620, tiles: 240 },
    headcount: 58,
    taxRate: 25,
    makes: 0.58,
  },
  {
    code: 'LMJ',
    name: 'Larkmoor Japan',
    currency: 'JPY',
    digits: 0,
    region: 'asia',
    sales: { tableware: 71_000, studio: 24_000 },
    headcount: 39,
    taxRate: 30.6,
  },
  {
    code: 'LMA',
    name: 'Larkmoor Americas',
    currency: 'USD',
    digits: 2,
    region: 'north_america',
    sales: { tableware: 480, tiles: 350 },
    headcount: 52,
    taxRate: 25.8,
  },
  {
    code: 'KWE',
    name: 'Kilnworks Energy',
    currency: 'EUR',
    digits: 2,
    region: 'iberia',
    sales: { contract: 610 },
    headcount: 24,
    taxRate: 25,
  },
];

export const GROUP = 'LARKMOOR';
export const CALENDAR = 'apr_mar';
/** Actual journals run to this month. */
export const LAST_ACTUAL = '2026-08';

export interface Month {
  /** `2026-08` */
  key: string;
  year: number;
  month: number;
  fiscalYear: number;
  period: number;
  days: number;
  /** Months since April 2024. */
  index: number;
}

const pad = (n: number) => String(n).padStart(2, '0');

/** Months of fiscal years, April to March, named by the calendar year in which they end. */
export function fiscalMonths(firstYear: number, lastYear: number): Month[] {
  const months: Month[] = [];
  for (let fiscalYear = firstYear; fiscalYear <= lastYear; fiscalYear++) {
    for (let period = 1; period <= 12; period++) {
      const month = ((period + 2) % 12) + 1;
      const year = period <= 9 ? fiscalYear - 1 : fiscalYear;
      const days = new Date(Date.UTC(year, month, 0)).getUTCDate();
      months.push({
        key: `${year}-${pad(month)}`,
        year,
        month,
        fiscalYear,
        period,
        days,
        index: (year - 2024) * 12 + month - 4,
      });
    }
  }
  return months;
}

export const periodKey = (fiscalYear: number, period: number): string => `FY${fiscalYear}-P${pad(period)}`;
export const dayOf = (month: Month, day: number): string => `${month.key}-${pad(Math.min(day, month.days))}`;

/** Who answers for a department, and for what stands below it unless somebody else does. All of them are invented. */
export const MANAGERS: readonly (readonly [department: string, name: string])[] = [
  ['production', 'A. Brandt'],
  ['kiln_hall_b', 'P. Novak'],
  ['sales', 'M. Okafor'],
  ['logistics', 'M. Okafor'],
  ['finance', 'J. Lindqvist'],
  ['people', 'J. Lindqvist'],
  ['design', 'S. Moretti'],
];

/** The working day of a month that is not behind a day of it, or the first that there is. */
export function workingDayOf(month: Month, day: number): number {
  const weekday = (at: number) => new Date(Date.UTC(month.year, month.month - 1, at)).getUTCDay();
  let at = Math.min(day, month.days);
  while (at > 1 && weekday(at) % 6 === 0) at--;
  while (weekday(at) % 6 === 0) at++;
  return at;
}

/** Sales by season: gifts before Christmas, building in spring and autumn. January first. */
export const SEASON: Record<ProductLine, readonly number[]> = {
  tableware: [0.84, 0.86, 0.95, 0.94, 0.98, 1.0, 0.92, 0.86, 1.08, 1.16, 1.28, 1.13],
  tiles: [0.78, 0.84, 1.02, 1.1, 1.14, 1.12, 1.06, 0.98, 1.1, 1.08, 0.96, 0.82],
  studio: [0.9, 0.92, 0.98, 1.0, 1.02, 1.04, 0.96, 0.88, 1.04, 1.1, 1.16, 1.0],
  contract: [0.96, 0.97, 1.0, 1.0, 1.03, 1.04, 1.0, 0.94, 1.02, 1.04, 1.02, 0.98],
};

/** Growth since April 2024: tiles gain, tableware slows. */
export function trend(line: ProductLine, index: number): number {
  const yearly = { tableware: 0.018, tiles: 0.085, studio: 0.035, contract: 0.03 }[line];
  const slowdown = line === 'tableware' && index >= 24 ? 0.987 : 1;
  return (1 + yearly) ** (index / 12) * slowdown;
}

/** Price of kiln gas against April 2024: a rise in January 2026, another in August 2026. */
export const gasTariff = (index: number): number => (index >= 28 ? 1.42 : index >= 21 ? 1.17 : 1 + 0.002 * index);

/** Where values hang, and from which period on where they hung elsewhere before. */
export const DIMENSIONS: Record<string, readonly [value: string, name: string, parent: string, from?: string][]> = {
  product_line: [
    ['tableware', 'Tableware', ''],
    ['tiles', 'Tiles', ''],
    ['studio', 'Studio pieces', ''],
    ['contract', 'Contract pieces', ''],
    ['hotel', 'Hotel tableware', 'tableware'],
    ['gift', 'Gift sets', 'tableware'],
    ['gift', 'Gift sets', 'studio', 'FY2027-P01'],
    ['facade', 'Facade tiles', 'tiles'],
  ],
  channel: [
    ['retail', 'Retail', ''],
    ['wholesale', 'Wholesale', ''],
    ['online', 'Online', ''],
    ['projects', 'Projects', ''],
    ['own_shops', 'Own shops', 'retail'],
  ],
  department: [
    ['production', 'Production', ''],
    ['kiln_hall_a', 'Kiln hall A', 'production'],
    ['kiln_hall_b', 'Kiln hall B', 'production'],
    ['sales', 'Sales', ''],
    ['logistics', 'Logistics', ''],
    ['finance', 'Finance', ''],
    ['people', 'People', ''],
    ['design', 'Design', ''],
  ],
  region: [
    ['iberia', 'Iberia', ''],
    ['central', 'Central Europe', ''],
    ['british_isles', 'British Isles', ''],
    ['asia', 'Asia', ''],
    ['north_america', 'North America', ''],
    ['rest', 'Rest of the world', ''],
  ],
  project: [
    ['kiln_4', 'Kiln 4 rebuild', ''],
    ['harbour', 'Harbour hotel series', ''],
    ['metro', 'Metro station tiles', ''],
    ['webshop', 'New web shop', ''],
  ],
  cost_type: [
    ['direct', 'Direct', ''],
    ['indirect', 'Indirect', ''],
    ['one_off', 'One-off', ''],
  ],
};
