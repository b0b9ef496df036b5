import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { inWords, sentenceCase } from '@margin-lens/core/shown';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EmptyState } from '../shared/empty-state';
import { percentOf } from '../shared/percent-of';
import { Screen } from '../shared/screen';
import { NO_LINES } from './ledger-text';

/** How far below what is usual in its row a month stands out. */
const STANDS_OUT = 0.05; // 0.01 to 0.2

/** How much of what was posted carries a value of each dimension, month by month, with the way to the lines that carry none. */
@Component({
  selector: 'ml-completeness-screen',
  imports: [EmptyState, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ml-screen
      heading="Completeness"
      [says]="says()"
      reading="Looking at what postings carry"
      [isLoading]="state().isLoading"
      [error]="state().error"
      (retry)="retry()"
    >
      @if (state().view; as view) {
        <div class="scroll" tabindex="0" role="group" aria-label="Completeness of dimensions">
          @for (entity of entities(); track entity.code) {
            <h2>{{ entity.name }}</h2>
            <table [attr.data-testid]="'of-' + entity.code">
              <thead>
                <tr>
                  <th scope="col">Dimension</th>
                  @for (month of view.months; track month.key) {
                    <th scope="col" class="number" [title]="month.name">{{ month.short }}</th>
                  }
                </tr>
              </thead>
              <tbody>
                @for (row of entity.rows; track row.name) {
                  <tr>
                    <th scope="row">{{ row.label }}</th>
                    @for (cell of row.cells; track $index) {
                      <td class="number">
                        @if (cell.lines; as lines) {
                          <a
                            routerLink="/ledger/lines"
                            [queryParams]="lines"
                            queryParamsHandling="merge"
                            [class.adverse]="cell.isLow"
                            [title]="cell.title"
                            >{{ cell.text }}</a
                          >
                        } @else {
                          <span class="thin">{{ cell.text }}</span>
                        }
                      </td>
                    }
                  </tr>
                }
              </tbody>
            </table>
          } @empty {
            <ml-empty-state
              heading="There are no dimensions"
              says="Postings carry no values that could be incomplete."
            />
          }
        </div>
      }
    </ml-screen>
  `,
  styleUrls: ['../shared/screen-frame.scss', '../shared/listing.scss'],
  styles: `
    h2 {
      margin: 12px 0 2px;
      font: 600 var(--medium) / 1.3 var(--sans);
    }
    a {
      color: inherit;
      text-decoration: none;

      &:hover,
      &:focus-visible {
        text-decoration: underline;
      }
    }
    a.adverse {
      color: var(--adverse);
    }
  `,
})
export class CompletenessScreen {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);

  private readonly question = computed(() => {
    const context = this.contexts.context();
    return context && { scope: context.scope.code, as_at: asAtText(context.asAt) };
  });
  private readonly asking = asked(this.question, (query) => this.api.completeness(query));
  protected readonly state = this.asking.state;

  protected readonly says = computed(() => {
    const { view } = this.state();
    const [first, last] = [view?.months[0], view?.months.at(-1)];
    return view && first && last
      ? `${view.scope.name} · percent of debits and credits on income and expense accounts that carry a value · ${first.name} – ${last.name} · what stands out is marked`
      : '';
  });
  protected readonly entities = computed(() => {
    const { view } = this.state();
    if (!view) return [];
    return view.entities
      .filter(({ dimensions }) => dimensions.length > 0)
      .map(({ code, name, dimensions }) => ({
        ...{ code, name },
        rows: dimensions.map((dimension) => ({
          name: dimension.name,
          label: sentenceCase(inWords(dimension.name)),
          cells: dimension.months.map((part, at) => ({
            ...this.cell(part, dimension.posted?.[at], code, dimension.name, view.months[at]!),
            isLow: part !== null && part < usual(dimension.months) - STANDS_OUT,
          })),
        })),
      }));
  });

  protected retry(): void {
    this.asking.again();
  }

  private cell(
    part: number | null,
    posted: number | null | undefined,
    entity: string,
    dimension: string,
    month: { key: string; name: string },
  ) {
    if (part === null) return { text: '–', title: '', lines: undefined };
    const percent = percentOf(part);
    const asPosted =
      typeof posted === 'number' && posted !== part ? `; ${percentOf(posted)} as posted, the rest by rule` : '';
    const lines = { ...NO_LINES, scope: entity, from: month.key, to: month.key, dim: `${dimension}=` };
    return {
      text: percent,
      title: `Lines of ${month.name} without ${inWords(dimension)}${asPosted}`,
      lines: part >= 1 && posted === undefined ? undefined : lines,
    };
  }
}

/** The median of the months that have postings. */
function usual(months: readonly (number | null)[]): number {
  const parts = months.flatMap((part) => part ?? []).sort((a, b) => a - b);
  return parts[Math.floor(parts.length / 2)] ?? 0;
}
