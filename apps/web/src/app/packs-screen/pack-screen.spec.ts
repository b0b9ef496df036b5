import type { DocumentView, PackView } from '@margin-lens/contract';
import type { PackDocument } from '@margin-lens/core';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { PackScreen } from './pack-screen';

const PACK: PackDocument = {
  ...{ schema: 1, kind: 'pack', id: 'monthly', name: 'Monthly', footer: 'For the board' },
  pages: [
    { kind: 'cover', id: 'cover' },
    { kind: 'section', id: 'results', title: 'Results' },
    { kind: 'figures', id: 'income', of: 'income_statement' },
  ],
};
const KEPT: DocumentView = {
  ...{ document: PACK, base: 7, changedBy: 'Controller', changedAt: '2026-11-24T10:00:00Z', draft: null, usedBy: [] },
};
const page = (id: string, sheet: number, more: object = {}): PackView['pages'][number] => ({
  ...{ id, title: id, says: '', sheet, figures: [], differs: [], open: [], problem: '' },
  ...more,
});
const sheet = (of: string, text: string): PackView['sheets'][number] => ({
  ...{ page: of, width: 842, height: 595 },
  marks: [
    { kind: 'text', x: 40, y: 60, text, size: 15, colour: 'ink', font: 'serif', align: 'left' },
    { kind: 'line', x: 40, y: 70, length: 100, thickness: 0.5, colour: 'rule' },
  ],
});
const VIEW: PackView = {
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  bound: [],
  pages: [page('cover', 1), page('results', 2), page('income', 3, { open: ['2 to explain'], differs: ['thousands'] })],
  sheets: [sheet('cover', 'Monthly'), sheet('results', 'Results'), sheet('income', 'Sales'), sheet('income', 'Profit')],
  ...{ movedAt: null, madeInMs: 12 },
};

describe('PackScreen', () => {
  const open = async (): Promise<ScreenBed> => {
    const bed = await ScreenBed.open('/packs/monthly?scope=LMG&as_at=2026-08', PackScreen, {
      data: { id: 'monthly' },
      workspace: { ...SAMPLE_WORKSPACE, packs: [{ id: 'monthly', name: 'Monthly', readers: {} }] },
    });
    bed.reply('/packs/proposal', PACK);
    bed.reply('/documents/pack/monthly', KEPT);
    await bed.settle();
    bed.reply('/packs/preview', VIEW, 'POST');
    await bed.settle();
    return bed;
  };
  const listed = (bed: ScreenBed) => [...bed.page.querySelectorAll('[role="option"]')];
  const names = (bed: ScreenBed) =>
    listed(bed).map((each) => each.querySelector('.words')!.firstChild!.textContent!.trim());
  const press = async (bed: ScreenBed, key: string, more: KeyboardEventInit = {}) => {
    const list = bed.page.querySelector('[role="listbox"]')!;
    list.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }));
    await bed.settle();
  };

  beforeAll(() => (Element.prototype.scrollIntoView = () => undefined));

  it('shows the sheets of the chosen page, what is open of each page, and in what it differs', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="subtitle"]')).toBe('3 pages on 4 sheets · Larkmoor Ceramics · EUR · August 2026');
    expect(bed.page.querySelectorAll('ml-sheet-view')).toHaveLength(1);
    (listed(bed)[2] as HTMLElement).click();
    await bed.settle();
    const drawn = [...bed.page.querySelectorAll('ml-sheet-view')].map((each) => each.textContent!.trim());
    expect(drawn).toEqual(['Sales', 'Profit']);
    expect(listed(bed)[2]!.textContent).toContain('2 to explain');
    expect(listed(bed)[2]!.textContent).toContain('thousands');
  });

  it('moves pages, takes them out, and takes both back', async () => {
    const bed = await open();
    await press(bed, 'ArrowDown');
    await press(bed, 'ArrowDown', { altKey: true });
    expect(names(bed)).toEqual(['cover', 'income', 'Results']);
    await press(bed, 'Delete');
    expect(names(bed)).toEqual(['cover', 'income']);
    expect(bed.text('[data-testid="state"]')).toBe('Not saved');
    await press(bed, 'z', { ctrlKey: true });
    await press(bed, 'z', { ctrlKey: true });
    expect(names(bed)).toEqual(['cover', 'Results', 'income']);
    expect(bed.text('[data-testid="state"]')).toBe('');
    await press(bed, 'z', { ctrlKey: true, shiftKey: true });
    expect(names(bed)).toEqual(['cover', 'income', 'Results']);
  });

  it('leaves out what is emptied', async () => {
    const bed = await open();
    bed.page.querySelector<HTMLElement>('[data-testid="pack-settings"] button')!.click();
    await bed.settle();
    const foot = bed.page.querySelector<HTMLInputElement>('[data-testid="footer"]')!;
    expect(foot.value).toBe('For the board');
    foot.value = '';
    foot.dispatchEvent(new Event('change'));
    await bed.settle();
    const { body } = bed.reply('/packs/preview', VIEW, 'POST').request as { body: { pack: PackDocument } };
    expect(body.pack.footer).toBeUndefined();
    expect(bed.text('[data-testid="state"]')).toBe('Not saved');
  });

  it('says what went wrong where it cannot be made', async () => {
    const bed = await open();
    await press(bed, 'Delete');
    bed.fail('/packs/preview', 500, { code: 'X', message: 'It did not work.', hint: 'Try again.', details: [] });
    await bed.settle();
    expect(bed.text('[role="alert"]')).toContain('It did not work.');
  });
});
