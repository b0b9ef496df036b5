import type { StatementView, TraceView } from '@margin-lens/contract';
import type { Breakdown } from '@margin-lens/core';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles, type PackageFiles } from '../../../test/tiny-package';

// Cases made by hand after the practice of sub-ledgers: part payment, credit note, payment after the as-at date, cash that is
// not allocated, a payment before its invoice, instalments, and foreign currency at the closing rate (IAS 21.23 (a))

const { ask, serve } = servedPackage();

/** What stands on receivables, each against sales, but for what is paid. Amounts: debit positive. */
const LINES: readonly [date: string, amount: string, partner: string, rest: string][] = [
  // currency,currency_amount,document,document_type,due,settles
  ['2026-03-01', '1000', 'A', ',,INV1,invoice,2026-03-31,'],
  ['2026-04-15', '-400', 'A', ',,PAY1,payment,,INV1'],
  ['2026-05-10', '500', 'A', ',,INV2,invoice,2026-06-09,'],
  ['2026-07-05', '-500', 'A', ',,PAY2,payment,,INV2'],
  ['2026-04-20', '800', 'A', ',,INV3,invoice,2026-05-20,'],
  ['2026-05-02', '-200', 'A', ',,CRN1,credit_note,,INV3'],
  ['2026-06-15', '-150', 'A', ',,CRN2,credit_note,2026-07-15,'],
  ['2026-06-20', '-300', 'B', ',,PAY3,payment,,'],
  ['2026-06-22', '-10', 'B', ',,PAY4,payment,,INV0'],
  ['2026-05-31', '2000', 'B', ',,INV4,invoice,2026-06-30,'],
  ['2026-04-01', '1000', 'B', 'USD,1100,INV5,invoice,2026-04-30,'],
  ['2026-05-15', '-490', 'B', 'USD,-550,PAY5,payment,,INV5'],
  ['2026-06-25', '-120', 'B', ',,PAY6,payment,,INV6'],
  ['2026-07-10', '120', 'B', ',,INV6,invoice,2026-08-09,'],
  ['2026-06-01', '300', 'A', ',,INV7,invoice,2026-06-15,'],
  ['2026-06-01', '300', 'A', ',,INV7,invoice,2026-07-15,'],
  ['2026-06-01', '300', 'A', ',,INV7,invoice,2026-08-15,'],
  ['2026-06-20', '-400', 'A', ',,PAY7,payment,,INV7'],
  ['2026-06-30', '5', '', ',,,,,'],
  ['2026-06-28', '70', 'B', ',,,,2026-06-27,'],
];

function files(): PackageFiles {
  const head =
    'entity,journal,line,date,account,debit,credit,partner,currency,currency_amount,document,document_type,due,settles';
  const sides = (amount: string) => (amount.startsWith('-') ? `,${amount.slice(1)}` : `${amount},`);
  const opposite = (amount: string) => (amount.startsWith('-') ? amount.slice(1) : `-${amount}`);
  const journals = LINES.flatMap(([date, amount, partner, rest], at) => [
    `ONE,J${at},1,${date},1100,${sides(amount)},${partner},${rest}`,
    `ONE,J${at},2,${date},${amount.startsWith('-') ? '1000' : '4000'},${sides(opposite(amount))},,,,,,,`,
  ]);
  return tinyFiles({
    'entities.csv': 'code,name,currency,calendar\nONE,One,EUR,cal\n',
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,USD,cal,ONE,\n',
    'ownership.csv': 'investor,investee,from,percent,method\n',
    'partners.csv': 'code,name,kind,entity,group\nA,Alder,customer,,\nB,Birch,customer,,\n',
    'accounts.csv': [
      'number,name,nature,category,subcategory,role',
      '1000,Cash,asset,Current,Cash,cash',
      '1100,Receivables,asset,Current,Receivables,',
      '3000,Retained earnings,equity,Equity,Reserves,retained_earnings',
      '4000,Sales,income,Sales,Goods,',
      '',
    ].join('\n'),
    // one dollar is so many euros at the end of the month
    'rates.csv': [
      'set,base,quote,period,date,type,rate',
      ...['0.92', '0.90', '0.95', '0.94'].map((rate, at) => `,USD,EUR,FY2026-P0${at + 4},,closing,${rate}`),
      ...[1, 2, 3, 4, 5, 6, 7].map((month) => `,USD,EUR,FY2026-P0${month},,average,0.9`),
      ...[1, 2, 3].map((month) => `,USD,EUR,FY2026-P0${month},,closing,0.9`),
      '',
    ].join('\n'),
    'versions.csv': 'code,name,kind,from_period,to_period\n',
    'figures.csv': 'version,entity,account,period,amount,quantity\n',
    'dimensions.csv': 'dimension,value,name,parent\n',
    'journals.csv': `${[head, ...journals].join('\n')}\n`,
    'layouts/owed.json': JSON.stringify({
      ...{ schema: 1, kind: 'row_layout', id: 'owed', name: 'Owed', purpose: 'free' },
      rows: [
        {
          ...{ kind: 'accounts', id: 'owed', label: 'Receivables', orientation: 'debit' },
          accounts: { include: [{ by: 'account', number: '1100' }] },
        },
      ],
    }),
    'layouts/end.json': JSON.stringify({
      ...{ schema: 1, kind: 'column_layout', id: 'end', name: 'At the end' },
      columns: [
        { kind: 'figure', id: 'end', span: 'period', measure: 'closing' },
        { kind: 'figure', id: 'before', span: 'period', measure: 'closing', monthsBack: 1 },
      ],
    }),
    'breakdowns/age.json': JSON.stringify({
      ...{ schema: 1, kind: 'breakdown', id: 'age', name: 'Age', rows: 'owed', columns: 'end', unit: 1 },
      breakdown: { of: ['owed'], down: [{ by: 'age' }], across: [{ by: 'partner' }] },
    }),
  });
}

const AGE: Breakdown = { of: ['owed'], down: [{ by: 'age' }], across: [{ by: 'partner' }] };

async function aged(asAt: string, change: Partial<Breakdown> = {}, scope = 'ONE'): Promise<StatementView> {
  const breakdown = JSON.stringify({ ...AGE, ...change });
  const query = new URLSearchParams({ scope, as_at: asAt, breakdown });
  const { status, body } = await ask<StatementView>('GET', `/statements/age?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

/** Amounts of a column by label, in minor units; zeros left out. */
function column({ rows, columns }: StatementView, id: string): Record<string, number> {
  const at = columns.findIndex((each) => each.id === id);
  const held = rows.map(({ label, cells }) => [label, cells[at]?.amount ?? 0] as const);
  return Object.fromEntries(held.filter(([, amount]) => amount !== 0));
}

describe('open items by age', () => {
  it('are settled as known at the day they are aged at', async () => {
    await serve(files());
    const june = await aged('2026-06');
    expect(column(june, 'end.partner:A')).toEqual({
      'Not yet due': 500_00 - 150_00, // what is left of INV7, and the credit note
      '1 to 30 days': 500_00, // INV2, paid in July
      '31 to 60 days': 600_00, // INV3 less its credit note
      'Over 90 days': 600_00, // INV1 less a part payment; 91 days
      Receivables: 2050_00,
    });
    expect(column(june, 'end.partner:B')).toEqual({
      'Not yet due': 2000_00, // due on the very day
      '1 to 30 days': 70_00, // without a document, due on the 27th
      '61 to 90 days': 522_50, // 550 dollars at 0.95
      Unallocated: -430_00, // 300, 10 against a document that there is not, and 120 before its invoice
      'Not in open items': -12_50, // 522.50 less the 510.00 that was booked
      Receivables: 2150_00,
    });
    expect(column(june, 'end')).toMatchObject({ 'Not in open items': -7_50, Receivables: 4205_00 });
    expect(june.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    // a column of May is aged at the end of May, by what was known then
    expect(column(june, 'before')).toEqual({
      'Not yet due': 500_00 + 2000_00, // INV2 and INV4
      '1 to 30 days': 600_00,
      '31 to 60 days': 495_00, // 31 days; 550 dollars at 0.90
      '61 to 90 days': 600_00, // 61 days
      'Not in open items': 15_00,
      Receivables: 4210_00,
    });
    const july = await aged('2026-07');
    expect(column(july, 'end.partner:B')).toMatchObject({ Unallocated: -310_00, '31 to 60 days': 2070_00 });
    expect(column(july, 'end.partner:A')).toEqual({
      'Not yet due': 300_00,
      '1 to 30 days': 200_00 - 150_00,
      '61 to 90 days': 600_00,
      'Over 90 days': 600_00,
      Receivables: 1550_00,
    });
  });

  it('are aged as at a day within the month', async () => {
    await serve(files());
    const where: Breakdown['where'] = [{ dimension: 'posting_day', has: 'between', values: ['', '2026-06-19'] }];
    const view = await aged('2026-06', { where });
    expect(column(view, 'end.partner:A')).toEqual({
      'Not yet due': 300_00 + 300_00 - 150_00, // the second and third part of INV7, and CRN2
      '1 to 30 days': 500_00 + 300_00 + 600_00, // INV2 (10), the first part of INV7 (4), INV3 (30)
      '61 to 90 days': 600_00, // 80
      Receivables: 2450_00,
    });
    // what came on the 20th and behind it is not there
    expect(column(view, 'end.partner:B')).not.toHaveProperty('Unallocated');
    expect(column(view, 'before')).toEqual(column(await aged('2026-06'), 'before'));
  });

  it('are told apart by the days that one says, from the day of the document where that is asked', async () => {
    await serve(files());
    const view = await aged('2026-06', { ages: [10, 50], agedBy: 'document' });
    expect(column(view, 'end.partner:A')).toEqual({
      '11 to 50 days': 500_00 - 150_00, // INV7 (29 days), CRN2 (15)
      'Over 50 days': 600_00 + 500_00 + 600_00, // INV3 (71), INV2 (51), INV1
      Receivables: 2050_00 - 0,
    });
  });

  it('add up in another currency, too', async () => {
    await serve(files());
    const view = await aged('2026-06', {}, 'ALL');
    expect(view.scope.currency).toBe('USD');
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    // 522.50 euros at 0.95 are the 550 dollars of the invoice
    expect(column(view, 'end.partner:B')).toMatchObject({ '61 to 90 days': 550_00 });
  });

  it('are traced to their lines, in parts where a line belongs to several, and to what closing rates do', async () => {
    await serve(files());
    const ends = async (row: string, at: string): Promise<{ text: string; amount: number }[]> => {
      const query = (address: string) =>
        new URLSearchParams({ scope: 'ONE', as_at: '2026-06', breakdown: JSON.stringify(AGE), address });
      const down = async (address: string): Promise<{ text: string; amount: number }[]> => {
        const { body } = await ask<TraceView>('GET', `/statements/age/trace?${query(address)}`);
        if (body.postings)
          return body.postings.lines.map(({ description, document, amount }) => ({
            text: document || description,
            amount,
          }));
        return (await Promise.all(body.terms.map((term) => (term.address ? down(term.address) : [])))).flat();
      };
      return (await down(`cell~${row}~${at}`)).filter(({ amount }) => amount !== 0);
    };
    expect(await ends('owed.age:not_due', 'end.partner:A')).toEqual([
      { text: 'INV7', amount: 300_00 },
      { text: 'INV7', amount: 300_00 },
      { text: 'CRN2', amount: -150_00 },
      { text: 'PAY7', amount: -100_00 },
    ]);
    const inDollars = await ends('owed.age:61-90', 'end.partner:B');
    expect(inDollars.reduce((sum, { amount }) => sum + amount, 0)).toBe(522_50);
    expect(inDollars.filter(({ text }) => text.includes('closing rate')).map(({ amount }) => amount)).toEqual([
      12_00, -27_00, 27_50,
    ]);
  });
});
