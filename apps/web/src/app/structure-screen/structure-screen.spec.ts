import type { StructureView } from '@margin-lens/contract';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { StructureScreen } from './structure-screen';

/** What parts of a page say, each on its own. */
const words = (parts: Iterable<Element>) => [...parts].map((part) => part.textContent!.replace(/\s+/g, ' ').trim());

const VIEW: StructureView = {
  group: { code: 'ALL', name: 'All', currency: 'EUR' },
  asAt: 'FY2027-P05',
  day: '2026-08-31',
  entities: [
    {
      ...{ code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR', method: 'top', holders: [] },
      ...{ effective: 100, others: 0, votes: 100, heads: [], question: null },
    },
    {
      ...{ code: 'LMT', name: 'Larkmoor Tile', currency: 'PLN', method: 'full' },
      holders: [{ code: 'LMG', name: 'Larkmoor Ceramics', percent: 45.5 }],
      ...{
        effective: 45.5,
        others: 54.5,
        votes: 45.5,
        heads: [],
        question: 'It is consolidated in full with 45.5 % of the votes.',
      },
    },
    {
      ...{ code: 'KWE', name: 'Kilnworks Energy', currency: 'EUR', method: 'equity' },
      holders: [
        { code: 'LMG', name: 'Larkmoor Ceramics', percent: 10 },
        { code: 'LMT', name: 'Larkmoor Tile', percent: 20 },
      ],
      ...{ effective: 19.1, others: 80.9, votes: 10, heads: [], question: null },
    },
  ],
  hidden: 1,
  shares: [
    {
      ...{ investor: 'LMG', investee: 'LMT', from: '2024-04-01', percent: '45.5', method: 'full' },
      ...{ change: 'bought', before: 0, obtainsControl: true, losesControl: false, acquisition: null, disposal: null },
      lacks: ['what was paid'],
    },
  ],
  notes: [],
};

describe('StructureScreen', () => {
  async function open() {
    const groups = [{ ...SAMPLE_WORKSPACE.entities[0]!, code: 'ALL', name: 'All', topEntity: 'LMG' }];
    const workspace = { ...SAMPLE_WORKSPACE, groups };
    const bed = await ScreenBed.open('/structure?scope=LMG&as_at=2026-08', StructureScreen, { workspace });
    bed.reply('/groups/ALL/structure', VIEW);
    await bed.settle();
    return bed;
  }

  it('says what a group is where there is none', async () => {
    const bed = await ScreenBed.open('/structure?scope=LMG&as_at=2026-08', StructureScreen);
    expect(bed.text('[data-testid="empty"]')).toContain('There is no group yet');
  });

  it('says what is consolidated how, on which day, and what is not seen', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="subtitle"]')).toBe(
      'EUR · 31 August 2026 · 2 in full, 1 as one line, 1 that you may not see',
    );
    const rows = [...bed.page.querySelectorAll('[data-testid="entities"] tbody tr')].map((row) => words(row.children));
    expect(rows).toEqual([
      ['Larkmoor Ceramics', 'EUR', 'Head of the group', '', '100 %', '–', ''],
      [
        ...['Larkmoor Tile', 'PLN', 'In full ! It is consolidated in full with 45.5 % of the votes.'],
        ...['Larkmoor Ceramics 45.5 %', '45.5 %', '54.5 %', '45.5 %'],
      ],
      [
        ...['Kilnworks Energy', 'EUR', 'As one line (associate)'],
        ...['Larkmoor Ceramics 10 %, Larkmoor Tile 20 %', '19.1 %', '80.9 %', '10 %'],
      ],
    ]);
  });

  it('draws each entity once below its largest holder, and marks the one that is chosen in tree and table', async () => {
    const bed = await open();
    const boxes = [...bed.page.querySelectorAll<HTMLElement>('.box')];
    expect(boxes.map((box) => words(box.querySelectorAll('strong, small')))).toEqual([
      ['Larkmoor Ceramics', 'EUR · head'],
      ['Larkmoor Tile', 'PLN · 45.5 %'],
      ['Kilnworks Energy', 'EUR · 30 %, associate'],
    ]);
    expect(bed.page.querySelectorAll('path')).toHaveLength(3);
    expect(bed.page.querySelectorAll('path.beside')).toHaveLength(1);
    boxes[2]!.click();
    await bed.settle();
    expect(boxes[2]!.getAttribute('aria-pressed')).toBe('true');
    expect(bed.text('tr.chosen')).toContain('Kilnworks Energy');
  });
});
