import type { ComparisonView } from '@margin-lens/contract';
import { ScreenBed } from '../testing/screen-bed';
import { ComparisonScreen } from './comparison-screen';

const VIEW: ComparisonView = {
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
  period: { key: 'FY2027-P05', name: 'August 2026' },
  deliveries: [
    { id: 2, fileName: 'again.csv', person: 'Controller', at: '2026-09-03T08:00:00Z', isUndone: true },
    { id: 1, fileName: 'first', person: 'Controller', at: '2026-09-02T08:00:00Z', isUndone: false },
  ],
  before: 1,
  after: 2,
  accounts: [
    { number: '2400', name: 'Trade payables', isProfitOrLoss: false, before: -10_000, after: -12_000 },
    { number: '4000', name: 'Sales', isProfitOrLoss: true, before: -50_000, after: -50_000 },
    { number: '6400', name: 'Kiln gas', isProfitOrLoss: true, before: 10_000, after: 12_000 },
  ],
  journals: [
    { number: 'J9', text: 'Gas', how: 'came', before: null, after: 2_000 },
    { number: 'J1', text: 'Gas of July', how: 'changed', before: 10_000, after: 10_000 },
  ],
  more: 3,
};

async function open(view: ComparisonView = VIEW): Promise<ScreenBed> {
  const bed = await ScreenBed.open('/deliveries/compare?scope=LMG&as_at=2026-08', ComparisonScreen);
  bed.reply('/comparison', view);
  await bed.settle();
  return bed;
}

describe('ComparisonScreen', () => {
  it('shows the accounts that differ, what that does to the profit, and the journals behind it', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="subtitle"]')).toContain('2 of 3 accounts and 5 journals differ');
    expect(bed.text('[data-testid="accounts"]')).not.toContain('4000 Sales');
    // sales of 500 less gas of 100 and 120
    expect(bed.text('[data-testid="accounts"] tfoot')).toBe('Profit of the month 400.00 380.00 (20.00)');
    expect(bed.text('[data-testid="journals"]')).toMatch(/J9 Gas new 20\.00.*J1 Gas of July changed 100\.00 100\.00/);
    expect(bed.text()).toContain('and 3 journals more');
  });

  it('keeps what is compared in the address, and shows the accounts that stay when asked', async () => {
    const bed = await open();
    expect((await bed.controls.offered('after')).join()).toContain('again.csv · Controller · undone');
    await bed.choose('before', /before the first delivery/);
    expect(bed.address).toContain('before=0');
    const { request } = bed.reply('/comparison', { ...VIEW, before: null });
    expect(request.params.get('before')).toBe('0');
    await bed.controls.tick('Also accounts that stay');
    await bed.settle();
    expect(bed.text('[data-testid="accounts"]')).toContain('4000 Sales');
  });

  it('says when no delivery touched the month', async () => {
    const bed = await open({ ...VIEW, deliveries: [], accounts: [], journals: [], more: 0, before: null, after: null });
    expect(bed.text()).toContain('No delivery touched August 2026');
  });
});
