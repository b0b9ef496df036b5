import type { FiguresView, SaveFigures, VersionView } from '@margin-lens/contract';
import { SAMPLE_MAKINGS, SAMPLE_ROWS } from '../testing/sample-documents';
import { ScreenBed } from '../testing/screen-bed';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { VersionsScreen } from './versions-screen';

const periods = SAMPLE_WORKSPACE.calendars[0]!.periods.filter(({ kind }) => kind === 'regular');
const [first, last] = [periods[0]!, periods[periods.length - 1]!];
const version = (more: Partial<VersionView> = {}): VersionView => ({
  code: 'PLAN',
  name: 'Plan',
  kind: 'plan',
  from: first.key,
  to: last.key,
  cutOver: '',
  parent: '',
  state: 'draft',
  rank: 1,
  owner: '',
  editors: [],
  opening: null,
  rateSet: '',
  frozenAt: null,
  revises: '',
  changes: 0,
  changedBy: '',
  changedAt: '',
  mayEdit: true,
  history: [],
  ...more,
});
const NONE = '\u001f';
const figures = (more: Partial<FiguresView> = {}): FiguresView => ({
  revision: 1,
  untold: null,
  adjusted: [],
  periods: periods.map(({ key }) => key),
  actual: periods.map(() => false),
  lines: [
    { account: '4000', combination: NONE, figures: periods.map(() => -1_000_000) },
    { account: '6400', combination: NONE, figures: periods.map(() => 400_000) },
  ],
  openings: [],
  ...more,
});

/** The planning sheet over a server that knows one version. */
class PlanBed {
  private constructor(readonly screen: ScreenBed) {}

  static async open(
    own: VersionView | readonly VersionView[] = version(),
    view = figures(),
    query = '',
  ): Promise<PlanBed> {
    const screen = await ScreenBed.open(`/versions/PLAN?rows=rows${query}`, VersionsScreen, { path: 'versions/:code' });
    screen.reply('/versions', [own].flat());
    await screen.settle();
    screen.reply('/figures', view);
    screen.reply('/documents/row_layout/rows/reads', { layout: SAMPLE_ROWS, others: [], cashFlow: [] });
    screen.reply('/documents/makings', SAMPLE_MAKINGS);
    await screen.settle();
    await screen.settle();
    return new PlanBed(screen);
  }

  cells(label: string): string[] {
    const row = [...this.screen.page.querySelectorAll('tbody tr')].find(
      (each) => each.querySelector('.text')?.textContent === label,
    )!;
    return [...row.querySelectorAll('td[data-spot]')].map((cell) => cell.textContent.trim());
  }

  private get input(): HTMLInputElement | null {
    return this.screen.page.querySelector<HTMLInputElement>('[data-spot] input');
  }

  get grid(): HTMLElement {
    return this.screen.page.querySelector<HTMLElement>('[role="grid"]')!;
  }

  async choose(row: number, column: number, more: MouseEventInit = {}): Promise<void> {
    const cell = this.screen.page.querySelector(`[data-spot="${row}.${column}"]`)!;
    cell.dispatchEvent(new MouseEvent('mousedown', { bubbles: true, cancelable: true, ...more }));
    await this.screen.settle();
  }

  async key(key: string, more: KeyboardEventInit = {}): Promise<void> {
    const target = this.input ?? this.grid;
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    await this.screen.settle();
  }

  async type(text: string): Promise<void> {
    await this.key(text[0]!);
    this.input!.value = text;
    this.input!.dispatchEvent(new Event('input', { bubbles: true }));
    await this.key('Enter');
  }

  async saved(): Promise<SaveFigures> {
    await jest.advanceTimersByTimeAsync(350);
    const { body } = this.screen.reply('/versions/PLAN/figures', { state: 'saved', revision: 2 }, 'PUT').request;
    await this.screen.settle();
    return body as SaveFigures;
  }
}

describe('the planning sheet', () => {
  it('shows rows of the layout by month with the year, in the unit of the view', async () => {
    const bed = await PlanBed.open();
    const months = periods.length;
    expect(bed.cells('Net sales').slice(0, 2)).toEqual(['10', '10']);
    expect(bed.cells('Energy')[0]).toBe('4');
    expect(bed.cells('Profit')[0]).toBe('6');
    expect(bed.screen.page.querySelectorAll('ml-planning-table thead th').length).toBeGreaterThan(months);
    expect(bed.screen.byId('subtitle').textContent).toContain('Plan, draft');
  });

  it('takes what is typed at once, moves totals behind it, saves it, and undoes it', async () => {
    const bed = await PlanBed.open();
    await bed.choose(0, 0);
    await bed.type('12');
    // profit comes from the thread
    expect([bed.cells('Net sales')[0], bed.cells('Profit')[0]]).toEqual(['12', '6']);
    await bed.screen.settle();
    expect([bed.cells('Net sales')[0], bed.cells('Profit')[0]]).toEqual(['12', '8']);
    expect(await bed.saved()).toMatchObject({
      scope: 'LMG',
      how: 'typed',
      label: 'Net sales',
      cells: [{ account: '4000', combination: NONE, period: first.key, before: -1_000_000, after: -1_200_000 }],
    });
    expect(bed.screen.byId('save-state').textContent).toBe('All saved');
    await bed.key('z', { ctrlKey: true });
    expect(bed.cells('Net sales')[0]).toBe('10');
    expect(await bed.saved()).toMatchObject({ how: 'undone', cells: [{ before: -1_200_000, after: -1_000_000 }] });
  });

  it('works expressions out, says what it cannot read, and leaves computed rows alone', async () => {
    const bed = await PlanBed.open();
    await bed.choose(1, 1);
    await bed.type('=4*1.5');
    expect(bed.cells('Energy')[1]).toBe('6');
    await bed.choose(1, 1);
    await bed.type('twelve');
    expect(bed.screen.byId('entry-problem').textContent).toContain('“twelve” is not an amount');
    await bed.choose(2, 1);
    await bed.type('5');
    expect(bed.screen.byId('entry-problem').textContent).toContain('Profit is computed');
  });

  it('fills to the right and down, clears a block, and opens the accounts of a row', async () => {
    const bed = await PlanBed.open();
    await bed.choose(0, 0);
    await bed.type('20');
    await bed.choose(0, 0);
    await bed.choose(0, 2, { shiftKey: true });
    await bed.key('r', { ctrlKey: true });
    expect(bed.cells('Net sales').slice(0, 3)).toEqual(['20', '20', '20']);
    await bed.choose(1, 0);
    await bed.key('d', { ctrlKey: true });
    expect(bed.cells('Energy')[0]).toBe('20');
    await bed.choose(0, 0);
    await bed.choose(1, 1, { shiftKey: true });
    await bed.key('Delete');
    expect([bed.cells('Net sales').slice(0, 3), bed.cells('Energy').slice(0, 3)]).toEqual([
      ['–', '–', '20'],
      ['–', '–', '4'],
    ]);
    await bed.choose(1, 0);
    await bed.key('ArrowDown', { altKey: true });
    expect(bed.cells('6400 Kiln gas')[2]).toBe('4');
  });

  it('leaves actual months alone and says so', async () => {
    const view = figures({ actual: periods.map((_, at) => at < 2) });
    const bed = await PlanBed.open(version({ kind: 'forecast', cutOver: periods[1]!.key }), view);
    await bed.choose(0, 0);
    await bed.type('5');
    expect(bed.screen.byId('entry-problem').textContent).toContain('These months are actual');
    expect(bed.cells('Net sales')[0]).toBe('10');
  });

  it('shows what others wrote meanwhile, and lets the person decide', async () => {
    const bed = await PlanBed.open();
    await bed.choose(0, 0);
    await bed.type('12');
    await jest.advanceTimersByTimeAsync(350);
    const cell = { account: '4000', combination: NONE, period: first.key, before: -1_000_000, after: -1_200_000 };
    bed.screen.reply(
      '/versions/PLAN/figures',
      { state: 'conflict', cells: [{ ...cell, now: -900_000, person: 'Ines', at: '2026-08-31T16:00:00.000Z' }] },
      'PUT',
    );
    await bed.screen.settle();
    expect(bed.screen.byId('conflict').textContent).toContain('Ines changed 4000');
    expect(bed.cells('Net sales')[0]).toBe('9');
    await bed.screen.press('Keep mine');
    expect(bed.cells('Net sales')[0]).toBe('12');
    expect(await bed.saved()).toMatchObject({ cells: [{ before: -900_000, after: -1_200_000 }] });
  });

  it('lets figures that two people changed be settled one by one, and the rest at once', async () => {
    const bed = await PlanBed.open();
    await bed.choose(0, 0);
    await bed.type('12');
    await bed.choose(0, 1);
    await bed.type('13');
    await jest.advanceTimersByTimeAsync(350);
    const [, second] = periods;
    const cell = (period: string, after: number) => ({
      account: '4000',
      combination: NONE,
      period,
      before: -1_000_000,
      after,
      now: -900_000,
      person: 'Ines',
      at: '2026-08-31T16:00:00.000Z',
    });
    const cells = [cell(first.key, -1_200_000), cell(second!.key, -1_300_000)];
    bed.screen.reply('/versions/PLAN/figures', { state: 'conflict', cells }, 'PUT');
    await bed.screen.settle();
    expect(bed.screen.text('ml-conflict-notice')).toContain('Ines meanwhile changed 2 figures that you changed too');
    await bed.screen.press('One by one');
    expect(bed.screen.text('ml-conflict-notice tbody tr')).toMatch(/4000 .*, .*9,000.00.*12,000.00/);
    await bed.screen.press('mine');
    expect(bed.cells('Net sales').slice(0, 2)).toEqual(['12', '9']);
    await bed.screen.press('Keep theirs');
    expect(bed.cells('Net sales').slice(0, 2)).toEqual(['12', '9']);
    expect(bed.screen.page.querySelector('ml-conflict-notice')).toBeNull();
    expect(await bed.saved()).toMatchObject({ label: 'My figures', cells: [{ period: first.key, after: -1_200_000 }] });
  });

  it('keeps what could not be saved, and says so', async () => {
    const bed = await PlanBed.open();
    await bed.choose(0, 0);
    await bed.type('12');
    await jest.advanceTimersByTimeAsync(350);
    bed.screen.fail('/versions/PLAN/figures', 409, {
      code: 'SRV_VERSION_NOT_DRAFT',
      message: '“Plan” is submitted; its figures stay as they are.',
      hint: 'Send it back.',
      details: [],
    });
    await bed.screen.settle();
    expect(bed.screen.text()).toContain('One step is not saved. “Plan” is submitted');
    expect(bed.screen.byId('save-state').textContent).toBe('Not saved');
  });
});

describe('actions', () => {
  it('show what they would do before anything is written, and do it as one step', async () => {
    const bed = await PlanBed.open();
    await bed.choose(1, 0);
    await bed.screen.press('Uplift…');
    await bed.screen.type('By', '10');
    await bed.screen.choose('Counts', 'once');
    expect(bed.cells('Energy')[0]).toBe('4');
    await bed.screen.settle();
    expect(bed.screen.byId('apply').textContent).toContain(`Apply to ${periods.length} figures`);
    bed.screen.byId('apply').click();
    await bed.screen.settle();
    expect(await bed.saved()).toMatchObject({ how: 'uplifted', label: 'Uplift Energy' });
    await bed.screen.press('Undo');
    expect(bed.cells('Energy')[0]).toBe('4');
  });

  it('say why there is nothing to do', async () => {
    const bed = await PlanBed.open();
    await bed.choose(2, 0);
    await bed.screen.press('Round…');
    expect(bed.screen.byId('apply').textContent).toContain('Working it out');
    await bed.screen.settle();
    expect(bed.screen.text('ml-action-panel')).toContain('Only computed rows are selected');
    expect(bed.screen.byId<HTMLButtonElement>('apply').disabled).toBe(true);
  });
});

describe('a version that is not a draft', () => {
  it('is read only, and offers the next step or a revision', async () => {
    const bed = await PlanBed.open(version({ state: 'approved', mayEdit: false }));
    expect(bed.screen.text()).toContain('Plan is approved; its figures stay as they are.');
    expect(bed.screen.page.querySelector('[role="toolbar"]')).toBeNull();
    expect(bed.screen.byId('move-on').textContent).toContain('Lock');
  });
});

describe('what is worth a look', () => {
  const DESIGN = '\u001f\u001fdepartment=design';

  it('names the one value that was revised while the total moved', async () => {
    const month = (amount: number) => periods.map(() => amount);
    const view = figures({
      lines: [
        { account: '6400', combination: NONE, figures: month(400_000) },
        { account: '6400', combination: DESIGN, figures: month(100_000) },
      ],
    });
    const bed = await PlanBed.open(version(), view, '&by=department');
    await bed.screen.press('Cell');
    await bed.choose(1, 0);
    await bed.key('ArrowDown', { altKey: true });
    await bed.choose(2, 0);
    await bed.key('ArrowDown', { altKey: true });
    await bed.choose(3, 0);
    await bed.type('3');
    await bed.choose(3, 0);
    await jest.advanceTimersByTimeAsync(300); // they are looked over after a pause
    await bed.screen.settle();
    expect(bed.screen.byId('warnings').textContent).toMatch(
      /6400 Kiln gas.*only Design was revised, which moves the total from 5 to 7/,
    );
  });

  it('a value without figures gets a row of its own, to be typed into', async () => {
    const bed = await PlanBed.open(version(), figures(), '&by=department');
    await bed.screen.press('Cell');
    await bed.choose(1, 0);
    await bed.key('ArrowDown', { altKey: true });
    await bed.choose(2, 0);
    expect(bed.screen.byId<HTMLButtonElement>('start-value').disabled).toBe(true);
    await bed.screen.choose('Department', 'Design');
    bed.screen.byId('start-value').click();
    await bed.screen.settle();
    expect(bed.cells('Design')[0]).toBe('–');
    const rows = [...bed.screen.page.querySelectorAll('tbody .text')].map(({ textContent }) => textContent);
    await bed.choose(rows.indexOf('Design'), 0);
    await bed.type('2');
    expect(await bed.saved()).toMatchObject({
      cells: [{ account: '6400', combination: DESIGN, before: 0, after: 200_000 }],
    });
  });
});

describe('differences', () => {
  it('are shown by account, and by each combination of values', async () => {
    const bed = await PlanBed.open(version(), figures());
    await bed.screen.press('Differences');
    await bed.screen.choose('This version, less', 'Actual');
    const DESIGN = '\u001f\u001fdepartment=design';
    const lines = [
      ...figures().lines.slice(0, 1),
      { account: '6400', combination: NONE, figures: periods.map(() => 300_000) },
      { account: '6400', combination: DESIGN, figures: periods.map(() => 100_000) },
    ];
    bed.screen.reply('/figures', figures({ lines }));
    await bed.screen.settle();
    expect(bed.screen.byId('verdict').textContent).toContain('The two are the same');
    await bed.screen.controls.tick(/Each combination/);
    await bed.screen.settle();
    const rows = [...bed.screen.byId('differences').querySelectorAll('.name')].map(({ textContent }) => textContent);
    expect(rows).toEqual(['6400 Kiln gas · no values', '6400 Kiln gas · Design']);
  });
});

describe('a version is never held against itself', () => {
  const OLD = version({ code: 'OLD', name: 'Old' });

  it('nor are differences from another left standing, once that one is looked at', async () => {
    const bed = await PlanBed.open([version(), OLD], figures());
    await bed.screen.press('Differences');
    await bed.screen.choose('This version, less', 'Old');
    bed.screen.reply('/figures', figures({ lines: [] }));
    await bed.screen.settle();
    expect(bed.screen.byId('verdict')).not.toBeNull();
    await bed.screen.go('/versions/OLD?rows=rows&with=OLD');
    bed.screen.reply('/figures', figures({ lines: [] }));
    await bed.screen.settle();
    expect(bed.screen.byId('verdict')).toBeNull();
    expect(bed.screen.page.textContent).toContain('Choose what this version is held against');
  });
});

describe('spreading by working days', () => {
  it('counts the holidays of the entity’s country, and says so', async () => {
    const bed = await PlanBed.open();
    await bed.choose(1, 0);
    await bed.screen.press('Phase…');
    bed.screen.reply('/setup/workspace', {
      revision: 1,
      bases: [],
      retainedEarnings: null,
      settings: {
        name: 'x',
        reporting_currency: 'EUR',
        fiscal_year_naming: 'ends',
        working_days: { LMG: { country: 'DE' } },
      },
    });
    await bed.screen.settle();
    const weekdays = ['2023-04-03', '2023-04-04', '2023-04-05', '2023-04-06'];
    bed.screen.reply('/setup/holidays', { countries: [], days: weekdays.map((date) => ({ date, name: 'Day off' })) });
    await bed.screen.settle();
    await bed.screen.choose('Spread', 'by working days');
    expect(bed.screen.byId('days-off').textContent).toContain('less the holidays of DE');
  });
});
