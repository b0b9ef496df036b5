import { TestKey } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { currencyUnit } from '../shared/currency-unit';
import { SAMPLE_VIEW } from '../testing/sample-view';
import { StatementTable } from './statement-table';
import { shownTable } from '../statement/statement-view';
import { StatementTableHarness } from './testing/statement-table-harness';

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
    const harness = await TestbedHarnessEnvironment.loader(fixture).getHarness(StatementTableHarness);
    return { fixture, harness, host: fixture.componentInstance };
  }

  it('is one tab stop, at the first cell below headings', async () => {
    const { harness } = await open();
    expect(await harness.entry()).toBe('1.0');
    expect((await harness.texts()).slice(0, 4)).toEqual(['7,904', '8,412', '508', '6.4']);
  });

  it('moves by arrows, skips rows without cells, and stops at the edges', async () => {
    const { harness, host } = await open();
    await harness.press(TestKey.DOWN_ARROW);
    expect(host.selected()).toBe('energy~ly');
    await harness.press(TestKey.UP_ARROW);
    await harness.press(TestKey.UP_ARROW);
    expect(host.selected()).toBe('sales~ly');
    await harness.press(TestKey.END);
    await harness.press(TestKey.RIGHT_ARROW);
    expect(host.selected()).toBe('sales~percent');
  });

  it('selects a block with Shift and traces with Enter', async () => {
    const { harness, host } = await open();
    await harness.press(TestKey.DOWN_ARROW);
    await harness.press(TestKey.RIGHT_ARROW, true);
    await harness.press(TestKey.DOWN_ARROW, true);
    expect(await harness.chosen()).toBe(4);
    await harness.press(TestKey.ENTER);
    expect(host.traced()).toBe('margin~now');
    expect(host.lit()).toBe('now');
  });
});
