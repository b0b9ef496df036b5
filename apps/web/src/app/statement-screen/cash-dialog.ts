import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { exactFigure } from '@margin-lens/core/shown';
import type { Underived } from '@margin-lens/core';
import type { CashBasisQuery, CashOfEntity } from '@margin-lens/contract';
import { asked } from '../shared/asked';
import { Choice } from '../shared/choice';
import { currencyUnit } from '../shared/currency-unit';
import { CashApi } from './cash-api';

export type CashQuestion = Pick<CashBasisQuery, 'scope' | 'as_at'> & { month: string };

const REASONS: Record<Underived, string> = {
  unknown: 'settles no document that is known',
  before: 'settles documents of the opening balance',
  ahead: 'paid before the document came',
  joined: 'documents that cannot be told apart',
};

interface Line {
  label: string;
  note: string;
  amount: string;
  kind: 'head' | 'part' | 'sum';
}

/** From the result on the cash basis to the movement of the cash accounts, entity by entity, and what could not be derived. */
@Component({
  selector: 'ml-cash-dialog',
  imports: [Choice, MatButtonModule, MatButtonToggleModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>From the result to cash</h2>
    <mat-dialog-content>
      <div class="asked">
        <mat-button-toggle-group aria-label="Span" [value]="span()" (change)="span.set($event.value)">
          <mat-button-toggle value="period">{{ question.month }}</mat-button-toggle>
          <mat-button-toggle value="year_to_date">Year to date</mat-button-toggle>
        </mat-button-toggle-group>
        @if (entities().length > 1) {
          <ml-choice
            label="Entity"
            [value]="entity()?.entity"
            [choices]="choices()"
            (chosen)="chosen.set($event)"
            data-testid="cash-entity"
          />
        }
      </div>
      @if (state().error; as error) {
        <p class="adverse" role="alert">{{ error.message }} {{ error.hint }}</p>
      }
      @if (entity(); as entity) {
        <table data-testid="cash-proof">
          <caption>
            {{
              entity.name
            }},
            {{
              entity.currency
            }}. An increase of what others owe, or of other assets, takes cash; what is owed to others brings it.
          </caption>
          @for (line of lines(); track $index) {
            <tr [class]="line.kind">
              <th scope="row">
                {{ line.label }}
                @if (line.note) {
                  <span class="thin">{{ line.note }}</span>
                }
              </th>
              <td>{{ line.amount }}</td>
            </tr>
          }
        </table>
        <p [class.adverse]="entity.difference !== 0" data-testid="cash-agrees">
          @if (entity.difference === 0) {
            Agrees with the movement of the cash accounts.
          } @else {
            The cash accounts moved by {{ amount(entity.difference) }} more than that: a journal does not balance.
          }
        </p>
      } @else if (state().isLoading) {
        <p class="thin">Deriving…</p>
      } @else if (!state().error) {
        <p class="thin">No entity counts in that span.</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="filled" type="button" mat-dialog-close cdkFocusInitial>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    .asked {
      display: flex;
      align-items: center;
      gap: 12px;
      margin-bottom: 8px;
    }
    .thin,
    caption {
      color: var(--ink-2);
      font-size: var(--small);
    }
    caption {
      padding-bottom: 6px;
      text-align: left;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      padding: 2px 0;
      font-weight: 400;
      text-align: left;
    }
    .part th {
      padding-left: 14px;
    }
    td {
      padding: 2px 0 2px 12px;
      text-align: right;
      white-space: nowrap;
      font-variant-numeric: tabular-nums;
    }
    tr {
      border-bottom: 1px solid var(--rule);
    }
    .head {
      color: var(--ink-2);
    }
    .head th {
      padding-top: 8px;
      font-size: var(--small);
      font-weight: 600;
    }
    .sum th,
    .sum td {
      font-weight: 600;
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class CashDialog {
  protected readonly question = inject<CashQuestion>(MAT_DIALOG_DATA);
  private readonly api = inject(CashApi);

  protected readonly span = signal<'period' | 'year_to_date'>('year_to_date');
  protected readonly chosen = signal<string | undefined>(undefined);
  private readonly query = computed((): CashBasisQuery => {
    const { scope, as_at } = this.question;
    return { scope, as_at, span: this.span() };
  });
  protected readonly state = asked(this.query, (query) => this.api.read(query)).state;
  protected readonly entities = computed(() => this.state().view?.entities ?? []);
  protected readonly entity = computed(
    () => this.entities().find(({ entity }) => entity === this.chosen()) ?? this.entities()[0],
  );
  protected readonly choices = computed(() => this.entities().map(({ entity, name }) => ({ value: entity, name })));
  protected readonly lines = computed(() => {
    const entity = this.entity();
    return entity ? this.linesOf(entity) : [];
  });

  protected amount(amount: number): string {
    return exactFigure({ amount, unit: currencyUnit(this.entity()!.currency) });
  }

  private linesOf({ result, documents, others, cash, isHeld }: CashOfEntity): Line[] {
    const line = (kind: Line['kind'], label: string, amount?: number, note = ''): Line => {
      return { kind, label, note, amount: amount === undefined ? '' : this.amount(amount) };
    };
    const changed = result.cash - result.accrual;
    return [
      line('part', 'Result, accrual without adjustments', result.accrual),
      line(
        'part',
        isHeld ? 'Entries of the cash basis' : 'Documents not yet settled, and settled of earlier months',
        changed,
      ),
      line('sum', 'Result on the cash basis', result.cash),
      ...(documents.length > 0 ? [line('head', 'Documents that could not be derived')] : []),
      ...documents.flatMap(({ account, name, reasons }) =>
        reasons.map(({ reason, amount }) => line('part', `${account} ${name}`, -amount, REASONS[reason])),
      ),
      ...(others.length > 0 ? [line('head', 'Other balances, as they were posted')] : []),
      ...others.map(({ account, name, amount }) => line('part', `${account} ${name}`, -amount)),
      line('sum', 'Movement of the cash accounts', cash),
    ];
  }
}
