import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { asked } from '../shared/asked';
import type { StatementContext } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { Chart } from '../shared/chart';
import { ContextStore } from '../shared/context-store';
import { cumulatedOption, monthsOf, monthsOption, notationWords } from '@margin-lens/core/drawn';
import { CHART_COLUMNS } from '@margin-lens/core/shown';

/** A row over the months of the year beside what it is compared with, and both summed up. */
@Component({
  selector: 'ml-row-chart',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (answer().error; as error) {
      <p class="issue" role="alert">{{ error.message }} {{ error.hint }}</p>
    } @else if (months(); as months) {
      <h3>{{ months.label }} by month</h3>
      <p class="thin">{{ words() }}</p>
      <ml-chart class="chart" [option]="byMonth()!" [label]="months.label + ' by month against ' + months.baseName" />
      @if (months.isFlow) {
        <h3>Summed up over the year</h3>
        <ml-chart class="chart" [option]="summed()!" [label]="months.label + ' summed up against ' + months.baseName" />
      }
    } @else {
      <p class="thin">{{ answer().isLoading ? 'Drawing…' : 'This row has no figures to draw.' }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 10px 14px;
    }
    h3 {
      margin: 6px 0 2px;
      font: 600 var(--text) / 1.3 var(--sans);
    }
    .thin {
      margin: 0;
      color: var(--ink-2);
      font-size: var(--medium);
    }
    .chart {
      height: 190px;
      margin-bottom: 8px;
    }
  `,
})
export class RowChart {
  readonly statement = input.required<string>();
  readonly context = input.required<StatementContext>();
  readonly row = input.required<string>();
  readonly revision = input.required<number>();

  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly question = computed(() => ({
    statement: this.statement(),
    context: { ...this.context(), columns: CHART_COLUMNS },
    revision: this.revision(),
  }));
  private readonly asking = asked(this.question, ({ statement, context }) => this.api.statement(statement, context));
  protected readonly answer = this.asking.state;
  protected readonly months = computed(() => {
    const { view } = this.answer();
    return view && monthsOf(view, this.row());
  });
  protected readonly words = computed(() => notationWords(this.months()!));
  protected readonly byMonth = computed(() => {
    const months = this.months();
    return months && monthsOption(months);
  });
  protected readonly summed = computed(() => {
    const months = this.months();
    return months && cumulatedOption(months, this.contexts.context()?.unit ?? 1);
  });
}
