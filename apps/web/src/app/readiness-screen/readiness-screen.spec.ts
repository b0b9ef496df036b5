import type { Readiness } from '@margin-lens/contract';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { ReadinessScreen } from './readiness-screen';

const VIEW: Readiness = {
  scope: { code: 'ALL', name: 'All', currency: 'EUR' },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  entities: [
    {
      ...{ code: 'LMG', name: 'Larkmoor Ceramics' },
      steps: [
        { step: 'delivered', state: 'done', says: 'postings in August 2026' },
        { step: 'checked', state: 'open', says: 'one finding' },
        { step: 'matched', state: 'none', says: '' },
        { step: 'translated', state: 'none', says: 'in EUR' },
        { step: 'in_group', state: 'done', says: 'head of the group' },
      ],
    },
  ],
  hidden: 1,
  findings: [{ kind: 'books', says: 'Larkmoor Ceramics has one finding.', scope: 'LMG' }],
};

describe('ReadinessScreen', () => {
  async function open(scope: string) {
    const groups = [{ ...SAMPLE_WORKSPACE.entities[0]!, code: 'ALL', name: 'All', topEntity: 'LMG' }];
    const scopes = [{ code: 'ALL', depth: 0 }, ...SAMPLE_WORKSPACE.scopes];
    const workspace = { ...SAMPLE_WORKSPACE, groups, scopes };
    return ScreenBed.open(`/readiness?scope=${scope}&as_at=2026-08`, ReadinessScreen, { workspace });
  }

  it('says that one entity waits for nobody', async () => {
    const bed = await open('LMG');
    expect(bed.text('[data-testid="empty"]')).toContain('One entity waits for nobody');
  });

  it('shows each entity step by step, and leads to where a finding is mended', async () => {
    const bed = await open('ALL');
    bed.reply('/groups/ALL/readiness', VIEW);
    await bed.settle();
    expect(bed.text('[data-testid="subtitle"]')).toContain('1 to look at · 1 entities that are not yours to see');
    expect(bed.text('[data-testid="steps"]')).toContain('✓ postings in August 2026');
    expect(bed.text('[data-testid="steps"]')).toContain('! one finding');
    const link = bed.page.querySelector<HTMLAnchorElement>('[data-testid="findings"] a')!;
    expect(link.getAttribute('href')).toContain('/books-check?scope=LMG');
  });

  it('says so where nothing stands in the way', async () => {
    const bed = await open('ALL');
    bed.reply('/groups/ALL/readiness', { ...VIEW, findings: [] });
    await bed.settle();
    expect(bed.text('[data-testid="none"]')).toContain('Nothing');
  });
});
