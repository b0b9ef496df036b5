import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { asked } from '../shared/asked';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import type { StatementContext, WhyView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { Chart } from '../shared/chart';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { exactOf, quantityWords, valueEffects, whySentence, whySteps } from '../charts/why-text';
import { bridgeBars, cutWords } from '@margin-lens/core/drawn';
import { inWords, sentenceCase } from '@margin-lens/core/shown';
import { InWordsPipe } from '../shared/in-words-pipe';

/** Before the name of a dimension: asks for price, volume and mix of its values. */
const VOLUME = 'volume:';

/** Why a figure differs from what it is held against: a ranked bridge from one to the other, and a draft sentence. */
@Component({
  selector: 'ml-why',
  imports: [InWordsPipe, Chart, MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>By</mat-label>
      <mat-select [value]="by()" (selectionChange)="by.set($event.value)" data-testid="why-by">
        <mat-option value="accounts">accounts</mat-option>
        <mat-option value="rows">rows of the statement</mat-option>
        @if (hasEntities()) {
          <mat-option value="entities">entities</mat-option>
        }
        @if (hasRates()) {
          <mat-option value="rates">business, rates and group</mat-option>
        }
        @if (varies()) {
          <mat-option value="inputs">volume, price and efficiency</mat-option>
        }
        @for (dimension of dimensions(); track dimension.name) {
          <mat-option [value]="dimension.name">
            {{ dimension.name | inWords }}
          </mat-option>
        }
        @if (counts().length > 0) {
          @for (dimension of dimensions(); track dimension.name) {
            <mat-option [value]="VOLUME + dimension.name">
              price, volume and mix of {{ dimension.name | inWords }}
            </mat-option>
          }
        }
      </mat-select>
    </mat-form-field>
    @if (asked().counted !== undefined) {
      <mat-form-field>
        <mat-label>Counted in</mat-label>
        <mat-select
          [value]="view()?.counted ?? counted()"
          (selectionChange)="counted.set($event.value)"
          data-testid="why-counted"
        >
          @for (each of counts(); track each.number) {
            <mat-option [value]="each.number"> {{ each.name }}, {{ each.unit }} </mat-option>
          }
        </mat-select>
      </mat-form-field>
    }
    @if (answer().error; as error) {
      <p class="issue" role="alert">{{ error.message }} {{ error.hint }}</p>
    } @else if (view(); as view) {
      @if (view.problem; as problem) {
        <p class="thin">{{ problem }}</p>
      } @else {
        <p class="sentence" data-testid="why-sentence">{{ sentence() }}</p>
        @if (cut(); as words) {
          <p class="thin">{{ words }}</p>
        }
        <ml-chart
          class="chart"
          [style.height.px]="30 + 20 * (view.terms.length + 2)"
          [option]="option()!"
          [label]="sentence()"
        />
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
        @if (view.values.length > 0) {
          <table class="values" data-testid="why-values">
            <thead>
              <tr>
                <th scope="col">{{ dimensionName() }}</th>
                @for (effect of effects(); track effect.name) {
                  <th scope="col">{{ effect.name }}</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (value of view.values; track value.label; let at = $index) {
                <tr>
                  <th scope="row">
                    {{ value.label }}<small>{{ quantities(value) }}</small>
                  </th>
                  @for (effect of effects(); track effect.name) {
                    <td>{{ effect.texts[at] }}</td>
                  }
                </tr>
              }
            </tbody>
          </table>
        }
        @if (view.basis) {
          <p class="thin" data-testid="why-basis">{{ view.basis }}</p>
        }
        @if (view.note) {
          <p class="issue">{{ view.note }}</p>
        }
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
      align-content: start;
      padding: 10px 14px;
    }
    p {
      margin: 0;
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--medium);
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
    thead th {
      color: var(--ink-2);
      font-size: var(--small);
    }
    thead th:not(:first-child) {
      text-align: right;
    }
    .values {
      font-size: var(--medium);
    }
    .values td,
    .values thead th:not(:first-child) {
      padding-left: 10px;
      white-space: nowrap;
    }
    small {
      display: block;
      color: var(--ink-2);
      font-size: var(--small);
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
  protected readonly VOLUME = VOLUME;
  protected readonly by = signal('accounts');
  protected readonly counted = signal('');
  /** What is asked for; price, volume and mix by a dimension say what counts, or leave it to the server. */
  protected readonly asked = computed(() =>
    this.by().startsWith(VOLUME)
      ? { by: this.by().slice(VOLUME.length), counted: this.counted() }
      : { by: this.by(), counted: undefined },
  );
  protected readonly dimensions = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.dimensions : [];
  });
  /** Entities are those of the group that the one looked at heads. */
  protected readonly hasEntities = computed(() => {
    const state = this.workspaces.state();
    const { scope } = this.context();
    const heads = ({ code, topEntity }: { code: string; topEntity: string }) => code === scope || topEntity === scope;
    return state.state === 'loaded' && state.workspace.groups.some(heads);
  });
  /** Rates move figures of groups, and those in another currency. */
  protected readonly hasRates = computed(() => {
    const state = this.workspaces.state();
    const { scope, currency } = this.context();
    return (
      currency !== undefined || (state.state === 'loaded' && state.workspace.groups.some(({ code }) => code === scope))
    );
  });
  private readonly question = computed(() => ({
    statement: this.statement(),
    context: this.context(),
    cell: this.cell(),
    asked: this.asked(),
    revision: this.revision(),
  }));
  private readonly asking = asked(this.question, ({ statement, context, cell, asked: { by, counted } }) =>
    this.api.why(statement, { ...context, cell, by, ...(counted !== undefined && { counted }) }),
  );
  protected readonly answer = this.asking.state;
  protected readonly view = computed(() => (this.answer().isLoading ? undefined : this.answer().view));
  protected readonly sentence = computed(() => {
    const view = this.view();
    return view ? whySentence(view, this.contexts.context()?.unit ?? 1) : '';
  });

  protected readonly cut = computed(() => {
    const view = this.view();
    return view ? cutWords(whySteps(view), this.contexts.context()?.unit ?? 1) : '';
  });

  /** Kept while another answer is on its way. */
  protected readonly counts = linkedSignal<WhyView | undefined, WhyView['counts']>({
    source: this.view,
    computation: (view, before) => view?.counts ?? before?.value ?? [],
  });
  protected readonly varies = linkedSignal<WhyView | undefined, boolean>({
    source: this.view,
    computation: (view, before) => view?.varies ?? before?.value ?? false,
  });
  protected readonly dimensionName = computed(() => sentenceCase(inWords(this.asked().by)));
  protected readonly effects = computed(() => {
    const view = this.view();
    return view ? valueEffects(view, this.contexts.context()?.unit ?? 1) : [];
  });

  protected quantities(value: WhyView['values'][number]): string {
    return quantityWords(this.view()!, value);
  }

  protected readonly option = computed(() => {
    const view = this.view();
    return view && bridgeBars(whySteps(view));
  });

  protected exact(amount: number): string {
    return exactOf(this.view()!, amount);
  }
}
