import { proposeClassification, type AccountToClassify } from './propose-classification';

/** Numbers and names of accounts, with the nature that the class of the number has by the chart's own rules. */
const parse = (text: string): [AccountToClassify, string][] =>
  text
    .trim()
    .split('\n')
    .map((line) => {
      const [number, name, nature] = line.split('|').map((part) => part.trim()) as [string, string, string];
      return [{ number, name, stand: 0 }, nature];
    });

/*
 * French general chart of accounts (plan comptable général, ANC regulation 2014-03, book IX): class 1 capital and loans,
 * 2 fixed assets, 3 stocks, 4 third parties, 5 financial accounts, 6 charges, 7 income. Written down from memory.
 */
const FRENCH = parse(`
101 | Capital | equity
106 | Réserves | equity
110 | Report à nouveau | equity
151 | Provisions pour risques | liability
164 | Emprunts auprès des établissements de crédit | liability
205 | Concessions, brevets, licences | asset
207 | Fonds commercial | asset
211 | Terrains | asset
213 | Constructions | asset
2813 | Amortissements des constructions | asset
261 | Titres de participation | asset
310 | Matières premières | asset
370 | Stocks de marchandises | asset
401 | Fournisseurs | liability
411 | Clients | asset
421 | Personnel, rémunérations dues | liability
431 | Sécurité sociale | liability
44566 | TVA déductible sur autres biens | asset
44571 | TVA collectée | liability
486 | Charges constatées d'avance | asset
487 | Produits constatés d'avance | liability
512 | Banques | asset
530 | Caisse | asset
601 | Achats de matières premières | expense
606 | Achats non stockés | expense
613 | Locations | expense
615 | Entretien et réparations | expense
616 | Primes d'assurances | expense
622 | Honoraires | expense
623 | Publicité | expense
641 | Rémunérations du personnel | expense
645 | Charges de sécurité sociale | expense
661 | Charges d'intérêts | expense
666 | Pertes de change | expense
681 | Dotations aux amortissements | expense
695 | Impôts sur les bénéfices | expense
701 | Ventes de produits finis | income
706 | Prestations de services | income
707 | Ventes de marchandises | income
761 | Produits de participations | income
766 | Gains de change | income
`);

const ENGLISH = parse(`
0010 | Freehold land | asset
0020 | Plant and machinery | asset
0021 | Accumulated depreciation, plant and machinery | asset
1001 | Stock of finished goods | asset
1100 | Trade debtors | asset
1104 | Allowance for doubtful debts | asset
1200 | Bank current account | asset
1230 | Petty cash | asset
2100 | Trade creditors | liability
2109 | Accruals | liability
2200 | VAT on sales | liability
2300 | Bank loan | liability
3000 | Ordinary shares | equity
3200 | Retained earnings | equity
4000 | Sales, home | income
4010 | Sales discounts | income
4900 | Other operating income | income
5000 | Purchases | expense
7000 | Gross wages | expense
7100 | Rent | expense
7200 | Electricity | expense
7502 | Telephone | expense
7600 | Legal fees | expense
7901 | Bank charges | expense
8000 | Depreciation of plant | expense
8500 | Corporation tax | expense
`); // common practice in British small-business charts, from memory

const naturesOf = (pairs: readonly [AccountToClassify, string][]) =>
  proposeClassification(pairs.map(([account]) => account)).map(({ number, nature }) => [number, nature]);

describe('proposeClassification', () => {
  it.each([
    ['a French chart', FRENCH],
    ['a British chart', ENGLISH],
  ])('finds the nature of every account of %s', (_name, chart) => {
    expect(naturesOf(chart)).toEqual(chart.map(([{ number }, nature]) => [number, nature]));
  });

  it('tells a depreciation charge from accumulated depreciation by where the number lies', () => {
    const [, , held, charge] = proposeClassification([
      { number: '1510', name: 'Machinery', stand: 100 },
      { number: '1520', name: 'Buildings', stand: 100 },
      { number: '1590', name: 'Depreciation, machinery', stand: -40 },
      { number: '6510', name: 'Depreciation, machinery', stand: 40 },
      { number: '6520', name: 'Wages', stand: 40 },
      { number: '6530', name: 'Insurance', stand: 40 },
    ]);
    expect([held!.nature, charge!.nature]).toEqual(['asset', 'expense']);
  });

  it('takes the nature of the class, and the heading of the number before, for a name that says nothing', () => {
    const proposals = proposeClassification([
      { number: '6100', name: 'Wages', stand: 10 },
      { number: '6110', name: 'Salaries', stand: 10 },
      { number: '6115', name: 'Zzz', stand: 10 },
    ]);
    expect(proposals[2]).toMatchObject({ nature: 'expense', subHeading: 'Personnel', confidence: 'likely' });
    expect(proposals[2]!.because).toBe('most numbers from 61 are expenses; next to 6110');
  });

  it('falls back on the side of the balance and says so', () => {
    const [proposal] = proposeClassification([{ number: 'A', name: 'Zzz', stand: -5 }]);
    expect(proposal).toMatchObject({ nature: 'liability', confidence: 'guess', because: 'it has a credit balance' });
  });

  it.each([
    // number, name, stand, what is proposed, how sure
    ['1210', 'Bank current account', 80, 'Cash and cash equivalents', 'likely'],
    ['1220', 'Bank current account', -80, 'Cash and cash equivalents', 'guess'],
    ['1230', 'Bank overdraft', 80, 'Cash and cash equivalents', 'guess'],
    ['1230', 'Bank overdraft', -80, 'Borrowings', 'likely'],
    ['7000', 'Interest', 30, 'Interest and charges', 'likely'],
    ['7000', 'Interest', -30, 'Interest income', 'guess'],
    ['2900', 'Other payables', -10, 'Other payables', 'likely'],
    ['2900', 'Other payables', 10, 'Other payables', 'guess'],
    ['1400', 'Other receivables', 10, 'Other receivables', 'likely'],
    ['0900', 'Accumulated depreciation', -10, 'Property, plant and equipment', 'likely'],
    ['4100', 'Sales returns', 10, 'Sales deductions', 'likely'],
    ['3900', 'Retained earnings', 500, 'Retained earnings', 'likely'],
    ['5900', 'Purchase discounts', -5, 'Materials', 'likely'],
  ] as const)('%s %s with %d is %s, %s', (number, name, stand, subHeading, confidence) => {
    const [proposal] = proposeClassification([{ number, name, stand }]);
    expect(proposal).toMatchObject({ subHeading, confidence });
    if (confidence === 'guess') expect(proposal!.because).toContain(stand < 0 ? 'credit balance' : 'debit balance');
  });

  it('leaves what is settled and gives the retained-earnings role once', () => {
    const settled = { nature: 'income', heading: 'Fees', subHeading: 'Legal fees', role: '' } as const;
    const proposals = proposeClassification([
      { number: '1', name: 'Legal', stand: 0, settled },
      { number: '2', name: 'Retained earnings', stand: 0 },
      { number: '3', name: 'Retained earnings, old', stand: 0 },
    ]);
    expect(proposals[0]).toMatchObject({ ...settled, confidence: 'settled' });
    expect(proposals.map(({ role }) => role)).toEqual(['', 'retained_earnings', '']);
  });
});
