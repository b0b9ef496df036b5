import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject } from 'rxjs';
import type { StatementContext, WhyView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { Chart, type ChartOption } from '../shared/chart';
import { CHART_FRAME } from '../shared/chart-notation';
import { ContextStore } from '../shared/context-store';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from '../shared/latest-answer';
import { WorkspaceStore } from '../shared/workspace-store';
import { exactOf, whySentence } from './why-text';

const FAVOUR_COLOURS = { favourable: '#12706b', adverse: '#b04a1f' } as const;
const INK = '#22282b';
const SECOND_INK = '#5a6165';

/** Why a figure differs from what it is held against: a ranked bridge from one to the other, and a draft sentence. */
@Component({
  selector: 'ml-why',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      By
      <select class="field" #choice (change)="by.set(choice.value)" data-testid="why-by">
        <option value="accounts" [selected]="by() === 'accounts'">accounts</option>
        @for (dimension of dimensions(); track dimension.name) {
          <option [value]="dimension.name" [selected]="by() === dimension.name">
            {{ dimension.name.replaceAll('_', ' ') }}
          </option>
        }
      </select>
    </label>
    @if (answer().error; as error) {
      <p class="issue" role="alert">{{ error.message }} {{ error.hint }}</p>
    } @else if (view(); as view) {
      @if (view.problem; as problem) {
        <p class="thin">{{ problem }}</p>
      } @else {
        <p class="sentence" data-testid="why-sentence">{{ sentence() }}</p>
        <ml-chart class="chart" [style.height.px]="30 + 20 * (view.terms.length + 2)" [option]="option()!" [label]="sentence()" />
        <table>
          <tbody>
            <tr>
              <th scope="row">{{ view.base }}</th>
              <td>{{ exact(view.from) }}</td>
            </tr>
            @for (term of view.terms; track term.id) {
              <tr data-testid="why-term">
                <th scope="row">{{ term.label }}</th>
                <td class="{{ term.favour }}">{{ exact(term.amount) }}</td>
              </tr>
            }
            <tr class="result">
              <th scope="row">{{ view.of }}</th>
              <td>{{ exact(view.to) }}</td>
            </tr>
          </tbody>
        </table>
        <p class="thin">
          The steps add up exactly.{{ view.folded > 0 ? ' All else holds ' + view.folded + ' small ones.' : '' }}
        </p>
      }
    } @else {
      <p class="thin">Looking for what explains it…</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      padding: 10px 14px;
    }
    label {
      display: grid;
      gap: 3px;
      color: var(--ink-2);
      font-size: 13px;
    }
    p {
      margin: 0;
    }
    .thin {
      color: var(--ink-2);
      font-size: 13px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-variant-numeric: tabular-nums;
    }
    th {
      padding: 3px 6px 3px 0;
      border-bottom: 1px solid var(--rule);
      font-weight: 400;
      text-align: left;
    }
    td {
      padding: 3px 0;
      border-bottom: 1px solid var(--rule);
      text-align: right;
    }
    .result th,
    .result td {
      border-top: 1px solid var(--ink);
      font-weight: 600;
    }
    .favourable {
      color: var(--favourable);
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class Why {
  readonly statement = input.required<string>();
  readonly context = input.required<StatementContext>();
  /** `row~column` of a difference. */
  readonly cell = input.required<string>();
  readonly revision = input.required<number>();

  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly by = signal('accounts');
  protected readonly dimensions = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.dimensions : [];
  });
  private readonly retries = new BehaviorSubject<void>(undefined);
  private readonly question = computed(() => ({
    statement: this.statement(),
    context: this.context(),
    cell: this.cell(),
    by: this.by(),
    revision: this.revision(),
  }));
  protected readonly answer = toSignal(
    latestAnswer(questionsOf(toObservable(this.question), this.retries), ({ statement, context, cell, by }) =>
      this.api.why(statement, context, cell, by),
    ),
    { initialValue: NO_ANSWER as Answer<WhyView> },
  );
  protected readonly view = computed(() => (this.answer().isLoading ? undefined : this.answer().view));
  protected readonly sentence = computed(() => {
    const view = this.view();
    return view ? whySentence(view, this.contexts.context()?.unit ?? 1) : '';
  });

  protected exact(amount: number): string {
    return exactOf(this.view()!, amount);
  }

  /** A bridge lying on its side: each step stands where the one before ended. */
  protected readonly option = computed((): ChartOption | undefined => {
    const view = this.view();
    if (!view) return undefined;
    const steps = [
      { label: view.base, from: 0, to: view.from, colour: SECOND_INK },
      ...view.terms.map(({ label, amount, favour }, at) => {
        const from = view.terms.slice(0, at).reduce((sum, term) => sum + term.amount, view.from);
        return { label, from, to: from + amount, colour: favour ? FAVOUR_COLOURS[favour] : SECOND_INK };
      }),
      { label: view.of, from: 0, to: view.to, colour: INK },
    ].reverse();
    const ends = view.terms.reduce((all, { amount }) => [...all, all.at(-1)! + amount], [view.from]);
    const span = Math.max(...ends) - Math.min(...ends);
    // the ends are cut off where the steps would be too small to see
    const least = Math.min(...ends) > span * 3 ? Math.min(...ends) - span * 0.4 : undefined;
    const most = Math.max(...ends) < -span * 3 ? Math.max(...ends) + span * 0.4 : undefined;
    const start = least ?? most ?? 0;
    return {
      ...CHART_FRAME,
      grid: { left: 4, right: 8, top: 2, bottom: 2, containLabel: true },
      xAxis: { type: 'value', show: false, ...(least !== undefined && { min: least }), ...(most !== undefined && { max: most }) },
      yAxis: {
        type: 'category',
        data: steps.map(({ label }) => label),
        axisTick: { show: false },
        axisLine: { show: false },
        axisLabel: { fontSize: 11, color: INK, width: 120, overflow: 'truncate' },
      },
      series: [
        {
          type: 'custom',
          encode: { x: [1, 2], y: 0 },
          data: steps.map(({ from, to, colour }, at) => ({ value: [at, from === 0 ? start : from, to], itemStyle: { color: colour } })),
          renderItem: (_params: unknown, api: BridgeApi) => {
            const [a, b] = [api.coord([api.value(1), api.value(0)]), api.coord([api.value(2), api.value(0)])];
            const x = Math.min(a[0], b[0]);
            return { type: 'rect', shape: { x, y: a[1] - 6, width: Math.max(1, Math.abs(b[0] - a[0])), height: 12 }, style: { fill: api.visual('color') } };
          },
        },
      ],
    };
  });
} // prettier-ignore

/** What the drawing of one step is given. */
interface BridgeApi {
  value(dimension: number): number;
  coord(point: [number, number]): [number, number];
  visual(name: 'color'): string;
}
