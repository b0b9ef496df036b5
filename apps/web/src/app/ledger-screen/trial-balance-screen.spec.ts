import { TestBed } from '@angular/core/testing';
import type { TrialBalanceView } from '@margin-lens/contract';
import { ScreenBed } from '../testing/screen-bed';
import { TrialBalanceScreen } from './trial-balance-screen';

const line = (
  id: string,
  kind: TrialBalanceView['lines'][number]['kind'],
  label: string,
  depth: number,
  closing: number,
) => ({
  id,
  kind,
  label,
  depth,
  amounts: [0, Math.max(0, closing), Math.max(0, -closing), closing],
});
const VIEW: TrialBalanceView = {
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  columns: ['Opening', 'Debit', 'Credit', 'Closing'].map((label) => ({
    key: label.toLowerCase(),
    label,
    currency: 'EUR',
  })),
  lines: [
    line('asset', 'nature', 'Assets', 0, 50_000),
    line('1600', 'account', '1600 Current account', 1, 50_000),
    line('income', 'nature', 'Income', 0, -50_000),
    line('4000', 'account', '4000 Sales', 1, -50_000),
  ],
  untold: '',
  totals: [0, 50_000, 50_000, 0],
  profit: [null, null, null, 50_000],
};

async function open(view: TrialBalanceView = VIEW): Promise<ScreenBed> {
  const bed = await ScreenBed.open('/ledger?scope=LMG&as_at=2026-08', TrialBalanceScreen);
  bed.reply('/ledger/trial-balance', view);
  await bed.settle();
  return bed;
}

describe('TrialBalanceScreen', () => {
  it('proves itself: debits meet credits, and says so', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="balance-proof"]')).toMatch(/^✓/);
    const off = { ...VIEW, totals: [0, 50_000, 49_000, 1_000] };
    const bedOff = await reopened(off);
    expect(bedOff.text('[data-testid="balance-proof"]')).toMatch(/^!/);
  });

  it('says what cannot be told, and proves nothing then', async () => {
    const [assets, ...rest] = VIEW.lines;
    const lines = [{ ...assets!, amounts: [0, null, null, null] }, ...rest];
    const bed = await open({ ...VIEW, lines, totals: [0, null, null, null], untold: 'No closing rate' });
    expect(bed.text('[data-testid="untold"]')).toContain('No closing rate');
    expect(bed.text('tbody')).toContain('not known');
    expect(bed.text('[data-testid="balance-proof"]')).toBe('! not all of it can be told');
  });

  it('folds what stands below a heading, and unfolds it again', async () => {
    const bed = await open();
    bed.page.querySelector<HTMLButtonElement>('button.fold')!.click();
    await bed.settle();
    expect(bed.text('tbody')).not.toContain('1600 Current account');
    expect(bed.text('tbody')).toContain('4000 Sales');
    await bed.press('Unfold');
    expect(bed.text('tbody')).toContain('1600 Current account');
  });

  it('links an account and each of its figures to their lines', async () => {
    const bed = await open();
    const links = [...bed.page.querySelectorAll<HTMLAnchorElement>('tbody a')].map(
      ({ href }) => new URL(href, 'http://x').search,
    );
    expect(links[0]).toContain('account=1600');
    expect(links.every((search) => search.includes('account='))).toBe(true);
  });

  it('says that nothing was posted, and that it could not be read', async () => {
    const bed = await open({ ...VIEW, lines: [], totals: [0, 0, 0, 0] });
    expect(bed.text()).toContain('Nothing was posted up to August 2026');
    TestBed.resetTestingModule();
    const failed = await ScreenBed.open('/ledger?scope=LMG&as_at=2026-08', TrialBalanceScreen);
    failed.fail('/ledger/trial-balance', 500, {
      code: 'SRV_INTERNAL',
      message: 'Something failed.',
      hint: 'Try again.',
      details: [],
    });
    await failed.settle();
    await failed.press('Try again');
    failed.reply('/ledger/trial-balance', VIEW);
    await failed.settle();
    expect(failed.text('tbody')).toContain('4000 Sales');
  });

  it('offers nothing to press where it is refused: asking again would give the same', async () => {
    const refused = await ScreenBed.open('/ledger?scope=LMG&as_at=2026-08', TrialBalanceScreen);
    const reply = { code: 'SRV_VALUES_LIMITED', message: 'Not told apart.', hint: 'Ask the owner.', details: [] };
    refused.fail('/ledger/trial-balance', 403, reply);
    await refused.settle();
    expect(refused.text()).toBe('Not told apart. Ask the owner.');
  });

  const reopened = (view: TrialBalanceView) => {
    TestBed.resetTestingModule();
    return open(view);
  };
});
