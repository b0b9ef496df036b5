import { SAMPLE_VIEW, SAMPLE_WHY } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { StatementScreen } from '../statement-screen/statement-screen';
import type { StatementView } from '@margin-lens/contract';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const head = (
  id: string,
  source: string,
  notation: 'actual' | 'plan' | 'forecast',
  kind: 'figure' | 'total' = 'figure',
) => ({
  id,
  source,
  kind,
  notation,
  block: source,
  blockLabel: 'FY27',
  label: id,
  note: '',
  span: null,
  dates: '',
  held: null,
  flags: [],
  hideFromExport: false,
});
const row = (
  id: string,
  label: string,
  amounts: number[],
  unit: StatementView['rows'][number]['cells'][number]['unit'] = EUR,
) => ({
  ...SAMPLE_VIEW.rows[0]!,
  id,
  label,
  opened: false,
  cells: amounts.map((amount) => ({ amount, unit })),
});
const view: StatementView = {
  ...SAMPLE_VIEW,
  misplacedRows: [],
  compared: { code: 'PLAN', name: 'Plan' },
  forecast: { code: 'F2', name: 'Forecast 2' },
  columnLayout: { id: 'months_against_plan', name: 'Months against plan' },
  columns: [
    head('April', 'now', 'actual'),
    head('May', 'now', 'forecast'),
    head('Total', 'now', 'actual', 'total'),
    head('p4', 'base', 'plan'),
    head('p5', 'base', 'plan'),
  ],
  rows: [
    row('sales', 'Sales', [100, 120, 220, 90, 95]),
    row('profit', 'Profit', [10, 12, 22, 9, 8]),
    row('margin', 'Margin', [0.1, 0.1, 0.1, 0.1, 0.1], { kind: 'ratio' }),
  ],
};
describe('a statement as charts', () => {
  async function open(url: string) {
    const bed = await ScreenBed.open(url, StatementScreen);
    bed.reply('/statements/income_statement', view);
    await bed.settle();
    await bed.settle();
    return bed;
  }

  it('draws the result where no row is named, and says what it draws', async () => {
    const bed = await open('/statements/income_statement?scope=LMG&as_at=2026-08&charts=');
    expect(bed.address).toContain('charts=profit');
    const asked = bed.reply('/statements/income_statement/why', SAMPLE_WHY).request;
    expect([asked.params.get('cell'), asked.params.get('columns')]).toEqual([
      'profit~ytd_change',
      'to_date_and_full_year',
    ]);
    await bed.settle();
    expect(bed.text()).toContain('Profit by month Solid is actual, hatched Forecast 2, outlined Plan.');
    expect(bed.text()).toContain('From Plan to actual');
    expect(bed.byId('bridge-sentence').textContent).toContain('mostly Sales');
  });

  it('goes to another row, and says of ratios that they cannot be added', async () => {
    const bed = await open('/statements/income_statement?scope=LMG&as_at=2026-08&charts=profit');
    bed.reply('/statements/income_statement/why', SAMPLE_WHY);
    await bed.press('Margin');
    await bed.settle();
    expect(bed.address).toContain('charts=margin');
    bed.reply('/statements/income_statement/why', {
      ...SAMPLE_WHY,
      terms: [],
      problem: 'Margin is no sum of accounts, so its change cannot be told apart by them.',
    });
    await bed.settle();
    expect(bed.text()).toContain('Margin cannot be added over months.');
    expect(bed.text()).toContain('Margin is no sum of accounts');
  });
});
