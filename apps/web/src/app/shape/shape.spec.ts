import type { Preview, SaveDrafts, StepsView } from '@margin-lens/contract';
import type { Column, Row } from '@margin-lens/core';
import { StatementScreen } from '../statement-screen/statement-screen';
import {
  documentView,
  SAMPLE_COLUMNS,
  SAMPLE_MAKINGS,
  SAMPLE_ROWS,
  SAMPLE_STATEMENT,
} from '../testing/sample-documents';
import { ScreenBed } from '../testing/screen-bed';
import { SAMPLE_VIEW } from '../testing/sample-view';

/** Shape over a server that knows the sample documents; previews are answered with the sample figures. */
/** What the server says when the draft of the rows is saved. */
const SAVED = [{ kind: 'row_layout', id: 'rows', stamp: 'saved' }];

class ShapeBed {
  private constructor(readonly screen: ScreenBed) {}

  static async open(usedBy: string[] = [], steps: StepsView = []): Promise<ShapeBed> {
    const screen = await ScreenBed.open(
      '/statements/income_statement?shape=1&scope=LMG&as_at=2026-08',
      StatementScreen,
    );
    screen.reply('/documents/statement/income_statement', documentView(SAMPLE_STATEMENT));
    await screen.settle();
    screen.reply('/documents/row_layout/rows', documentView(SAMPLE_ROWS, usedBy));
    screen.reply('/documents/column_layout/month', documentView(SAMPLE_COLUMNS));
    screen.reply('/documents/makings', SAMPLE_MAKINGS);
    screen.reply('/documents/steps', steps);
    await screen.settle();
    const bed = new ShapeBed(screen);
    await bed.draw();
    return bed;
  }

  /** Answers the preview that waits; what was asked for is returned. */
  async draw(): Promise<Preview> {
    await this.screen.settle();
    const asked = this.screen.reply('/statements/preview', SAMPLE_VIEW, 'POST').request.body as Preview;
    await this.screen.settle();
    return asked;
  }

  async choose(axis: 'row' | 'column', id: string, more: MouseEventInit = {}): Promise<void> {
    this.place(axis, id).dispatchEvent(new MouseEvent('mousedown', { bubbles: true, ...more }));
    await this.screen.settle();
  }

  place(axis: 'row' | 'column', id: string): HTMLElement {
    return this.screen.page.querySelector<HTMLElement>(`[data-${axis}="${id}"]`)!;
  }

  async key(key: string, more: KeyboardEventInit = {}): Promise<void> {
    const at = this.screen.page.querySelector<HTMLElement>('[role="grid"]')!;
    at.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    await this.screen.settle();
  }

  async rows(): Promise<Row[]> {
    return (await this.draw()).rowLayout.rows;
  }

  async columns(): Promise<Column[]> {
    return (await this.draw()).columnLayout.columns;
  }

  /** What was saved after the pause in the edits. */
  async saved(): Promise<SaveDrafts> {
    await jest.advanceTimersByTimeAsync(300);
    const { body } = this.screen.reply('/documents/drafts', SAVED, 'PUT').request;
    await this.screen.settle();
    return body as SaveDrafts;
  }

  labels(): string[] {
    return [...this.screen.page.querySelectorAll('tbody .label')].map((each) => each.textContent.trim());
  }
}

beforeAll(() => (Element.prototype.scrollIntoView = () => undefined));

describe('shaping rows', () => {
  it('shows what rows and columns hold beside the figures', async () => {
    const { screen } = await ShapeBed.open(['other']);
    expect([...screen.page.querySelectorAll('tbody .chip')].map((chip) => chip.textContent)).toEqual([
      '4000–4999',
      '6400',
      'Net sales - Energy',
    ]);
    expect([...screen.page.querySelectorAll('thead .rule')].map((rule) => rule.textContent)).toEqual([
      'month',
      'month, last year',
      'Actual less 2025',
    ]);
    expect(screen.byId('subtitle').textContent).toContain('Rows Rows, used by 1 more');
  });

  it('sets properties, of several rows at once, as one step to undo', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'sales');
    await bed.choose('row', 'energy', { shiftKey: true });
    expect(bed.screen.text('ml-row-editor')).toContain('2 rows are selected');
    await bed.screen.choose('Style', 'Total');
    expect((await bed.rows()).map(({ style }) => style)).toEqual(['total', 'total', undefined]);
    await bed.screen.press('Undo');
    expect((await bed.rows()).map(({ style }) => style)).toEqual([undefined, undefined, undefined]);
    await bed.screen.press('Redo');
    expect((await bed.rows())[0]!.style).toBe('total');
  });

  it('takes limits beyond which a variance is an exception, of a row and of all rows', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    await bed.screen.type('Exception beyond, amount', '5000');
    await bed.draw();
    await bed.screen.type('and percent', '2.5');
    expect((await bed.rows())[1]).toMatchObject({ materiality: { amount: 5000, percent: 0.025 } });
    await bed.screen.press('Statement');
    await bed.screen.type('Exception beyond, amount', '900');
    expect((await bed.draw()).rowLayout.materiality).toEqual({ amount: 900, percent: 0 });
  });

  it('adds, moves, groups, duplicates and removes by keys', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    await bed.key('ArrowUp', { altKey: true });
    expect((await bed.rows()).map(({ id }) => id)).toEqual(['energy', 'sales', 'profit']);
    await bed.key('g');
    expect((await bed.rows())[0]).toMatchObject({ kind: 'group', children: [{ id: 'energy' }] });
    await bed.key('Escape'); // its label stays as it is proposed
    await bed.key('z', { ctrlKey: true });
    await bed.draw();
    await bed.choose('row', 'profit');
    await bed.key('d');
    expect((await bed.rows()).at(-1)).toMatchObject({ id: 'profit_2', formula: '{sales} - {energy}' });
    await bed.key('Backspace');
    expect(bed.labels()).toHaveLength(4);
    await bed.key('Delete');
    expect(await bed.rows()).toHaveLength(3);
  });

  it('adds at the foot what is added there, whatever row is selected', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'sales');
    bed.screen.byId('add-row').click();
    await bed.screen.settle();
    document.querySelector<HTMLButtonElement>('.mat-mdc-menu-panel button')!.click();
    await bed.screen.settle();
    await bed.key('Escape');
    const ids = (await bed.rows()).map(({ id }) => id);
    expect([ids.slice(0, 3), ids.length]).toEqual([['sales', 'energy', 'profit'], 4]);
  });

  it('lets Tab go on past the labels and heads, which arrows go over', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    const tab = new KeyboardEvent('keydown', { key: 'Tab', bubbles: true, cancelable: true });
    bed.screen.page.querySelector('[role="grid"]')!.dispatchEvent(tab);
    expect(tab.defaultPrevented).toBe(false);
  });

  it('takes account sets as they are typed, and says what the chart does not know', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    const add = async (text: string) => {
      await bed.screen.type('Add accounts', text);
      bed.screen
        .field('Add accounts')
        .dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
      await bed.screen.settle();
    };
    await add('Turnover');
    expect(bed.screen.text('ml-account-set-field')).toContain('The chart has nothing called “Turnover”');
    await add('65*');
    expect((await bed.rows())[1]).toMatchObject({
      accounts: {
        include: [
          { by: 'account', number: '6400' },
          { by: 'pattern', pattern: '65*' },
        ],
      },
    });
    await bed.screen.press('Remove 6400');
    expect((await bed.rows())[1]).toMatchObject({ accounts: { include: [{ by: 'pattern', pattern: '65*' }] } });
  });

  it('marks what is wrong in a formula, and keeps names as ids', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'profit');
    const field = bed.screen.page.querySelector('textarea')!;
    const type = async (text: string) => {
      field.value = text;
      field.dispatchEvent(new Event('input', { bubbles: true }));
      await bed.screen.settle();
    };
    const before = () => [...bed.screen.page.querySelectorAll('td.before')].map((cell) => cell.textContent.trim());
    expect(before()).toEqual([]);
    await type('Net sales - Powe');
    // the figures from before are marked as such
    expect(before().length).toBeGreaterThan(0);
    expect(bed.screen.page.querySelector('mark')!.textContent).toBe('Powe');
    await type('Net sales / Total assets @ Balance sheet');
    expect((await bed.rows())[2]).toMatchObject({ formula: '{sales} / {sheet.assets}' });
  });

  it('offers what can be done with the selection in a menu, by the other button and in the toolbar', async () => {
    const bed = await ShapeBed.open();
    const labels = () =>
      [...document.querySelectorAll('[role="menuitem"]')].map(({ textContent }) => textContent.trim());
    const count = () => bed.screen.page.querySelectorAll('th[data-row]').length;
    const before = count();
    const row = bed.screen.page.querySelector<HTMLElement>('th[data-row="energy"]')!;
    row.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX: 5, clientY: 5 }));
    await bed.screen.settle();
    expect(labels()).toEqual(expect.arrayContaining(['Put into a total G', 'Move up Alt ↑', 'Delete Del']));
    const item = [...document.querySelectorAll<HTMLElement>('[role="menuitem"]')].find(({ textContent }) =>
      textContent.includes('Duplicate'),
    )!;
    item.click();
    await bed.screen.settle();
    await bed.rows();
    expect(count()).toBe(before + 1);
    expect(bed.screen.byId('selection-acts').textContent).toContain('Row');
  });

  it('places the account without a row by one click', async () => {
    const bed = await ShapeBed.open();
    expect(bed.screen.byId('misplaced-account').textContent).toContain('has no row');
    await bed.screen.press('Add it to Energy');
    expect((await bed.rows())[1]).toMatchObject({ accounts: { include: [{ number: '6400' }, { number: '6510' }] } });
  });
});

describe('shaping columns', () => {
  it('changes a property of several columns at once', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('column', 'now');
    await bed.choose('column', 'ly', { ctrlKey: true });
    await bed.screen.choose('Measure', 'closing');
    expect((await bed.columns()).map((column) => ('measure' in column ? column.measure : ''))).toEqual([
      'closing',
      'closing',
      '',
    ]);
  });

  it('changes spans, anchors and kinds, and removes what reads a removed column', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('column', 'ly');
    await bed.screen.choose('Span', 'year to date');
    expect((await bed.columns())[1]).toMatchObject({ span: 'year_to_date' });
    await bed.screen.choose('Ends at', /last month of the fiscal year/);
    expect((await bed.columns())[1]).toMatchObject({ anchor: 'year_end' });
    await bed.choose('column', 'change');
    await bed.screen.choose('Kind', 'Share');
    expect((await bed.columns())[2]).toMatchObject({ kind: 'share', id: 'change' });
    await bed.choose('column', 'ly');
    await bed.key('ArrowLeft', { altKey: true });
    expect((await bed.columns()).map(({ id }) => id)).toEqual(['ly', 'now', 'change']);
  });
});

describe('keeping', () => {
  it('saves the draft as it is made, and says which others would change before it keeps', async () => {
    const bed = await ShapeBed.open(['other']);
    await bed.choose('row', 'energy');
    await bed.screen.type('Label', 'Power');
    await bed.draw();
    expect(await bed.saved()).toMatchObject({
      drafts: [{ base: 7, document: { rows: [{}, { label: 'Power' }, {}] } }],
      dropped: [],
      steps: [{ how: 'change', changes: [{ before: SAMPLE_ROWS, after: { rows: [{}, { label: 'Power' }, {}] } }] }],
    });
    expect(bed.screen.byId('draft-state').textContent).toContain('Draft saved');
    bed.screen.byId('keep').click();
    await bed.screen.settle();
    expect(document.body.textContent).toContain('is used by 1 other: other');
  });

  it('says that another window has changed the draft, and puts this one over it when told to', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    await bed.screen.type('Label', 'Power');
    await bed.draw();
    await jest.advanceTimersByTimeAsync(300);
    bed.screen.fail('/documents/drafts', 409, { code: 'SRV_DRAFT_CHANGED', message: 'x', hint: 'y', details: [] });
    await bed.screen.settle();
    expect(bed.screen.byId('draft-state').textContent).toContain('changed in another window');
    await bed.screen.press('Save this one over it');
    const newest = { document: SAMPLE_ROWS, base: 7, at: '2026-08-31T16:00:00.000Z', stamp: 'theirs' };
    bed.screen.reply('/documents/statement/income_statement', documentView(SAMPLE_STATEMENT));
    bed.screen.reply('/documents/row_layout/rows', { ...documentView(SAMPLE_ROWS), draft: newest });
    bed.screen.reply('/documents/column_layout/month', documentView(SAMPLE_COLUMNS));
    await bed.screen.settle();
    const { drafts, steps } = await bed.saved();
    expect(drafts).toMatchObject([{ seen: 'theirs', document: { rows: [{}, { label: 'Power' }, {}] } }]);
    expect(steps).toHaveLength(1); // what was not logged goes along
    expect(bed.screen.byId('draft-state').textContent).toContain('Draft saved');
  });

  it('keeps at once what nobody else uses', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    await bed.screen.type('Label', 'Power');
    await bed.draw();
    bed.screen.byId('keep').click();
    await bed.screen.settle();
    const kept = {
      ...SAMPLE_ROWS,
      rows: SAMPLE_ROWS.rows.map((row) => (row.id === 'energy' ? { ...row, label: 'Power' } : row)),
    };
    const { request } = bed.screen.reply(
      '/documents/row_layout/rows/keep',
      { state: 'kept', view: documentView(kept) },
      'POST',
    );
    expect(request.body).toMatchObject({ base: 7, document: { rows: [{}, { label: 'Power' }, {}] } });
  });

  it('says who changed what meanwhile, and keeps both together on the new revision', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    await bed.screen.type('Label', 'Power');
    await bed.draw();
    bed.screen.byId('keep').click();
    await bed.screen.settle();
    const merged = { ...SAMPLE_ROWS, rows: SAMPLE_ROWS.rows.map((row) => ({ ...row, label: `${row.label}!` })) };
    const change = (label: string) => [{ what: 'changed' as const, id: 'x', label, settings: ['label'] }];
    bed.screen.reply(
      '/documents/row_layout/rows/keep',
      {
        state: 'conflict',
        person: 'Ines',
        at: '2026-08-31T16:00:00.000Z',
        base: 9,
        theirs: change('Turnover'),
        mine: change('Power'),
        merged,
        conflicts: [],
      },
      'POST',
    );
    await bed.screen.settle();
    expect(document.body.textContent).toContain('Ines changed Rows meanwhile');
    expect(document.body.textContent).toContain('The two do not touch the same settings.');
    [...document.querySelectorAll('button')]
      .find(({ textContent }) => textContent.includes('Bring both together'))!
      .click();
    await bed.screen.settle();
    await jest.advanceTimersByTimeAsync(500); // the dialog leaves
    const { request } = bed.screen.reply(
      '/documents/row_layout/rows/keep',
      { state: 'kept', view: documentView(merged) },
      'POST',
    );
    expect(request.body).toEqual({ document: merged, base: 9 });
  });
});

describe('undo and redo', () => {
  const energyAs = (label: string) => ({
    ...SAMPLE_ROWS,
    rows: SAMPLE_ROWS.rows.map((row) => (row.id === 'energy' ? { ...row, label } : row)),
  });
  const [powered, gas] = [energyAs('Power'), energyAs('Gas')];
  const earlier: StepsView = [{ action: 'a1', label: 'Rename', at: '2026-08-30T10:00:00.000Z', state: 'done' }];

  it('are logged, and a draft that was undone falls away', async () => {
    const bed = await ShapeBed.open();
    await bed.choose('row', 'energy');
    await bed.screen.type('Label', 'Power');
    await bed.draw();
    const [step] = (await bed.saved()).steps;
    await bed.screen.press('Undo');
    await bed.draw();
    expect(await bed.saved()).toMatchObject({
      drafts: [],
      dropped: [{ kind: 'row_layout', id: 'rows', seen: 'saved' }],
      steps: [{ how: 'undo', of: step!.action, changes: [{ before: powered, after: SAMPLE_ROWS }] }],
    });
  });

  it('reach back to an earlier sitting', async () => {
    const bed = await ShapeBed.open([], earlier);
    await bed.screen.press('Undo');
    bed.screen.reply('/documents/steps/a1', [{ before: gas, after: SAMPLE_ROWS }]);
    await bed.screen.settle();
    expect((await bed.rows())[1]!.label).toBe('Gas');
    await bed.screen.press('Redo');
    expect((await bed.rows())[1]!.label).toBe('Energy');
  });

  it('are refused by name where the same was changed since, and can be passed over', async () => {
    const bed = await ShapeBed.open([], earlier);
    await bed.screen.press('Undo');
    bed.screen.reply('/documents/steps/a1', [{ before: gas, after: powered }]);
    await bed.screen.settle();
    expect(bed.screen.byId('refusal').textContent).toContain('“Rename” is not undone: Energy changed since');
    await bed.screen.press('Go on without it');
    expect(await bed.saved()).toMatchObject({ steps: [{ how: 'pass_over', of: 'a1' }] });
    expect(bed.screen.page.querySelector<HTMLButtonElement>('[aria-label="Undo"]')!.disabled).toBe(true);
  });
});

describe('the statement itself', () => {
  it('takes its look, what readers may change, and proposed rows', async () => {
    const bed = await ShapeBed.open();
    await bed.screen.press('Statement');
    await bed.screen.choose('Zero', '0');
    await bed.draw();
    await bed.screen.type('Title', 'Profit and loss');
    const { document: statement } = await bed.draw();
    expect(statement).toMatchObject({ name: 'Profit and loss', presentation: { zero: 'zero' } });
    await bed.screen.choose('Version', 'Plan FY27');
    expect((await bed.draw()).document.readers).toEqual({ version: { may: true, usual: 'PLAN' } });
    await bed.screen.controls.tick('Readers may change the version');
    expect((await bed.draw()).document.readers).toEqual({ version: { may: false, usual: 'PLAN' } });
    await bed.screen.press('Undo');
    await bed.screen.press('Undo');
    expect((await bed.draw()).document.readers).toBeUndefined();
  });

  it('puts other rows into the statement, and goes back', async () => {
    const bed = await ShapeBed.open();
    await bed.screen.press('Statement');
    await bed.screen.choose('Rows', 'Balance sheet');
    const sheet = {
      ...SAMPLE_ROWS,
      id: 'sheet',
      name: 'Balance sheet',
      rows: [{ kind: 'heading' as const, id: 'h', label: 'Assets' }],
    };
    bed.screen.reply('/documents/row_layout/sheet', documentView(sheet));
    const asked = await bed.draw();
    expect([asked.document.rows, asked.rowLayout.id]).toEqual(['sheet', 'sheet']);
    expect(bed.labels()).toEqual(['Assets']);
    await bed.screen.press('Undo');
    expect((await bed.draw()).document.rows).toBe('rows');
    expect(bed.screen.byId('draft-state').textContent).toBe('As it is kept');
  });
});
