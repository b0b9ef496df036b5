import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Sheet } from './sheet';
import { SheetDraft } from './sheet-draft';
import type { SheetColumn } from './sheet-model';

const COLUMNS: SheetColumn[] = [
  { name: 'number', label: 'Number', at: 0, width: '80px', isKey: true },
  { name: 'name', label: 'Name', at: 1, width: 'minmax(100px, 1fr)' },
  { name: 'nature', label: 'Nature', at: 2, width: '80px', choices: ['asset', 'income'] },
  { name: 'balance', label: 'Balance', at: -1, width: '80px', shows: ({ cells }) => `of ${cells[0]}` },
];

describe('Sheet', () => {
  let fixture: ComponentFixture<Sheet>;
  let draft: SheetDraft;
  const element = () => fixture.nativeElement as HTMLElement;
  const grid = () => element().querySelector<HTMLElement>('[role="grid"]')!;
  const cells = () => draft.rows().map((row) => row.cells.join('|'));
  const settle = async () => {
    fixture.detectChanges();
    await fixture.whenStable();
  };
  const key = async (name: string, more: KeyboardEventInit = {}, target: HTMLElement = grid()) => {
    target.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true, ...more }));
    await settle();
  };
  const editor = () => element().querySelector<HTMLInputElement>('[data-spot] input');
  /** Writes into the open cell, and takes it or gives it up. */
  const write = async (text: string, name: string, more: KeyboardEventInit = {}) => {
    editor()!.value = text;
    editor()!.dispatchEvent(new Event('input'));
    await key(name, more, editor()!);
  };
  const clipboard = async (type: 'copy' | 'cut' | 'paste', text = ''): Promise<string> => {
    let held = text;
    const event = new Event(type, { bubbles: true, cancelable: true });
    Object.assign(event, { clipboardData: { getData: () => held, setData: (_: string, put: string) => (held = put) } });
    grid().dispatchEvent(event);
    await settle();
    return held;
  };

  beforeEach(async () => {
    // jsdom has no layout: a height by which rows are drawn
    Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, get: () => 480 });
    HTMLElement.prototype.scrollIntoView = () => undefined;
    HTMLElement.prototype.scrollTo = (() => undefined) as never;
    draft = new SheetDraft();
    draft.reset([
      ['1', 'Cash', 'asset'],
      ['2', 'Land', 'asset'],
      ['4', 'Sales', 'income'],
    ]);
    fixture = TestBed.createComponent(Sheet);
    for (const [name, value] of Object.entries({ draft, columns: COLUMNS, label: 'Accounts', cellCount: 3 }))
      fixture.componentRef.setInput(name, value);
    await settle();
  });

  it('is typed over, cell after cell; what is typed before the field is open is not lost', async () => {
    await key('ArrowRight');
    grid().dispatchEvent(new KeyboardEvent('keydown', { key: 'P', bubbles: true }));
    grid().dispatchEvent(new KeyboardEvent('keydown', { key: 'e', bubbles: true }));
    await settle();
    expect(editor()!.value).toBe('Pe');
    await write('Petty cash', 'Enter');
    expect(cells()[0]).toBe('1|Petty cash|asset');
    await key('F2');
    expect(editor()!.value).toBe('Land');
    await write('given up', 'Escape');
    expect(cells()[1]).toBe('2|Land|asset');
  });

  it('keeps what names a saved row, and what is only shown', async () => {
    await key('9');
    expect(editor()).toBeNull();
    await key('End');
    await key('Delete');
    expect(cells()).toEqual(['1|Cash|asset', '2|Land|asset', '4|Sales|income']);
  });

  it('writes into all selected cells, fills down, clears, and takes each step back', async () => {
    await key('ArrowRight');
    await key('ArrowDown', { shiftKey: true });
    await key('d', { ctrlKey: true });
    expect(cells().slice(0, 2)).toEqual(['1|Cash|asset', '2|Cash|asset']);
    await key('F2');
    await write('Same', 'Enter', { ctrlKey: true });
    expect(cells().slice(0, 2)).toEqual(['1|Same|asset', '2|Same|asset']);
    await key('Delete');
    expect(cells().slice(0, 2)).toEqual(['1||asset', '2||asset']);
    for (const _ of [1, 2, 3]) await key('z', { ctrlKey: true });
    expect(cells()[1]).toBe('2|Land|asset');
    await key('z', { ctrlKey: true, shiftKey: true });
    expect(cells()[1]).toBe('2|Cash|asset');
  });

  it('takes a block from a spreadsheet, also behind the last row, and gives one back', async () => {
    await key('ArrowDown', { ctrlKey: true });
    await clipboard('paste', '5\tRent\tincome\n6\tGas\tincome\n');
    expect(cells().slice(3)).toEqual(['5|Rent|income', '6|Gas|income']);
    await key('Home', { ctrlKey: true });
    await key('ArrowDown', { shiftKey: true });
    await key('ArrowRight', { shiftKey: true });
    expect(await clipboard('copy')).toBe('1\tCash\n2\tLand\n');
    await clipboard('cut');
    expect(cells().slice(0, 2)).toEqual(['1||asset', '2||asset']);
  });

  it('filters by any column, also by what is only shown, and keeps a row while it is changed', async () => {
    const filter = element().querySelector<HTMLInputElement>('input[aria-label="Filter by Nature"]')!;
    filter.value = 'INC';
    filter.dispatchEvent(new Event('input'));
    await settle();
    expect(fixture.componentInstance.visible().map((row) => row.cells[0])).toEqual(['4']);
    draft.edit([{ row: draft.rows()[2]!, column: 2, text: 'asset' }]);
    await settle();
    expect(fixture.componentInstance.visible().map((row) => row.cells[0])).toEqual(['4']);
    fixture.componentRef.setInput('filters', { balance: 'of 2' });
    await settle();
    expect(fixture.componentInstance.visible().map((row) => row.cells[0])).toEqual(['2']);
  });

  it('marks what is wrong where it is, and says it on the cell', async () => {
    const id = draft.rows()[1]!.id;
    fixture.componentRef.setInput('problems', new Map([[id, new Map([['name', 'There is such a name already.']])]]));
    await settle();
    const wrong = element().querySelectorAll<HTMLElement>('.wrong');
    expect([wrong.length, wrong[0]!.title, wrong[0]!.textContent!.trim()]).toEqual([
      1,
      'There is such a name already.',
      'Land',
    ]);
  });

  it('tells which rows are selected, for what is done with whole rows', async () => {
    await key('ArrowDown');
    await key('ArrowDown', { shiftKey: true });
    const ids = draft.rows().map(({ id }) => id);
    expect([...fixture.componentInstance.selectedIds()]).toEqual([ids[1], ids[2]]);
    await key('a', { ctrlKey: true });
    expect(fixture.componentInstance.selectedIds().size).toBe(3);
    // all rows there are, and not the empty one behind them
    expect((await clipboard('copy')).split('\n')).toHaveLength(4);
    await key('d', { ctrlKey: true });
    expect(draft.rows()).toHaveLength(3);
  });
});
