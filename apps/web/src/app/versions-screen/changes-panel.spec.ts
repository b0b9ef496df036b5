import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { FigureCell, VersionChanges, VersionView } from '@margin-lens/contract';
import { ChangesPanel } from './changes-panel';
import type { FigureWords } from './figure-words';

const ROOT = '/api/v1/versions/PLAN/changes';
const VERSION = {
  code: 'PLAN',
  mayEdit: true,
  history: [{ what: 'Submitted', at: '2026-08-30T09:00:00.000Z', person: 'Ines', reason: '' }],
} as unknown as VersionView;
const WORDS: FigureWords = {
  place: ({ account, period }) => `${account} in ${period}`,
  amount: ({ scope }, figure) => `${figure}${scope === 'JP' ? ' yen' : ''}`,
};
const cell = (account: string, before: number, after: number): FigureCell => ({
  account,
  combination: '\u001f',
  period: 'May',
  before,
  after,
});
const CHANGES: VersionChanges['changes'] = [
  {
    revision: 9,
    person: 'Ines',
    at: '2026-08-31T16:00:00.000Z',
    how: 'typed',
    label: 'Energy',
    scope: 'JP',
    count: 6,
    cells: [cell('1', 0, 5), cell('2', 1, 6), cell('3', 0, 1), cell('4', 0, 1), cell('5', 0, 1)],
  },
  {
    revision: 8,
    person: 'Jon',
    at: '2026-08-31T15:00:00.000Z',
    how: 'seeded',
    label: '',
    scope: '*',
    count: 1,
    cells: [cell('1', 7, 0)],
  },
];

const page = (changes: VersionChanges['changes'], before: number | null = null): VersionChanges => ({
  changes,
  before,
});

async function open(version = VERSION) {
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
  const http = TestBed.inject(HttpTestingController);
  const fixture = TestBed.createComponent(ChangesPanel);
  fixture.componentRef.setInput('version', version);
  fixture.componentRef.setInput('figures', WORDS);
  let changed = 0;
  fixture.componentRef.setInput('onChanged', () => changed++);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  return {
    page,
    changed: () => changed,
    text: () => page.textContent!.replace(/\s+/g, ' '),
    answer: async (method: string, url: string, body: object) => {
      http.expectOne({ method, url }).flush(body);
      await fixture.whenStable();
    },
    refuse: async (method: string, url: string, body: object) => {
      http.expectOne({ method, url }).flush(body, { status: 409, statusText: 'x' });
      await fixture.whenStable();
    },
    select: async (selected: { accounts: string; periods: string }) => {
      fixture.componentRef.setInput('selected', selected);
      await fixture.whenStable();
    },
    leave: () => fixture.destroy(),
    takeBack: async () => {
      page.querySelector<HTMLButtonElement>('article button')!.click();
      await fixture.whenStable();
    },
  };
}

describe('ChangesPanel', () => {
  it('lists every write with who, how, before and after, in the words of its entity', async () => {
    const bed = await open();
    expect(bed.text()).toContain('Reading the changes');
    await bed.answer('GET', ROOT, page(CHANGES));
    const [first, second] = bed.page.querySelectorAll('article');
    expect(first!.textContent).toContain('Energy');
    expect(first!.textContent).toMatch(/Ines · typed ·\s+JP/);
    expect(first!.querySelectorAll('li')).toHaveLength(5); // four figures, and how many more
    expect(first!.querySelector('li')!.textContent).toMatch(/1 in May\s*0 yen → 5 yen/);
    expect(first!.textContent).toContain('and 2 more');
    expect(second!.textContent).toMatch(/seeded.*all entities/s);
    expect(bed.text()).toContain('Submitted');
  });

  it('reads older ones behind those that are shown, as long as there are any', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page(CHANGES.slice(0, 1), 9));
    const older = [...bed.page.querySelectorAll('button')].find((button) => /older/.test(button.textContent))!;
    older.click();
    await bed.answer('GET', `${ROOT}?before=9`, page(CHANGES.slice(1)));
    expect(bed.page.querySelectorAll('article:not(.event)')).toHaveLength(2);
    expect(bed.text()).not.toContain('older');
  });

  it('reads the history of the selected cells alone, and is filtered as one types', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page(CHANGES));
    await bed.select({ accounts: '6400,6410', periods: 'FY2027-P05' });
    [...bed.page.querySelectorAll('button')].find((button) => /selection/.test(button.textContent))!.click();
    await bed.select({ accounts: '6400,6410', periods: 'FY2027-P05' });
    await bed.answer('GET', `${ROOT}?accounts=6400,6410&periods=FY2027-P05`, page(CHANGES));
    expect(bed.page.querySelectorAll('article')).toHaveLength(2);
    expect(bed.text()).not.toContain('Submitted');
    const field = bed.page.querySelector('input')!;
    field.value = 'jon seed';
    field.dispatchEvent(new Event('input'));
    await bed.select({ accounts: '6400,6410', periods: 'FY2027-P05' });
    expect([...bed.page.querySelectorAll('article')].map(({ textContent }) => /Jon/.test(textContent))).toEqual([true]);
  });

  it('takes one back, and reads what is there then', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page(CHANGES));
    await bed.takeBack();
    await bed.answer('POST', `${ROOT}/9/take-back`, { state: 'saved', revision: 10 });
    await bed.answer('GET', ROOT, page(CHANGES.slice(1)));
    expect(bed.page.querySelectorAll('article')).toHaveLength(2); // one write, and the event
    expect(bed.changed()).toBe(1);
  });

  it('has the sheet read anew also when another panel is shown before the answer comes', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page(CHANGES));
    await bed.takeBack();
    bed.leave();
    await bed.answer('POST', `${ROOT}/9/take-back`, { state: 'saved', revision: 10 });
    expect(bed.changed()).toBe(1);
  });

  it('says which figures changed since, so that they are not taken back', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page(CHANGES));
    await bed.takeBack();
    const cells = [{ ...cell('1', 0, 5), now: 3, person: 'Jon', at: '' }];
    await bed.answer('POST', `${ROOT}/9/take-back`, { state: 'conflict', cells });
    expect(bed.page.querySelector('[role="alert"]')!.textContent).toBe('Not taken back: 1 in May changed since.');
    await bed.answer('GET', ROOT, page(CHANGES));
    expect(bed.page.querySelector('[role="alert"]')).not.toBeNull();
  });

  it('shows why it could not be taken back, and offers it only while the version may be edited', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page(CHANGES));
    await bed.takeBack();
    await bed.refuse('POST', `${ROOT}/9/take-back`, {
      code: 'X',
      message: 'Plan is locked.',
      hint: 'Make a new version.',
      details: [],
    });
    expect(bed.page.querySelector('[role="alert"]')!.textContent).toBe('Plan is locked. Make a new version.');
    TestBed.resetTestingModule();
    const locked = await open({ ...VERSION, mayEdit: false });
    await locked.answer('GET', ROOT, page(CHANGES));
    expect(locked.page.querySelector('article button')).toBeNull();
  });

  it('says when nothing was changed', async () => {
    const bed = await open();
    await bed.answer('GET', ROOT, page([]));
    expect(bed.text()).toContain('Nothing was changed here yet.');
  });
});
