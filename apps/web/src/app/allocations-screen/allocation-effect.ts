import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { AllocationEffectView } from '@margin-lens/contract';
import { exactFigure } from '@margin-lens/core/shown';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';

/** What an allocation that is kept does in the year so far: by value, what each step gives and takes. */
@Component({
  selector: 'ml-allocation-effect',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      What it does <span class="thin">{{ says() }}</span>
    </h2>
    @if (isGroup()) {
      <p class="thin" data-testid="of-group">Costs are spread within each entity: choose one as the scope to see it.</p>
    } @else if (state().error; as error) {
      <p class="adverse" role="alert">{{ error.message }} {{ error.hint }}</p>
    } @else if (table(); as table) {
      @for (gap of table.gaps; track gap) {
        <p class="adverse" data-testid="unspread">! {{ gap }}</p>
      }
      <table data-testid="effect">
        <thead>
          <tr>
            <th scope="col">{{ isOverEntities() ? 'Entity' : 'Value' }}</th>
            <th scope="col" class="number">Posted</th>
            @for (step of table.steps; track step.id) {
              <th scope="col" class="number" [title]="step.name">{{ step.name }}</th>
            }
            <th scope="col" class="number">After</th>
          </tr>
        </thead>
        <tbody>
          @for (row of table.rows; track row.name) {
            <tr [class.total]="row.isTotal">
              <th scope="row">{{ row.name }}</th>
              @for (cell of row.cells; track $index) {
                <td class="number">{{ cell }}</td>
              }
            </tr>
          }
        </tbody>
      </table>
    } @else {
      <p class="thin">Spreading the costs…</p>
    }
  `,
  styleUrls: ['../shared/listing.scss', './allocations-screen.scss'],
})
export class AllocationEffect {
  readonly allocation = input.required<string>();
  /** Changes with what is kept. */
  readonly revision = input.required<number>();

  /** Whether it spreads over entities, which are told whatever is looked at. */
  readonly isOverEntities = input(false);

  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);

  /** Whether it spreads within each of several entities that are looked at. */
  protected readonly isGroup = computed(
    () => !this.isOverEntities() && 'topEntity' in (this.contexts.context()?.scope ?? {}),
  );
  private readonly question = computed(() => {
    const context = this.contexts.context();
    if (!context || this.isGroup()) return undefined;
    return {
      id: this.allocation(),
      revision: this.revision(),
      query: { scope: context.scope.code, as_at: asAtText(context.asAt) },
    };
  });
  private readonly asking = asked(this.question, ({ id, query }) => this.api.allocationEffect(id, query));
  protected readonly state = this.asking.state;
  protected readonly says = computed(() => {
    const { view } = this.state();
    return view && !this.isGroup() ? `${view.scope.name} · ${view.scope.currency} · ${view.span}` : '';
  });

  protected readonly table = computed(() => {
    const { view } = this.state();
    if (!view) return undefined;
    const { currency: code, digits } = view.scope;
    const money = (amount: number) =>
      amount === 0 ? '–' : exactFigure({ amount, unit: { kind: 'currency', code, digits } });
    const total = (of: (value: AllocationEffectView['values'][number]) => number) =>
      view.values.reduce((sum, value) => sum + of(value), 0);
    const unassigned =
      view.unassigned === 0
        ? []
        : [
            {
              name: 'Without a value',
              isTotal: false,
              cells: [money(view.unassigned), ...view.steps.map(() => '–'), money(view.unassigned)],
            },
          ];
    const whole = money(total(({ posted }) => posted) + view.unassigned);
    return {
      steps: view.steps,
      gaps: view.steps
        .filter(({ unspread }) => unspread.length > 0)
        .map(({ name, unspread }) => `${name} has no key in ${unspread.join(', ')}: its costs stay where they are.`),
      rows: [
        ...view.values.map(({ name, posted, moved, after }) => ({
          name,
          isTotal: false,
          cells: [money(posted), ...moved.map(money), money(after)],
        })),
        ...unassigned,
        {
          name: 'Total',
          isTotal: true,
          cells: [whole, ...view.steps.map((_, at) => money(total(({ moved }) => moved[at]!))), whole],
        },
      ],
    };
  });
}
