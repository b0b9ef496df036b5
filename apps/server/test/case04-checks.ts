import type { StatementView, TrialBalanceView } from '@margin-lens/contract';
import { STANDARD_COLUMNS, type RowLayout } from '@margin-lens/core';
import type { asking } from './asking';
import { caseTable, chartOf, minorOf } from './case04-package';

type Ask = ReturnType<typeof asking>;

/** The trial balance of the group at a month's end, by account. Units: minor units, debit positive. */
export async function closings(ask: Ask, asAt: string): Promise<Map<string, number>> {
  const url = `/ledger/trial-balance?scope=CON&as_at=${asAt}&view=year_to_date`;
  const { lines } = (await ask<TrialBalanceView>('GET', url)).body;
  return new Map(lines.flatMap(({ kind, id, amounts }) => (kind === 'account' ? [[id, amounts.at(-1)!]] : [])));
}

/** Rules of the case by the kinds of eliminations that stand for them. */
const KINDS: Record<string, string> = {
  investment: 'investment',
  'fair value': 'fair_value',
  'unrealised profit': 'stock_profit',
  nci: 'others',
  'intercompany sales': 'income_expense',
  'intercompany balances': 'balances',
  dividend: 'dividend',
  impairment: 'impairment',
  step: 'step',
};

/** Figures of accounts in the columns of a layout, one row an account. Amounts by column and account, debit positive. */
export async function figuresOf(
  ask: Ask,
  accounts: readonly string[],
  columnLayout: unknown,
  asAt: string,
): Promise<ReadonlyMap<string, ReadonlyMap<string, number>>> {
  const payload = {
    document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
    rowLayout: {
      ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
      rows: accounts.map((account) => ({
        ...{ kind: 'accounts', id: `a${account}`, label: account, orientation: 'debit' },
        accounts: { include: [{ by: 'account', number: account }] },
      })),
    },
    columnLayout,
    context: { scope: 'CON', as_at: asAt },
  };
  const reply = await ask<StatementView>('POST', '/statements/preview', payload);
  expect(reply.status).toBe(200);
  const { columns, rows } = reply.body;
  return new Map(
    columns.map(({ id }, at) => [
      id,
      new Map(rows.map((row) => [row.id.slice(1), Math.round(row.cells[at]!.amount ?? 0) + 0])),
    ]),
  );
}

const WORKSHEET = STANDARD_COLUMNS.find(({ id }) => id === 'group_worksheet');

/**
 * The cash flow that is proposed for the chart meets the cash of the group, whatever comes, goes and is turned.
 * @source IAS 7.28, 7.39 and 7.45
 */
export async function expectCashFlow(ask: Ask, asAt: string): Promise<void> {
  const { body: rowLayout } = await ask<RowLayout>('GET', '/documents/proposal?purpose=cash_flow');
  const reply = await ask<StatementView>('POST', '/statements/preview', {
    ...{ document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 }, rowLayout },
    columnLayout: {
      ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
      columns: [{ kind: 'figure', id: 'year', span: 'year_to_date', measure: 'by_nature' }],
    },
    context: { scope: 'CON', as_at: asAt },
  });
  const amountOf = (label: string) => reply.body.rows.find((row) => row.label === label)!.cells[0]!.amount!;
  expect(amountOf('Change in cash')).toBe(amountOf('Cash at the end') - amountOf('Cash at the beginning'));
}

/** All that is expected of a case: the trial balance and the worksheet, each of its columns in balance, and a cash flow that ties. */
export async function expectCase(ask: Ask, folder: string, asAt: string): Promise<void> {
  await expectCashFlow(ask, asAt);
  const found = await closings(ask, asAt);
  const sheet = await figuresOf(ask, [...chartOf(folder).keys()], WORKSHEET, asAt);
  const column = (id: string) => sheet.get(id)!;
  const [group, sum, eliminated] = ['group', 'sum', 'eliminations.total'].map(column);
  const isCutOtherwise = /^[dh]/.test(folder);
  for (const row of caseTable(folder, 'consolidated_trial_balance.csv')) {
    const account = row['account']!;
    const expected = (name: string) => [account, name, minorOf(row[name])];
    const shown = (name: string, amount: number | undefined) => [account, name, amount ?? 0];
    expect(shown('consolidated_debit_positive', found.get(account))).toEqual(expected('consolidated_debit_positive'));
    expect(shown('consolidated_debit_positive', group!.get(account))).toEqual(expected('consolidated_debit_positive'));
    if (isCutOtherwise) continue;
    expect(shown('sum_of_entities', sum!.get(account))).toEqual(expected('sum_of_entities'));
    expect(shown('eliminations', eliminated!.get(account))).toEqual(expected('eliminations'));
  }
  for (const [id, amounts] of sheet) {
    const total = [...amounts.values()].reduce((all, amount) => all + amount, 0);
    expect([id, total]).toEqual([id, 0]);
  }
  for (const [account, amount] of group!) expect(amount).toBe(sum!.get(account)! + eliminated!.get(account)!);
  if (!isCutOtherwise) expectRules(folder, sheet);
}

/** What each rule of the case does to each account. */
function expectRules(folder: string, sheet: ReadonlyMap<string, ReadonlyMap<string, number>>): void {
  const rules = new Map<string, Map<string, number>>();
  for (const { rule, account, debit, credit } of caseTable(folder, 'elimination_journals.csv')) {
    const amounts = rules.get(rule!) ?? new Map<string, number>();
    rules.set(rule!, amounts.set(account!, (amounts.get(account!) ?? 0) + minorOf(debit) - minorOf(credit)));
  }
  for (const [rule, amounts] of rules) {
    // of associates and joint operations several rules are one kind
    if (/^[bc]/.test(folder) && rule !== 'intercompany balances' && rule !== 'intercompany sales') continue;
    const told = sheet.get(`eliminations.eliminations_${KINDS[rule]}`)!;
    for (const [account, amount] of amounts)
      expect([rule, account, told.get(account)]).toEqual([rule, account, amount]);
  }
}
