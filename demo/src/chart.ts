/** The chart of accounts of Larkmoor Group, one for all entities. */
export interface ChartAccount {
  number: string;
  name: string;
  nature: 'asset' | 'liability' | 'equity' | 'income' | 'expense' | 'statistic';
  category: string;
  subcategory: string;
  role: string;
  translation: string;
  monetary: string;
  intercompany: string;
  /** Who it is held against, where it is one alone. */
  partner: string;
  behaviour: string;
  better: string;
  unit: string;
  decimals: string;
  /** Weight within its sub-heading when costs are spread; 0 takes no share. */
  weight: number;
}

type Extra = Partial<Omit<ChartAccount, 'number' | 'name' | 'nature' | 'category' | 'subcategory'>>;

const accounts: ChartAccount[] = [];

/** Adds accounts from a number on, a step apart; a name may carry its weight behind a bar. */
function block(
  first: number,
  step: number,
  nature: ChartAccount['nature'],
  category: string,
  subcategory: string,
  names: readonly string[],
  extra: Extra = {},
): void {
  names.forEach((text, index) => {
    const [name, weight] = text.split('|');
    accounts.push({
      number: String(first + index * step),
      name: name!,
      nature,
      category,
      subcategory,
      role: '',
      translation: '',
      monetary: '',
      intercompany: '',
      partner: '',
      behaviour: '',
      better: '',
      unit: '',
      decimals: '',
      weight: Number(weight ?? 1),
      ...extra,
    });
  });
}

const setRole = (number: string, extra: Extra) =>
  Object.assign(
    accounts.find((a) => a.number === number)!,
    extra,
  );

// balance sheet
block(1000, 10, 'asset', 'Non-current assets', 'Intangible assets', [
  'Development costs',
  'Software',
  'Trade marks',
  'Goodwill',
]);
block(1060, 10, 'asset', 'Non-current assets', 'Intangible assets', [
  'Amortisation, development',
  'Amortisation, software',
]);
block(1100, 10, 'asset', 'Non-current assets', 'Property, plant and equipment', [
  'Land',
  'Buildings',
  'Kilns',
  'Presses and moulds',
  'Vehicles',
  'Office equipment',
  'Right-of-use assets',
  'Assets under construction',
]);
block(1200, 10, 'asset', 'Non-current assets', 'Property, plant and equipment', [
  'Depreciation, buildings',
  'Depreciation, kilns',
  'Depreciation, presses and moulds',
  'Depreciation, vehicles',
  'Depreciation, office equipment',
  'Depreciation, right-of-use assets',
]);
block(1300, 10, 'asset', 'Non-current assets', 'Investments', [
  'Shares in subsidiaries',
  'Shares in associates',
  'Loans to group companies',
  'Deferred tax assets',
]);
setRole('1330', { role: 'deferred_tax_assets' });
block(1325, 5, 'asset', 'Non-current assets', 'Investments', ['Loan to Kilnhurst Glaze'], {
  ...{ monetary: 'yes', intercompany: 'yes', partner: 'KHG' },
});
block(1400, 10, 'asset', 'Current assets', 'Inventories', [
  'Raw materials',
  'Work in progress',
  'Finished tableware',
  'Finished tiles',
  'Merchandise',
  'Write-down of inventories',
]);
block(
  1500,
  10,
  'asset',
  'Current assets',
  'Receivables',
  ['Trade receivables', 'Loss allowance', 'Other receivables', 'Recoverable sales tax', 'Income tax receivable'],
  { monetary: 'yes' },
);
block(1560, 10, 'asset', 'Current assets', 'Receivables', ['Receivables from group companies'], {
  monetary: 'yes',
  intercompany: 'yes',
});
block(1565, 5, 'asset', 'Current assets', 'Receivables', ['Differences between group companies'], {
  role: 'intercompany_difference',
});
block(1570, 10, 'asset', 'Current assets', 'Prepayments', ['Prepaid insurance', 'Prepaid rent', 'Contract assets']);
block(1600, 10, 'asset', 'Current assets', 'Cash', ['Current account', 'Currency account', 'Deposits', 'Petty cash'], {
  monetary: 'yes',
  role: 'cash',
});
block(1690, 5, 'asset', 'Current assets', 'Suspense', ['Suspense'], { role: 'suspense' });
block(1695, 5, 'asset', 'Current assets', 'Suspense', ['Not mapped yet'], { role: 'unmapped' });
block(2000, 10, 'equity', 'Equity', 'Share capital', ['Share capital', 'Share premium'], { translation: 'historical' });
block(2020, 10, 'equity', 'Equity', 'Reserves', ['Legal reserve', 'Revaluation reserve'], {
  translation: 'historical',
});
block(2040, 10, 'equity', 'Equity', 'Retained earnings', ['Retained earnings', 'Dividends declared'], {
  translation: 'historical',
});
block(2060, 5, 'equity', 'Equity', 'Translation reserve', ['Translation reserve', 'Rounding of translation'], {
  translation: 'historical',
});
block(
  2070,
  10,
  'equity',
  'Equity',
  'Non-controlling interests',
  ['Non-controlling interests', 'Profit of non-controlling interests', 'Transactions with non-controlling interests'],
  { translation: 'historical' },
);
setRole('2040', { role: 'retained_earnings' });
setRole('2050', { role: 'dividends' });
setRole('2060', { role: 'translation_reserve' });
setRole('2065', { role: 'rounding' });
setRole('2070', { role: 'non_controlling_interests' });
setRole('2080', { role: 'profit_of_non_controlling_interests' });
setRole('2090', { role: 'transactions_with_non_controlling_interests' });
setRole('2000', { role: 'share_capital' });
setRole('1300', { role: 'investment_in_subsidiaries' });
setRole('1310', { role: 'investment_in_associates' });
setRole('1030', { role: 'goodwill' });
block(
  2200,
  10,
  'liability',
  'Non-current liabilities',
  'Borrowings',
  ['Bank loan, kilns', 'Bank loan, buildings', 'Lease liabilities', 'Loans from group companies'],
  { monetary: 'yes' },
);
setRole('2230', { intercompany: 'yes' });
block(2235, 5, 'liability', 'Non-current liabilities', 'Borrowings', ['Loan from Kilnhurst Hire'], {
  ...{ monetary: 'yes', intercompany: 'yes', partner: 'KHD' },
});
block(2260, 10, 'liability', 'Non-current liabilities', 'Provisions', [
  'Pension obligations',
  'Site restoration',
  'Deferred tax liabilities',
]);
setRole('2280', { role: 'deferred_tax_liabilities' });
block(
  2400,
  10,
  'liability',
  'Current liabilities',
  'Payables',
  ['Trade payables', 'Goods received not invoiced', 'Customer prepayments'],
  { monetary: 'yes' },
);
block(2450, 10, 'liability', 'Current liabilities', 'Payables', ['Payables to group companies'], {
  monetary: 'yes',
  intercompany: 'yes',
});
block(2500, 10, 'liability', 'Current liabilities', 'Accruals', [
  'Accrued energy',
  'Accrued wages',
  'Accrued holiday pay',
  'Accrued bonuses',
  'Accrued freight',
  'Accrued rebates',
  'Accrued interest',
  'Other accruals',
]);
block(
  2600,
  10,
  'liability',
  'Current liabilities',
  'Taxes and social security',
  ['Wage tax', 'Social security', 'Sales tax payable', 'Income tax payable', 'Dividends payable'],
  { monetary: 'yes' },
);
block(2660, 10, 'liability', 'Current liabilities', 'Provisions, current', ['Warranties', 'Returns']);

// net sales
block(4000, 10, 'income', 'Net sales', 'Tableware', [
  'Dinnerware|40',
  'Cups and mugs|24',
  'Serving pieces|16',
  'Gift sets|12',
  'Hotel tableware|18',
  'Discounts, tableware|0',
  'Rebates, tableware|0',
  'Returns, tableware|0',
]);
block(4200, 10, 'income', 'Net sales', 'Tiles', [
  'Floor tiles|36',
  'Wall tiles|28',
  'Facade tiles|14',
  'Mosaic|9',
  'Tiles to group companies|0',
  'Discounts, tiles|0',
  'Rebates, tiles|0',
  'Returns, tiles|0',
]);
setRole('4240', { intercompany: 'yes' });
block(4400, 10, 'income', 'Net sales', 'Studio and contract', [
  'Studio pieces|16',
  'Contract series|22',
  'Commissions|5',
  'Licence income|2',
  'Discounts, studio and contract|0',
]);

// cost of sales
block(5000, 10, 'expense', 'Cost of sales', 'Materials', [
  'Clay|30',
  'Kaolin|16',
  'Feldspar|9',
  'Quartz|6',
  'Glazes|18',
  'Pigments|7',
  'Gold and platinum|4',
  'Plaster moulds|5',
  'Kiln furniture|4',
  'Packaging|14',
  'Consumables|5',
  'Change in inventories|0',
]);
block(5400, 10, 'expense', 'Cost of sales', 'Purchased goods', [
  'Merchandise|10',
  'Glaze decals|3',
  'Goods from group companies|0',
]);
setRole('5420', { intercompany: 'yes' });
block(6000, 10, 'expense', 'Cost of sales', 'Labour', [
  'Wages, forming|26',
  'Wages, glazing|20',
  'Wages, kiln halls|18',
  'Wages, decoration|14',
  'Wages, packing|9',
  'Shift premiums|5',
  'Social security, production|18',
  'Agency workers|6',
  'Holiday pay, production|4',
  'Work clothing|1',
]);
block(6400, 10, 'expense', 'Cost of sales', 'Energy', [
  'Kiln gas|66',
  'Electricity|24',
  'Compressed air|5',
  'Water and effluent|4',
  'Heating|4',
  'Energy levies|3',
  'Gas network charges|7',
]);
block(6510, 10, 'expense', 'Cost of sales', 'Environmental levies', ['Carbon allowances|0']);
block(6600, 10, 'expense', 'Cost of sales', 'Other production costs', [
  'Kiln maintenance|7',
  'Press maintenance|4',
  'Tools|2',
  'Waste disposal|3',
  'Quality control|2',
  'Inward freight|5',
  'Plant insurance|2',
  'Site security|1',
]);
block(6800, 10, 'expense', 'Cost of sales', 'Depreciation', [
  'Depreciation, kilns|16',
  'Depreciation, presses and moulds|9',
  'Depreciation, buildings|6',
  'Depreciation, right-of-use assets|3',
  'Amortisation, development|2',
  'Write-down of goodwill|0',
]);
setRole('6850', { role: 'goodwill_impairment' });

// functions
const functions = [
  {
    first: 7000,
    name: 'Selling',
    own: ['Trade fairs|8', 'Advertising|14', 'Commissions to agents|10', 'Showrooms|5', 'Samples|3'],
  },
  {
    first: 7200,
    name: 'Distribution',
    own: [
      'Outward freight|34',
      'Warehouse rent|9',
      'Pallets and packing|6',
      'Customs and duties|4',
      'Transport insurance|2',
    ],
  },
  {
    first: 7400,
    name: 'Administration',
    own: ['Audit and legal|6', 'Bank charges|2', 'Subscriptions|1', 'Group services received|0', 'Bad debts|2'],
  },
  {
    first: 7600,
    name: 'Research and design',
    own: ['Test firings|8', 'Patents|2', 'Prototypes|6', 'Laboratory|4', 'Designers’ fees|5'],
  },
] as const;
for (const { first, name, own } of functions) {
  const place = name.toLowerCase();
  block(first, 10, 'expense', name, 'People', [
    `Salaries, ${place}|30`,
    `Social security, ${place}|7`,
    `Bonuses, ${place}|3`,
    `Pensions, ${place}|2`,
    `Travel, ${place}|4`,
    `Training, ${place}|1`,
  ]);
  block(first + 70, 10, 'expense', name, 'Specific costs', own);
  block(first + 130, 10, 'expense', name, 'Overheads', [
    `Rent, ${place}|4`,
    `Software and telephone, ${place}|3`,
    `Office costs, ${place}|1`,
    `Depreciation, ${place}|2`,
  ]);
}
setRole('7500', { intercompany: 'yes' });
block(7800, 10, 'income', 'Other operating income', 'Other operating income', [
  'Energy tax refunds|4',
  'Insurance refunds|1',
  'Group services rendered|0',
  'Sale of waste heat|2',
  'Bargain purchases|0',
  'Result of disposals|0',
  'Gains on sale of assets|0',
  'Remeasurement of shares held before|0',
]);
setRole('7820', { intercompany: 'yes' });
setRole('7840', { role: 'bargain_purchase_gain' });
setRole('7850', { role: 'disposal_gain' });
setRole('7870', { role: 'remeasurement_gain' });
block(8000, 10, 'expense', 'Finance costs', 'Finance costs', [
  'Interest on bank loans|10',
  'Interest on leases|3',
  'Interest to group companies|0',
  'Guarantee fees|1',
  'Exchange losses|2',
]);
block(8100, 10, 'income', 'Finance income', 'Finance income', [
  'Interest on deposits|2',
  'Exchange gains|2',
  'Dividends from group companies|0',
  'Dividends from associates|0',
  'Share of profit of associates|0',
  'Exchange differences of extensions|0',
]);
setRole('8120', { intercompany: 'yes', role: 'group_dividend_income' });
setRole('8130', { role: 'associate_dividend_income' });
setRole('8140', { role: 'share_of_associates_profit' });
setRole('8150', { role: 'exchange_gain' });
block(8200, 10, 'expense', 'Income tax', 'Income tax', ['Current tax|1', 'Deferred tax|0']);
setRole('8210', { role: 'deferred_tax_expense' });

// statistics
block(9000, 10, 'statistic', 'Statistics', 'People', ['Headcount'], {
  behaviour: 'level',
  better: 'neutral',
  unit: 'people',
  decimals: '0',
});
block(9100, 10, 'statistic', 'Statistics', 'Pieces', ['Pieces fired', 'Pieces sold'], {
  behaviour: 'flow',
  better: 'up',
  unit: 'pieces',
  decimals: '0',
});
block(9200, 10, 'statistic', 'Statistics', 'Kilns', ['Kiln hours'], {
  behaviour: 'flow',
  better: 'neutral',
  unit: 'hours',
  decimals: '1',
});

export const CHART: readonly ChartAccount[] = accounts;

/** Accounts of a heading and sub-heading that take a share of what is spread over it. */
export const spreadAccounts = (category: string, subcategory: string): readonly ChartAccount[] =>
  accounts.filter((a) => a.category === category && a.subcategory === subcategory && a.weight > 0);
