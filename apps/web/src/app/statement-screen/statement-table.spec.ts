import { TestKey } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { currencyUnit } from '../shared/currency-unit';
import { SAMPLE_VIEW } from '../testing/sample-view';
import { StatementTable } from './statement-table';
import { shownTable } from '../statement/statement-view';
import { GridHarness } from '../shared/grid/testing/grid-harness';

@Component({
  selector: 'ml-test-host',
  imports: [StatementTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ml-statement-table
    [table]="table"
    [view]="view"
    [unit]="1"
    [selected]="selected()"
    (select)="selected.set($event)"
    (trace)="traced.set($event)"
    (light)="lit.set($event)"
  />`,
})
class TestHost {
  readonly view = SAMPLE_VIEW;
  readonly table = shownTable(SAMPLE_VIEW, 1, currencyUnit('EUR'));
  readonly selected = signal<string | undefined>(undefined);
  readonly traced = signal<string | undefined>(undefined);
  readonly lit = signal<string | undefined>(undefined);
}

describe('StatementTable', () => {
  beforeAll(() => (Element.prototype.scrollIntoView = () => undefined));

  async function open() {
    const fixture = TestBed.createComponent(TestHost);
    const harness = await TestbedHarnessEnvironment.loader(fixture).getHarness(GridHarness);
    return { fixture, harness, host: fixture.componentInstance };
  }

  it('begins at the first cell below headings', async () => {
    const { harness } = await open();
    await harness.enter();
    expect(await harness.focused()).toBe('1.0');
    expect((await harness.texts()).slice(0, 4)).toEqual(['7,904', '8,412', '508', '6.4']);
  });

  it('names cells by row and column, and skips rows without any', async () => {
    const { harness, host } = await open();
    await harness.enter();
    await harness.press(TestKey.DOWN_ARROW);
    expect(host.selected()).toBe('energy~ly');
    await harness.press(TestKey.UP_ARROW);
    await harness.press(TestKey.UP_ARROW);
    expect(host.selected()).toBe('sales~ly');
    await harness.press(TestKey.END);
    await harness.press(TestKey.RIGHT_ARROW);
    expect(host.selected()).toBe('sales~percent');
  });

  it('traces the cell at which a block began', async () => {
    const { harness, host } = await open();
    await harness.enter();
    await harness.press(TestKey.DOWN_ARROW);
    await harness.press(TestKey.RIGHT_ARROW, { shift: true });
    await harness.press(TestKey.DOWN_ARROW, { shift: true });
    expect((await harness.chosen()).length).toBe(4);
    await harness.press(TestKey.ENTER);
    expect(host.traced()).toBe('energy~ly');
    expect(host.lit()).toBe('ly');
  });
});
