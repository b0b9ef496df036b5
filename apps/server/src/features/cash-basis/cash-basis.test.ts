import type { CashBasisView, StatementView, TraceView } from '@margin-lens/contract';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles, type PackageFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

const LAYOUTS: PackageFiles = {
  'layouts/income.json': JSON.stringify({
    ...{ schema: 1, kind: 'row_layout', id: 'income', name: 'Income', purpose: 'free' },
    rows: ['1000', '1200', '2200', '4000', '5000'].map((number) => ({
      ...{ kind: 'accounts', id: `a${number}`, label: number, orientation: number < '2000' ? 'debit' : 'credit' },
      accounts: { include: [{ by: 'account', number }] },
    })),
  }),
  'layouts/month.json': JSON.stringify({
    ...{ schema: 1, kind: 'column_layout', id: 'month', name: 'Month' },
    columns: [
      { kind: 'figure', id: 'month', span: 'period', measure: 'movement' },
      { kind: 'figure', id: 'accrual', span: 'period', measure: 'movement', basis: 'reported' },
      { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'movement' },
      { kind: 'figure', id: 'plan', span: 'period', measure: 'movement', version: 'PLAN' },
    ],
  }),
  'statements/moved.json': JSON.stringify({
    ...{ schema: 1, kind: 'statement', id: 'moved', name: 'Moved', rows: 'income', columns: 'month', unit: 1 },
  }),
};

const HEAD = 'entity,journal,kind,line,date,account,debit,credit,basis,partner,document,document_type,due,settles';

/** Journals of an entity, by number: day, then lines of account, amount and what else a line carries. */
const journalsOf = (journals: readonly (readonly [string, string, ...string[][]])[]): string => {
  const rows = journals.flatMap(([number, day, ...lines], at) =>
    lines
      .map(([account, amount, basis = '', partner = '', document = '', due = '', settles = ''], line) =>
        [
          ...['ONE', number, number.startsWith('O') ? 'opening' : '', line + 1, day, account],
          ...(Number(amount) > 0 ? [amount, ''] : ['', String(-Number(amount))]),
          ...[basis, partner, document, '', due, settles],
        ].join(','),
      )
      .concat(at < 0 ? [''] : []),
  );
  return [HEAD, ...rows, ''].join('\n');
};

const ACCOUNTS = [
  'number,name,nature,category,subcategory,role',
  '1000,Cash,asset,Current,Cash,cash',
  '1200,Trade receivables,asset,Current,Receivables,',
  '2200,VAT payable,liability,Current,Tax,',
  '3000,Retained earnings,equity,Equity,Reserves,retained_earnings',
  '4000,Sales,income,Sales,Goods,',
  '5000,Rent,expense,Costs,=Rent,',
  '',
].join('\n');

// IAS 7.18–19 and illustrative example A, direct method (from memory): 30,150 were received from customers of sales of 30,650,
// when these owed 1,300 before and 1,800 after
const IAS_7 = tinyFiles({
  ...LAYOUTS,
  'accounts.csv': ACCOUNTS,
  'partners.csv': 'code,name,kind\nC1,Customer,customer\n',
  'journals.csv': journalsOf([
    ['J1', '2026-01-15', ['1200', '1300', '', 'C1', 'S1', '2026-02-28'], ['4000', '-1300']],
    ['J2', '2026-02-10', ['1200', '28850', '', 'C1', 'S2', '2026-03-31'], ['4000', '-28850']],
    ['J3', '2026-02-20', ['1200', '1800', '', 'C1', 'S3', '2026-04-30'], ['4000', '-1800']],
    [
      'J4',
      '2026-02-25',
      ['1000', '30150'],
      ['1200', '-1300', '', 'C1', '', '', 'S1'],
      ['1200', '-28850', '', 'C1', '', '', 'S2'],
    ],
  ]),
});

async function amounts(asAt: string, basis?: string, column = 'month', more = ''): Promise<Record<string, number>> {
  const query = `scope=ONE&as_at=${asAt}${basis ? `&basis=${basis}` : ''}${more}`;
  const { status, body } = await ask<StatementView>('GET', `/statements/moved?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  const at = body.columns.findIndex(({ id }) => id === column);
  return Object.fromEntries(body.rows.map(({ id, cells }) => [id, cells[at]!.amount ?? NaN]));
}

const proof = async (asAt: string) =>
  (await ask<CashBasisView>('GET', `/cash-basis?scope=ONE&as_at=${asAt}`)).body.entities[0]!;

describe('a statement on the cash basis', () => {
  it('has what customers paid as sales, and cash as it was posted', async () => {
    await serve(IAS_7);
    expect(await amounts('2026-02')).toMatchObject({ a4000: 30_650_00, a1200: 500_00, a1000: 30_150_00 });
    expect(await amounts('2026-02', 'cash')).toMatchObject({ a4000: 30_150_00, a1200: 0, a1000: 30_150_00 });
    // a column that says its basis keeps it
    expect(await amounts('2026-02', 'cash', 'accrual')).toMatchObject({ a4000: 30_650_00 });
    expect(await proof('2026-02')).toMatchObject({
      ...{ result: { accrual: 31_950_00, cash: 30_150_00 }, documents: [], others: [] },
      ...{ cash: 30_150_00, difference: 0 },
    });
  });

  it('goes down to the invoices that were paid, each by what was paid of it', async () => {
    await serve(
      tinyFiles({
        ...LAYOUTS,
        'accounts.csv': ACCOUNTS,
        'journals.csv': journalsOf([
          ['J1', '2026-01-15', ['1200', '119', '', '', 'S1', '2026-02-28'], ['4000', '-100'], ['2200', '-19']],
          ['J2', '2026-02-10', ['1000', '59.50'], ['1200', '-59.50', '', '', '', '', 'S1']],
        ]),
      }),
    );
    expect(await amounts('2026-02', 'cash')).toMatchObject({ a4000: 50_00, a2200: 9_50, a1200: 0 });
    const asked = `scope=ONE&as_at=2026-02&basis=cash`;
    const { body } = await ask<StatementView>('GET', `/statements/moved?${asked}`);
    let address = `cell~${body.rows.find(({ id }) => id === 'a4000')!.id}~month`;
    let trace: TraceView | undefined;
    for (let step = 0; step < 8 && !trace?.postings; step++) {
      const answer = await ask<TraceView>(
        'GET',
        `/statements/moved/trace?${asked}&address=${encodeURIComponent(address)}`,
      );
      if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
      trace = answer.body;
      address = trace.terms[0]?.address ?? address;
    }
    expect(trace!.postings!.lines.map(({ journal, date, amount }) => [journal, date, amount])).toEqual([
      ['J1', '2026-01-15', 50_00],
    ]);
    expect(trace!.postings!.total).toBe(50_00);
  });

  it('says what it could not derive, and why', async () => {
    await serve(
      tinyFiles({
        ...LAYOUTS,
        'accounts.csv': ACCOUNTS,
        'journals.csv': journalsOf([
          ['O1', '2026-01-01', ['1200', '400', '', '', 'OLD', '2026-01-31'], ['3000', '-400']],
          ['J1', '2026-01-15', ['1000', '400'], ['1200', '-400', '', '', '', '', 'OLD']],
          ['J2', '2026-02-10', ['1200', '100', '', '', 'S1', '2026-02-28'], ['4000', '-100']],
          ['J3', '2026-02-20', ['1000', '130'], ['1200', '-130', '', '', '', '', 'S1']],
          ['J4', '2026-02-25', ['5000', '12'], ['2200', '-12']],
        ]),
      }),
    );
    expect(await proof('2026-02')).toEqual({
      ...{ entity: 'ONE', name: 'One', currency: 'EUR', isHeld: false },
      result: { accrual: 88_00, cash: 88_00 },
      documents: [
        {
          ...{ account: '1200', name: 'Trade receivables', amount: -430_00 },
          reasons: [
            { reason: 'unknown', amount: -30_00 },
            { reason: 'before', amount: -400_00 },
          ],
        },
      ],
      others: [{ account: '2200', name: 'VAT payable', amount: -12_00 }],
      cash: 530_00,
      difference: 0,
    });
  });

  it('is what the books hold of it where they do, and leaves adjustments out', async () => {
    await serve(
      tinyFiles({
        ...LAYOUTS,
        'accounts.csv': ACCOUNTS,
        'journals.csv': journalsOf([
          ['J1', '2026-01-15', ['1200', '100', '', '', 'S1', '2026-02-28'], ['4000', '-100']],
          ['J2', '2026-01-20', ['1000', '100'], ['1200', '-100', '', '', '', '', 'S1']],
          ['J3', '2026-01-31', ['5000', '7', 'adjustment'], ['2200', '-7', 'adjustment']],
          ['J4', '2026-01-31', ['4000', '40', 'cash'], ['2200', '-40', 'cash']],
        ]),
      }),
    );
    expect(await amounts('2026-01')).toMatchObject({ a4000: 100_00, a5000: -7_00 });
    expect(await amounts('2026-01', 'books')).toMatchObject({ a4000: 100_00, a5000: 0 });
    expect(await amounts('2026-01', 'cash')).toMatchObject({ a4000: 60_00, a5000: 0, a2200: 40_00 });
    expect(await proof('2026-01')).toMatchObject({ isHeld: true, difference: 0 });
  });
});
