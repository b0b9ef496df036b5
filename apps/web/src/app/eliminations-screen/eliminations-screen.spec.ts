import type { EliminationsView, GroupTotalsView } from '@margin-lens/contract';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { EliminationsScreen } from './eliminations-screen';

const NOTHING: GroupTotalsView = { result: 0, resultOfOthers: 0, assets: 0, liabilities: 0, others: 0, owners: 0 };
const journal = (id: string, does: Partial<GroupTotalsView>): EliminationsView['journals'][number] => ({
  ...{ id, kind: 'investment', of: [id], rule: '', text: '', untold: '', does: { ...NOTHING, ...does } },
  lines: [
    {
      ...{ account: { number: '1600', name: 'Goodwill' }, entity: '', partner: '', reason: 'goodwill' },
      ...{ movement: 8_000, closing: 8_000 },
    },
  ],
});
const VIEW: EliminationsView = {
  scope: { code: 'ALL', name: 'All', currency: 'EUR', digits: 2 },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  before: { ...NOTHING, assets: 500_000, owners: 500_000 },
  untold: '',
  journals: [
    journal('First', { assets: -100_000, owners: -100_000 }),
    journal('Second', { assets: -30_000, owners: -30_000 }),
  ],
  hidden: 1,
  gaps: ['Goodwill, X: not eliminated.'],
};

describe('EliminationsScreen', () => {
  async function open(scope: string) {
    const groups = [{ ...SAMPLE_WORKSPACE.entities[0]!, code: 'ALL', name: 'All', topEntity: 'LMG' }];
    const scopes = [{ code: 'ALL', depth: 0 }, ...SAMPLE_WORKSPACE.scopes];
    const workspace = { ...SAMPLE_WORKSPACE, groups, scopes };
    return ScreenBed.open(`/eliminations?scope=${scope}&as_at=2026-08`, EliminationsScreen, { workspace });
  }
  const group = (bed: ScreenBed) =>
    [...bed.page.querySelectorAll('tfoot tr:last-child td')].map((cell) => cell.textContent!.trim());

  it('says that one entity has none', async () => {
    const bed = await open('LMG');
    expect(bed.text('[data-testid="empty"]')).toContain('One entity has nothing to eliminate');
  });

  it('adds up to the group, and leaves one out for once', async () => {
    const bed = await open('ALL');
    bed.reply('/groups/ALL/eliminations', VIEW);
    await bed.settle();
    expect(bed.text('[data-testid="subtitle"]')).toContain('2 eliminations · 1 of entities that are not yours to see');
    expect(bed.text('[data-testid="gap"]')).toContain('not eliminated');
    expect(group(bed)).toEqual(['', '–', '–', '3,700.00', '–', '–', '3,700.00']);
    bed.page.querySelector<HTMLElement>('tbody input[type="checkbox"]')!.click();
    await bed.settle();
    expect(group(bed)).toEqual(['', '–', '–', '4,700.00', '–', '–', '4,700.00']);
    expect(bed.text('[data-testid="subtitle"]')).toContain('1 switched off here; the books stay as they are');
  });

  it('says what cannot be told, and adds up nothing that holds it', async () => {
    const bed = await open('ALL');
    const unknown = { ...journal('Third', { assets: null }), untold: 'No closing rate PLN to EUR' };
    bed.reply('/groups/ALL/eliminations', { ...VIEW, journals: [...VIEW.journals, unknown] });
    await bed.settle();
    expect(bed.text('tbody')).toContain('No closing rate PLN to EUR');
    expect(group(bed)).toEqual(['', '–', '–', 'not known', '–', '–', '3,700.00']);
  });

  it('lays the lines of one open', async () => {
    const bed = await open('ALL');
    bed.reply('/groups/ALL/eliminations', VIEW);
    await bed.settle();
    bed.page.querySelector<HTMLElement>('button[aria-expanded="false"]')!.click();
    await bed.settle();
    expect(bed.text('table[aria-label="Lines of First"]')).toContain('1600 Goodwill');
  });
});
