import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { asked } from '../shared/asked';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButtonModule } from '@angular/material/button';
import type { StatementContext, StatementView } from '@margin-lens/contract';
import { whySentence, whySteps } from './why-text';
import { Api } from '../shared/api';
import { Chart } from '../shared/chart';
import { ContextStore } from '../shared/context-store';
import { sparkline } from '../versions-screen/planning-table-view';
import { bridgeBars, cumulatedOption, cutWords, monthsOf, monthsOption, notationWords } from '@margin-lens/core/drawn';

/** Columns that the bridge is read from: to date, or for the year with the forecast for what is to come. */
const BRIDGE_COLUMNS = 'to_date_and_full_year';
const SPANS = [
  { cell: 'ytd_change', name: 'To date' },
  { cell: 'year_change', name: 'Full year' },
] as const;

/** A statement as charts of one row: by month, from plan to actual, and summed up against plan. */
@Component({
  selector: 'ml-charts-view',
  imports: [Chart, MatButtonModule, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './charts-view.html',
  styleUrl: './charts-view.scss',
})
export class ChartsView {
  /** The statement in the columns of charts, and the context it was read in. */
  readonly view = input.required<StatementView>();
  readonly context = input.required<StatementContext>();

  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  protected readonly SPANS = SPANS;
  private readonly unit = computed(() => this.contexts.context()?.unit ?? 1);

  protected readonly rows = computed(() => {
    const view = this.view();
    return view.rows
      .filter(({ cells, opened }) => cells.length > 0 && !opened)
      .map((row) => ({ ...row, line: sparkline(monthsOf(view, row.id)?.now ?? []) }));
  });
  /** The row that is asked for where it is there, else the result: the last row in money. */
  protected readonly row = computed(() => {
    const [asked, rows] = [this.contexts.context()?.chartRow, this.rows()];
    return (
      rows.find(({ id }) => id === asked) ?? rows.findLast(({ cells }) => cells[0]!.unit.kind === 'currency') ?? rows[0]
    );
  });
  protected readonly months = computed(() => {
    const row = this.row();
    return row && monthsOf(this.view(), row.id);
  });
  protected readonly words = computed(() => {
    const months = this.months();
    return months ? notationWords(months) : '';
  });
  protected readonly byMonth = computed(() => {
    const months = this.months();
    return months && monthsOption(months, this.unit());
  });
  protected readonly summed = computed(() => {
    const months = this.months();
    return months?.isFlow ? cumulatedOption(months, this.unit()) : undefined;
  });

  protected readonly span = signal<(typeof SPANS)[number]['cell']>('ytd_change');
  private readonly bridgeQuestion = computed(() => {
    const row = this.row();
    if (!row || !this.months()?.baseName) return undefined;
    const by = row.kind === 'accounts' || row.kind === 'statistic' ? 'accounts' : 'rows';
    return {
      statement: this.view().id,
      request: { ...this.context(), columns: BRIDGE_COLUMNS, cell: `${row.id}~${this.span()}`, by },
      revision: this.view().revision,
    };
  });
  private readonly asking = asked(this.bridgeQuestion, ({ statement, request }) => this.api.why(statement, request));
  protected readonly bridge = this.asking.state;
  protected readonly bridgeChart = computed(() => {
    const { view } = this.bridge();
    return view && !view.problem
      ? {
          option: bridgeBars(whySteps(view), this.unit()),
          height: 8 + 22 * (view.terms.length + 2),
          sentence: [whySentence(view, this.unit()), cutWords(whySteps(view), this.unit())].filter(Boolean).join(' '),
        }
      : undefined;
  });

  constructor() {
    // the address names the row, so that the page can be linked as it stands
    effect(() => {
      const [row, context] = [this.row(), this.contexts.context()];
      if (row && context?.isCharted && context.chartRow !== row.id)
        untracked(() => this.contexts.setCharted(row.id, true));
    });
  }

  protected choose(row: string): void {
    this.contexts.setCharted(row, true);
  }

  protected onKey(event: KeyboardEvent, index: number): void {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const buttons = [...(event.currentTarget as HTMLElement).parentElement!.parentElement!.querySelectorAll('button')];
    const next = buttons[Math.max(0, Math.min(buttons.length - 1, index + step))];
    next?.focus();
    next?.click();
  }
}
