import type { WorkspaceView } from '@margin-lens/contract';
import { AdjustmentsScreen } from '../adjustments-screen/adjustments-screen';
import { BooksCheckScreen } from '../books-check-screen/books-check-screen';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';

const group = { currency: 'EUR', calendar: 'apr', posted: [], topEntity: 'LMG' };
const [top, tile] = SAMPLE_WORKSPACE.entities;
/** Two groups, of which the first has another and an entity in it. */
const WORKSPACE: WorkspaceView = {
  ...SAMPLE_WORKSPACE,
  entities: [top!, tile!, { ...tile!, code: 'OTHER', name: 'Beside' }],
  groups: [
    { ...group, code: 'G', name: 'Larkmoor Group' },
    { ...group, code: 'S', name: 'Tile Group' },
    { ...group, code: 'H', name: 'Another' },
  ],
  scopes: [
    { code: 'G', depth: 0 },
    { code: 'LMG', depth: 1 },
    { code: 'S', depth: 1 },
    { code: 'LMT', depth: 2 },
    { code: 'H', depth: 0 },
    { code: 'OTHER', depth: 1 },
  ],
};

describe('EntityChoice', () => {
  it('stands where entities keep something and a group is looked at, and asks the server for nothing', async () => {
    const bed = await ScreenBed.open('/adjustments?scope=G', AdjustmentsScreen, { workspace: WORKSPACE });
    expect(bed.text()).toContain('Larkmoor Group is a group: each of its entities keeps its own.');
    const offered = [...bed.page.querySelectorAll('button')].map((button) => button.textContent.trim());
    expect(offered).toEqual(['Larkmoor Ceramics EUR', 'Larkmoor Tile PLN']);
    await bed.press('Larkmoor Tile PLN');
    expect(bed.address).toContain('scope=LMT');
    bed.reply('/adjustments', {
      ...{ scope: { code: 'LMT', name: 'Larkmoor Tile', currency: 'PLN' }, adjustments: [] },
      ...{ accounts: [], partners: [] },
    });
    await bed.settle();
    expect(bed.text()).toContain('Nothing was adjusted by hand');
  });

  it('says so where none of the entities may be seen', async () => {
    const workspace = { ...WORKSPACE, scopes: [{ code: 'G', depth: 0 }] };
    const bed = await ScreenBed.open('/adjustments?scope=G', AdjustmentsScreen, { workspace });
    expect(bed.text()).toContain('You may see none of them.');
  });

  it('leaves nothing of the entity that was looked at before', async () => {
    const bed = await ScreenBed.open('/books-check?scope=LMT&as_at=2026-08', BooksCheckScreen, {
      workspace: WORKSPACE,
    });
    await jest.advanceTimersByTimeAsync(450);
    bed.reply('/books-check', {
      ...{ scope: { code: 'LMT', name: 'Larkmoor Tile', currency: 'PLN' }, limit: 100, findings: [] },
      asAt: { key: 'FY2027-P05', name: 'August 2026' },
    });
    await bed.settle();
    expect(bed.text()).toContain('Suspense');
    await bed.go('/books-check?scope=S&as_at=2026-08');
    expect(bed.text()).not.toContain('Suspense');
    expect(bed.text()).toContain('Tile Group is a group');
  });
});
