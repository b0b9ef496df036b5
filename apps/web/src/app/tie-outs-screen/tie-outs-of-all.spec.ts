import { ScreenBed } from '../testing/screen-bed';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { TieOutsOfAll } from './tie-outs-of-all';

const tie = (agrees: boolean) => ({
  ...{ check: 'balance_sheet', subject: 'x', subjectName: 'Balance sheet', statement: null, unit: 'money' },
  ...{
    left: { words: '', amount: 1 },
    right: { words: '', amount: agrees ? 1 : 2 },
    difference: agrees ? 0 : -1,
    agrees,
  },
});
const viewOf = (code: string, ...agree: boolean[]) => ({
  ...{ scope: { code, name: code, currency: 'EUR' }, asAt: 'FY2027-P05', ties: agree.map(tie) },
});
const WORKSPACE = {
  ...SAMPLE_WORKSPACE,
  scopes: [
    { code: 'LMG', depth: 0 },
    { code: 'LMT', depth: 1 },
    { code: 'LMX', depth: 1 },
  ],
};

describe('the tie-outs of all', () => {
  it('are checked one after another, each shown as it comes; what fails is said, and leads to its own page', async () => {
    const options = { workspace: WORKSPACE };
    const bed = await ScreenBed.open('/tie-outs?scope=LMG&as_at=2026-08&all=1', TieOutsOfAll, options);
    const rows = () =>
      [...bed.page.querySelectorAll('tbody tr')].map((row) => row.textContent.replace(/\s+/g, ' ').trim());
    expect(rows()).toHaveLength(3);
    expect(bed.page.querySelector('mat-progress-bar')).not.toBeNull();
    bed.reply('/tie-outs', viewOf('LMG', true, true));
    await bed.settle();
    expect(rows()[0]).toMatch(/✓.*2 of 2/);
    expect(rows()[1]).toContain('is being checked');
    bed.reply('/tie-outs', viewOf('LMT', true, false));
    await bed.settle();
    expect(rows()[1]).toMatch(/!.*1 of 2.*Balance sheet/);
    bed.fail('/tie-outs', 403, { code: 'X', message: 'LMX may not be seen.', hint: '', details: [] });
    await bed.settle();
    expect(rows()[2]).toContain('LMX may not be seen.');
    expect(bed.page.querySelector('mat-progress-bar')).toBeNull();
    bed.page.querySelectorAll<HTMLButtonElement>('tbody button')[0]!.click();
    await bed.settle();
    expect(bed.address).not.toContain('all=');
  });
});
