import type { FastifyInstance } from 'fastify';
import type { FiguresView, MakingsView, RowsReadView, StatementView, WorkspaceView } from '@margin-lens/contract';
import {
  buildCalendar,
  linesOf,
  openingsOf,
  sheetColumns,
  SheetEvaluator,
  rowsOfSheet,
  type SheetSource,
} from '@margin-lens/core';
import { demoWorkspace } from '../../../test/demo-workspace';
import { buildApp } from '../../app';

let app: FastifyInstance;
// before any test, whose time it would take
const DEMO = demoWorkspace();

beforeAll(async () => {
  app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent' });
});
afterAll(() => app.close());

const ask = async <T>(url: string): Promise<T> => (await app.inject(`/api/v1${url}`)).json<T>();

/** Amounts of the months of a fiscal year by row, as a planning sheet evaluates what the server answers it. */
async function planned(scope: string, version: string, rows: string) {
  const range = new URLSearchParams({ version, scope, from: 'FY2027-P01', to: 'FY2027-P12' });
  const [workspace, makings, read, view] = await Promise.all([
    ask<WorkspaceView>('/workspace'),
    ask<MakingsView>('/documents/makings'),
    ask<RowsReadView>(`/documents/row_layout/${rows}/reads`),
    ask<FiguresView>(`/figures?${range}`),
  ]);
  const entity = workspace.entities.find(({ code }) => code === scope)!;
  const found = workspace.calendars.find(({ code }) => code === entity.calendar)!;
  const calendar = buildCalendar(found.code, found.periods);
  const periods = view.periods.map((key) => calendar.periods.find((period) => period.key === key)!.ordinal);
  const source: SheetSource = {
    ...{ rowLayout: read.layout, others: read.others, cashFlow: read.cashFlow },
    ...{ accounts: makings.accounts, trees: makings.dimensions, calendar, periods, part: [] },
    currency: { kind: 'currency', code: entity.currency, digits: 2 },
    columns: sheetColumns(calendar, periods, 'month'),
  };
  const own = { lines: linesOf(view.lines), openings: openingsOf(view.openings) };
  const [totals] = new SheetEvaluator().totals({ do: 'open', source, own, beside: [] });
  const look = {
    dimensions: [],
    valuesFirst: false,
    open: new Set<string>(),
    hideUnused: true,
    started: new Set<string>(),
  };
  const sheet = new Map(rowsOfSheet(source, look, own.lines).map((row) => [row.id, row]));
  return (id: string) => {
    const from = sheet.get(id)!.compiled! * source.columns.length;
    return [...totals!.subarray(from, from + 12)].map((amount) => (Number.isNaN(amount) ? null : amount));
  };
}

// the statement of the same version is the reference: one engine, and so one figure wherever it is read
it.each(['cash_flow', 'ratios', 'balance_sheet', 'income_by_function'])(
  'a planning sheet of %s has the figures of the statement of its version',
  async (rows) => {
    const figures = await planned('LMG', 'PLAN_FY27', rows);
    const { statements } = await ask<WorkspaceView>('/workspace');
    const { id } = statements.find((statement) => statement.rows === rows)!;
    const query = new URLSearchParams({
      ...{ scope: 'LMG', as_at: 'FY2027-P12', version: 'PLAN_FY27', columns: 'twelve_months' },
    });
    const statement = await ask<StatementView>(`/statements/${id}?${query}`);
    const told = statement.rows.filter(({ cells }) => cells.length > 0);
    for (const row of told) {
      const shown = row.cells.slice(0, 12).map(({ amount }) => amount);
      expect([row.id, figures(row.id)]).toEqual([row.id, shown]);
    }
    expect(told.length).toBeGreaterThan(10);
  },
  60_000,
);
