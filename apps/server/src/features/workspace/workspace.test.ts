import Database from 'better-sqlite3';
import type { DocumentView, KeptView, StatementView } from '@margin-lens/contract';
import { askingVersions, cell } from '../../../test/asking-versions';
import { onStore } from '../../../test/opened-store';
import { servedApp } from '../../../test/served-app';
import { bringInto, tinyFiles } from '../../../test/tiny-package';

const { served, ask } = servedApp();
const { save } = askingVersions(ask);

/** Sales of February so far, of actual or of a version. */
async function sales(version = 'actual'): Promise<number | null> {
  const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-02', columns: 'month_and_year_to_date', version });
  const { rows, columns } = (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body;
  return rows[0]!.cells[columns.findIndex(({ id }) => id === 'ytd')]!.amount;
}

/** Changes balances behind the application's back, which shows whether it has read them anew. */
function double(version: number): void {
  const db = new Database(served.databaseFile);
  db.prepare('update balance set debit = debit * 2, credit = credit * 2 where version = ?').run(version);
  db.close();
}

const REMARK = { scope: 'ONE', period: 'FY2026-P02', statement: 'income_statement', text: 'Looks right' };
const MORE = { row: '', column: '', columns: '', quotes: [], state: 'open', carries: '' };
const ADJUSTMENT = {
  entity: 'ONE',
  date: '2026-02-28',
  reason: 'Rounding',
  reverses: false,
  lines: [
    { account: '5000', description: '', debit: '1.00', credit: '' },
    { account: '1000', description: '', debit: '', credit: '1.00' },
  ],
};

describe('what is kept of the books', () => {
  it('stays when a remark, a mark or a layout is written, or a figure of a plan', async () => {
    expect(await sales()).toBe(100_000);
    double(0);
    const layout = '/documents/column_layout/month_and_year_to_date';
    const { document, base } = (await ask<DocumentView>('GET', layout)).body;
    const kept = await ask<KeptView>('POST', `${layout}/keep`, { document: { ...document, note: 'Kept' }, base });
    expect(kept.body.state).toBe('kept');
    expect((await ask('POST', '/remarks', { ...REMARK, ...MORE })).status).toBe(200);
    expect((await ask('POST', '/books-check/seen', { scope: 'ONE', key: 'x', reason: 'known' })).status).toBe(204);
    expect((await save('PLAN', [cell('5000', 3, 0, 700)])).body.state).toBe('saved');
    expect(await sales()).toBe(100_000);
    // a posting moves the ledger: the month is held against its balances, which are others, and all is read anew
    const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    expect((await ask('POST', '/adjustments', ADJUSTMENT)).status).toBe(200);
    expect(await sales()).toBe(200_000);
    expect(said.mock.calls).toEqual([[expect.stringContaining('does not agree'), expect.anything()]]);
    said.mockRestore();
  });

  it('of a plan is read anew when a figure is typed', async () => {
    const before = await sales('PLAN');
    expect((await save('PLAN', [cell('4000', 2, 0, -5_000)])).body.state).toBe('saved');
    expect(await sales('PLAN')).toBe(before! + 5_000);
  });
});

describe('answers while another connection writes', () => {
  /** The same books told in two ways: names, amounts and the plan all say which. */
  const told = (word: string, amount: string) =>
    tinyFiles({
      'accounts.csv': String(tinyFiles()['accounts.csv']).replace('Rent,', `Rent ${word},`),
      'journals.csv': String(tinyFiles()['journals.csv']).replaceAll('300.00', amount),
      'figures.csv': `version,entity,account,period,amount,quantity\nPLAN,ONE,5000,FY2026-P02,${amount},\n`,
    });
  const STATES = [told('here', '310.00'), told('there', '320.00')];
  const url = '/statements/income_statement?scope=ONE&as_at=2026-02&columns=against_plan&open=rent:accounts';
  // over the network, so that deliveries and answers get their turns as they do in the server
  const answer = async () => {
    const reply = await fetch(`${address}/api/v1${url}`);
    const { revision: _, evaluatedInMs: __, ...view } = (await reply.json()) as StatementView;
    return JSON.stringify(view);
  };
  let address: string;
  beforeEach(async () => {
    address = await served.app.listen({ port: 0, host: '127.0.0.1' });
  });

  it('are each that of one moment, never a mixture', async () => {
    await onStore(served.databaseFile, async (writer) => {
      const deliver = (at: number) => bringInto(writer, STATES[at]!, { replacesChanged: true });
      const whole: string[] = [];
      for (const at of [0, 1]) {
        expect((await deliver(at)).state).toBe('done');
        whole.push(await answer());
      }
      expect(whole[0]).not.toBe(whole[1]);
      let isWriting = true;
      const writing = (async () => {
        for (let n = 0; n < 4; n++) await deliver(n % 2);
      })().finally(() => (isWriting = false));
      const answers: string[] = [];
      while (isWriting) answers.push(...(await Promise.all([answer(), answer(), answer()])));
      await writing;
      expect(answers.filter((each) => !whole.includes(each))).toEqual([]);
      expect(new Set(answers).size).toBe(2);
    });
  });
});

describe('a write while a delivery is being written', () => {
  it('is refused after a while in plain words, other requests are answered meanwhile, and nothing is lost', async () => {
    const delivery = new Database(served.databaseFile);
    delivery.exec('begin immediate');
    let [isRefused, answered] = [false, 0];
    const writing = ask<{ code: string; hint: string }>('POST', '/remarks', { ...REMARK, ...MORE });
    void writing.finally(() => (isRefused = true));
    for (; !isRefused; answered++) expect(await sales()).toBe(100_000);
    // one that waits within the database holds up all others until it gives up
    expect(answered).toBeGreaterThan(3);
    const { status, body } = await writing;
    expect([status, body.code]).toEqual([503, 'SRV_DATABASE_BUSY']);
    expect(body.hint).toContain('Nothing was changed');
    delivery.exec('rollback');
    delivery.close();
    expect((await ask('POST', '/remarks', { ...REMARK, ...MORE })).status).toBe(200);
  });
});
