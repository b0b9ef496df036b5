import { ScreenBed } from '../testing/screen-bed';
import { PeriodsScreen } from './periods-screen';

const closedOf = (...periods: string[]) => ({
  closed: periods.map((period) => ({ entity: 'LMG', period, person: 'Controller', at: '2026-09-02T08:00:00Z' })),
});

async function open(...closed: string[]): Promise<ScreenBed> {
  const bed = await ScreenBed.open('/periods?scope=LMG&as_at=2026-08', PeriodsScreen);
  bed.reply('/periods', closedOf(...closed));
  await bed.settle();
  return bed;
}

const switchOf = (bed: ScreenBed, label: string) =>
  bed.page.querySelector<HTMLButtonElement>(`[role="switch"][aria-label="${label}"]`)!;

describe('PeriodsScreen', () => {
  it('says which periods of the year are closed, by whom and when', async () => {
    const bed = await open('FY2027-P05');
    const august = switchOf(bed, 'Larkmoor Ceramics, August 2026, closed');
    expect([august.getAttribute('aria-checked'), august.title]).toEqual([
      'true',
      expect.stringMatching(/^Closed .* by Controller$/),
    ]);
    expect(bed.text('[data-testid="subtitle"]')).toContain('1 closed');
  });

  it('closes a period of one entity and shows what the server then says', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="subtitle"]')).toContain('all open');
    switchOf(bed, 'Larkmoor Ceramics, August 2026, closed').click();
    await bed.settle();
    const { request } = bed.reply('/periods', closedOf('FY2027-P05'), 'PUT');
    expect(request.body).toEqual({ entities: ['LMG'], periods: ['FY2027-P05'], status: 'closed' });
    await bed.settle();
    expect(switchOf(bed, 'Larkmoor Ceramics, August 2026, closed').getAttribute('aria-checked')).toBe('true');
  });

  it('offers to close what is still open before it', async () => {
    const bed = await open('FY2027-P04');
    switchOf(bed, 'Larkmoor Ceramics, August 2026, closed').click();
    await bed.settle();
    bed.reply('/periods', closedOf('FY2027-P04', 'FY2027-P05'), 'PUT');
    await bed.settle();
    const bar = document.querySelector('mat-snack-bar-container')!;
    expect(bar.textContent).toContain('still open in Larkmoor Ceramics');
    bar.querySelector('button')!.click();
    await bed.settle();
    const { request } = bed.reply('/periods', closedOf('FY2027-P04', 'FY2027-P05'), 'PUT');
    expect(request.body).toMatchObject({ entities: ['LMG'], status: 'closed' });
    expect((request.body as { periods: string[] }).periods).not.toContain('FY2027-P04');
  });

  it('asks before it closes months of all entities', async () => {
    const bed = await open();
    bed.page.querySelector<HTMLButtonElement>('button[title="Close all up to August 2026"]')!.click();
    await bed.settle();
    document.querySelector<HTMLButtonElement>('ml-close-dialog [data-testid="sure"]')!.click();
    await bed.settle();
    const { request } = bed.reply('/periods', closedOf('FY2027-P05'), 'PUT');
    expect(request.body).toMatchObject({ status: 'closed' });
  });

  it('says why when the server refuses', async () => {
    const bed = await open();
    switchOf(bed, 'Larkmoor Ceramics, August 2026, closed').click();
    await bed.settle();
    bed.fail('/periods', 403, {
      code: 'SRV_RIGHT_MISSING',
      message: 'Reader may not open and close periods.',
      hint: 'Ask someone who may.',
      details: [],
    });
    await bed.settle();
    expect(bed.text('[data-testid="error"]')).toContain('Reader may not open and close periods.');
  });
});
