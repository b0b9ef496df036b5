import type { StatementView, WhyView } from '@margin-lens/contract';
import { workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

const COLUMNS = {
  schema: 1,
  kind: 'column_layout',
  id: 'month_on_month',
  name: 'Month on month',
  columns: [
    { kind: 'figure', id: 'before', span: 'period', measure: 'by_nature', monthsBack: 1 },
    { kind: 'figure', id: 'now', span: 'period', measure: 'by_nature' },
    { kind: 'difference', id: 'change', of: 'now', base: 'before' },
  ],
};

describe('the sides that Why names', () => {
  it('are told apart as the heads of their columns do where both show the same version', async () => {
    const app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' });
    const made = await app.inject({ method: 'POST', url: '/api/v1/documents', payload: { document: COLUMNS } });
    expect(made.statusCode).toBe(200);
    const context = 'scope=ONE&as_at=2026-02&columns=month_on_month';
    const get = async <T>(url: string) => (await app.inject(`/api/v1${url}`)).json<T>();
    const [sales] = (await get<StatementView>(`/statements/income_statement?${context}`)).rows;
    const why = await get<WhyView>(`/statements/income_statement/why?${context}&cell=${sales!.id}~change&by=accounts`);
    expect(why.of).toBe('Actual');
    expect(why.base).toContain('Jan');
    await app.close();
  });
});
