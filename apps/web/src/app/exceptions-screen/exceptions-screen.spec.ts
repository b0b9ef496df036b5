import type { ExceptionRowView, ExceptionsView, LiveRemark, RemarksView } from '@margin-lens/contract';
import { ScreenBed } from '../testing/screen-bed';
import { ExceptionsScreen } from './exceptions-screen';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const row = (id: string, base: number, actual: number, more: Partial<ExceptionRowView> = {}): ExceptionRowView => ({
  id,
  label: id[0]!.toUpperCase() + id.slice(1),
  unit: EUR,
  actual,
  base,
  change: actual - base,
  percent: base === 0 ? null : (actual - base) / Math.abs(base),
  favour: actual > base ? 'favourable' : 'adverse',
  effect: actual - base,
  share: 0.5,
  trend: [1, 2],
  ...more,
});
const view = (more: Partial<ExceptionsView> = {}): ExceptionsView => ({
  statement: { id: 'income_statement', name: 'Income statement' },
  scope: { code: 'LMG', name: 'Group', currency: 'EUR' },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  of: { code: 'actual', name: 'Actual' },
  against: { code: 'PLAN', name: 'Plan' },
  span: 'year_to_date',
  limits: { amount: 2_500_000, percent: 0.05 },
  missingRate: null,
  result: row('profit', 100_000_000, 90_000_000),
  exceptions: [row('energy', -100_000_000, -120_000_000), row('sales', 500_000_000, 510_000_000)],
  flat: [row('rent', -1000, -1000)],
  lacks: null,
  range: { span: 'year_to_date', upTo: { key: 'FY2027-P05', name: 'August 2026' } },
  unplanned: [row('allowances', 0, -6_950_000)],
  noActuals: [],
  untold: [],
  ...more,
});
const remark = (more: Partial<LiveRemark> = {}): LiveRemark => ({
  id: 'r1',
  scope: 'LMG',
  period: 'FY2027-P05',
  statement: 'income_statement',
  row: 'energy',
  column: '',
  columns: '',
  text: 'Tariffs: {q1}',
  state: 'open',
  carries: '',
  quotes: [
    {
      key: 'q1',
      cell: 'energy~now_change',
      context: { columns: 'exceptions_year_to_date' },
      amount: -20_000_000,
      shown: '(200)',
    },
  ],
  author: 'Ines',
  writtenAt: '2026-09-01T08:00:00.000Z',
  changedBy: 'Ines',
  changedAt: '2026-09-01T08:00:00.000Z',
  live: [{ amount: -20_000_000, unit: EUR }],
  ...more,
});

describe('the exceptions page', () => {
  const open = async (shown = view(), remarks: RemarksView = { remarks: [], proposals: [], before: '' }) => {
    const bed = await ScreenBed.open('/exceptions?scope=LMG&as_at=2026-08', ExceptionsScreen);
    bed.reply('/exceptions', shown);
    await bed.settle();
    bed.reply('/remarks', remarks);
    await bed.settle();
    await bed.settle();
    return bed;
  };

  it('ranks what exceeds the limits, folds what does not, and lists what has one side alone', async () => {
    const bed = await open();
    const rows = [...bed.page.querySelectorAll('[data-testid="exceptions"] tbody tr')].map(
      (each) => each.querySelector('th')?.textContent,
    );
    expect(rows).toEqual(['Profit', 'Energy', 'Sales']);
    expect(bed.byId('subtitle').textContent).toContain(
      'Actual against Plan, the year to date to August 2026 · beyond 25,000 and 5 %',
    );
    expect(bed.text()).toContain('One row within the limits');
    expect(bed.text()).toContain('Unplanned Actual, and nothing in Plan');
    expect(bed.text()).toContain('to explain');
  });

  it('takes a remark with a quoted figure, and answers it', async () => {
    const bed = await open();
    await bed.type('New remark', 'Tariffs rose;');
    await bed.press('Change');
    bed.byId('write').click();
    await bed.settle();
    const { body } = bed.reply('/remarks', remark(), 'POST').request;
    expect(body).toMatchObject({
      row: 'energy',
      period: 'FY2027-P05',
      text: 'Tariffs rose; {q1}',
      quotes: [
        {
          key: 'q1',
          cell: 'energy~now_change',
          context: { columns: 'exceptions_year_to_date', against: 'PLAN' },
          amount: -20_000_000,
          shown: '(200)',
        },
      ],
    });
    await bed.settle();
    bed.reply('/remarks', { remarks: [remark()], proposals: [], before: '' });
    await bed.settle();
    expect(bed.byId('remark').textContent).toContain('Ines');
    await bed.press('answered');
    expect(bed.reply('/remarks/r1', remark(), 'PUT').request.body).toMatchObject({
      state: 'answered',
      text: 'Tariffs: {q1}',
    });
  });

  it('proposes the remark of the month before', async () => {
    const bed = await open(view(), { remarks: [], before: '', proposals: [remark({ period: 'FY2027-P04' })] });
    await bed.press('carry on to this month');
    expect(bed.reply('/remarks', remark(), 'POST').request.body).toMatchObject({ carries: 'r1', period: 'FY2027-P05' });
  });

  it('says when nothing exceeds the limits', async () => {
    const bed = await open(view({ exceptions: [], result: null }));
    expect(bed.text()).toContain('Nothing exceeds both limits.');
  });

  it.each([
    { more: { lacks: 'of' } as const, says: 'Nothing is posted for August 2026 in Group.' },
    { more: { lacks: 'against' } as const, says: 'Plan has nothing for August 2026 in Group.' },
    { more: { lacks: 'against', against: null } as const, says: 'No version covers August 2026 to be held against.' },
  ])('says which side is not there: $says', async ({ more, says }) => {
    const bed = await open(view({ exceptions: [], result: null, range: null, ...more }));
    expect(bed.text()).toContain(says);
    expect(bed.text()).not.toContain('Nothing exceeds');
  });
});
