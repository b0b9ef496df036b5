import { TestKey } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { CellInput } from './cell-input';
import { Grid, placeOf } from './grid';
import { GridModel } from './grid-model';
import { spotsOf } from './grid-place';
import { GridHarness } from './testing/grid-harness';

/** Four rows of three cells, the third row words alone; a cell is written into unless it is in the last column. */
@Component({
  selector: 'ml-test-host',
  imports: [CellInput, Grid],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<button type="button">before</button>
    <div [mlGrid]="grid" aria-label="Test">
      @for (row of shown(); track $index; let r = $index) {
        <div role="row">
          @let here = grid.inRow(r);
          @for (text of row; track $index; let c = $index) {
            <span
              role="gridcell"
              tabindex="-1"
              [attr.data-spot]="placeOf(r, c)"
              [class.chosen]="c >= here.left && c <= here.right"
              [class.spot]="c === here.spot"
              >{{ text }}
              @if (c === here.spot && grid.typing()) {
                <input [mlCellInput]="grid" aria-label="Cell" />
              }
            </span>
          }
        </div>
      }
    </div>`,
})
class TestHost {
  readonly rows = signal([['a', 'b', 'c'], ['d', 'e', 'f'], [], ['g', 'h', 'i']]);
  /** Rows that are drawn. */
  readonly drawn = signal(4);
  readonly shown = () => this.rows().slice(0, this.drawn());
  readonly log: string[] = [];
  reveals = 0;
  readonly placeOf = (row: number, column: number) => placeOf({ row, column });
  readonly grid: GridModel = new GridModel(
    {
      rows: () => this.rows().length,
      columns: () => 3,
      stops: (row) => this.rows()[row]!.length > 0,
      reveal: ({ row }) => {
        this.reveals++;
        this.drawn.update((drawn) => Math.max(drawn, row + 1));
      },
    },
    {
      textOf: ({ row, column }) => (column === 2 ? undefined : this.rows()[row]![column]),
      write: (text, block) => {
        const written = new Set(spotsOf(block).map(placeOf));
        this.rows.update((rows) =>
          rows.map((row, r) => row.map((cell, c) => (written.has(placeOf({ row: r, column: c })) ? text : cell))),
        );
      },
      fill: (source, target) => this.log.push(`fill ${source.top}.${source.left} to ${target.bottom}.${target.right}`),
      undo: () => this.log.push('undo'),
    },
  );
}

describe('a grid', () => {
  beforeAll(() => (Element.prototype.scrollIntoView = () => undefined));

  async function open() {
    const fixture = TestBed.createComponent(TestHost);
    document.body.append(fixture.nativeElement as HTMLElement);
    const grid = await TestbedHarnessEnvironment.loader(fixture).getHarness(GridHarness);
    return { fixture, grid, host: fixture.componentInstance };
  }

  it('is one tab stop that hands the keyboard to its first cell, and back to the one it was on', async () => {
    const { fixture, grid } = await open();
    const element = await grid.host();
    expect(await element.getAttribute('tabindex')).toBe('0');
    await grid.enter();
    expect([await grid.focused(), await element.getAttribute('tabindex')]).toEqual(['0.0', '-1']);
    await grid.press(TestKey.RIGHT_ARROW);
    await grid.press(TestKey.DOWN_ARROW);
    (fixture.nativeElement as HTMLElement).querySelector('button')!.focus();
    fixture.detectChanges();
    expect([await grid.focused(), await grid.spot()]).toEqual([null, '1.1']);
    await grid.enter();
    expect(await grid.focused()).toBe('1.1');
  });

  it('moves by arrows, over rows without cells, and stops at its edges', async () => {
    const { grid } = await open();
    await grid.click(1, 0);
    await grid.press(TestKey.DOWN_ARROW);
    expect(await grid.focused()).toBe('3.0');
    await grid.press(TestKey.DOWN_ARROW);
    await grid.press(TestKey.END);
    expect(await grid.focused()).toBe('3.2');
    await grid.press(TestKey.HOME, { control: true });
    await grid.press(TestKey.LEFT_ARROW);
    expect(await grid.focused()).toBe('0.0');
  });

  it('grows a block from the spot, which keeps the keyboard', async () => {
    const { grid } = await open();
    await grid.click(0, 1);
    await grid.press(TestKey.DOWN_ARROW, { shift: true });
    await grid.press(TestKey.LEFT_ARROW, { shift: true });
    expect([await grid.chosen(), await grid.focused()]).toEqual([['0.0', '0.1', '1.0', '1.1'], '0.1']);
    await grid.click(3, 2, { shift: true });
    expect((await grid.chosen()).length).toBe(6);
    await grid.press(TestKey.ESCAPE);
    expect(await grid.chosen()).toEqual(['0.1']);
  });

  it('is typed over, taken by Enter and Tab, and given up by Escape', async () => {
    const { grid } = await open();
    await grid.click(0, 0);
    await grid.type('new', TestKey.ENTER);
    expect([await grid.text(0, 0), await grid.focused()]).toEqual(['new', '1.0']);
    await grid.type('more', TestKey.TAB);
    expect([await grid.text(1, 0), await grid.focused()]).toEqual(['more', '1.1']);
    await grid.type('no', TestKey.ESCAPE);
    expect([await grid.text(1, 1), await grid.focused(), await grid.editor()]).toEqual(['e', '1.1', null]);
    await grid.press(TestKey.RIGHT_ARROW);
    await grid.press('x');
    expect(await grid.editor()).toBeNull(); // cannot be written
  });

  it('opens a cell with its text selected: what is typed next takes its place, also before the input is there', async () => {
    const { fixture, grid, host } = await open();
    await grid.click(0, 0);
    host.grid.type();
    const element = (fixture.nativeElement as HTMLElement).querySelector('[role="grid"]')!;
    for (const key of ['Z', ' ', '?', 'y'])
      element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    fixture.detectChanges();
    await grid.press(TestKey.ENTER);
    expect(await grid.text(0, 0)).toBe('Z ?y');
  });

  it('loses no letter that comes while the input of the cell before is still there', async () => {
    const { fixture, grid } = await open();
    await grid.click(0, 0);
    await grid.press('a');
    const element = fixture.nativeElement as HTMLElement;
    const left = element.querySelector('input')!;
    const typeInto = (target: Element, key: string) =>
      target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    typeInto(left, 'Tab');
    typeInto(left, '0'); // nothing was drawn yet
    left.dispatchEvent(new FocusEvent('blur'));
    typeInto(element.querySelector('[role="grid"]')!, '.');
    fixture.detectChanges();
    await grid.press(TestKey.ENTER);
    expect([await grid.text(0, 0), await grid.text(0, 1)]).toEqual(['a', '0.']);
  });

  it('writes what is typed into all of the block', async () => {
    const { grid } = await open();
    await grid.click(0, 0);
    await grid.click(1, 1, { shift: true });
    await grid.press('s');
    await (await grid.editor())!.sendKeys({ control: true }, TestKey.ENTER);
    expect([await grid.text(0, 1), await grid.text(1, 0), await grid.text(0, 2)]).toEqual(['s', 's', 'c']);
  });

  it('fills from the first row or column of the block, or the one before a single cell', async () => {
    const { grid, host } = await open();
    await grid.click(0, 0);
    await grid.press('d', { control: true });
    await grid.click(1, 1);
    await grid.press('d', { control: true });
    await grid.click(3, 2, { shift: true });
    await grid.press('r', { control: true });
    expect(host.log).toEqual(['fill 0.1 to 1.1', 'fill 1.1 to 3.2']);
  });

  it('goes to cells that are not drawn yet, and keeps the keyboard when its cell goes away', async () => {
    const { fixture, grid, host } = await open();
    host.drawn.set(2);
    await grid.enter();
    await grid.press(TestKey.END, { control: true });
    await fixture.whenStable();
    expect(await grid.focused()).toBe('3.2');
    host.drawn.set(2); // scrolled away
    fixture.detectChanges();
    await fixture.whenStable();
    expect(await (await grid.host()).isFocused()).toBe(true);
    await grid.press(TestKey.LEFT_ARROW);
    await fixture.whenStable();
    expect(await grid.focused()).toBe('3.1');

    // scrolled away and back by hand: the keyboard is on it again, and nothing scrolls by itself
    const before = host.reveals;
    for (const drawn of [2, 4]) {
      host.drawn.set(drawn);
      fixture.detectChanges();
      await fixture.whenStable();
    }
    expect([await grid.focused(), host.reveals]).toEqual(['3.1', before]);
  });

  it('leaves keys of what it does not do to the page', async () => {
    const { grid, host } = await open();
    await grid.click(0, 0);
    const keys: string[] = [];
    const hear = (event: Event) => keys.push((event as KeyboardEvent).key);
    document.addEventListener('keydown', hear);
    await grid.press('y', { control: true }); // it has no redo
    await grid.press('z', { control: true });
    await grid.press('?');
    await grid.press(TestKey.TAB, { shift: true }); // out of the first cell
    document.removeEventListener('keydown', hear);
    expect([keys, host.log]).toEqual([['y', '?', 'Tab'], ['undo']]);
  });
});
