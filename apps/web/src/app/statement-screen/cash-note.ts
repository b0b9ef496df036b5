import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { formatFigure } from '@margin-lens/core/shown';
import type { CashOfEntity } from '@margin-lens/contract';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { currencyUnit } from '../shared/currency-unit';
import { CashApi } from './cash-api';
import { CashDialog, type CashQuestion } from './cash-dialog';

/** Entities that are named one by one. */
const NAMED = 2;

/** Says of a statement on the cash basis how it was come by, and how much could not be derived. */
@Component({
  selector: 'ml-cash-note',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status" data-testid="cash-note">
      {{ says() }}
      <button matButton type="button" class="plain" (click)="open()" data-testid="open-cash">
        From the result to cash
      </button>
    </p>
  `,
  styles: `
    p {
      margin: 0 14px 6px;
      color: var(--ink-2);
    }
  `,
})
export class CashNote {
  private readonly api = inject(CashApi);
  private readonly contexts = inject(ContextStore);
  private readonly dialog = inject(MatDialog);

  private readonly question = computed((): CashQuestion | undefined => {
    const context = this.contexts.context();
    return context && { scope: context.scope.code, as_at: asAtText(context.asAt), month: context.asAt.name };
  });
  private readonly state = asked(this.question, ({ scope, as_at }) =>
    this.api.read({ scope, as_at, span: 'year_to_date' }),
  ).state;

  protected readonly says = computed(() => {
    const { view, error } = this.state();
    if (error) return `${error.message} ${error.hint}`;
    if (!view) return 'Cash basis: deriving what was paid…';
    const broken = view.entities.filter(({ difference }) => difference !== 0);
    if (broken.length > 0) return `Cash basis does not agree with the cash accounts of ${namesOf(broken)}.`;
    const open = view.entities.flatMap((entity) => {
      const amount = underived(entity);
      return amount === 0 ? [] : { ...entity, amount };
    });
    const held = view.entities.every(({ isHeld }) => isHeld);
    const how = held ? 'as the books hold it' : 'income and costs count when their documents are settled';
    if (open.length === 0) return `Cash basis: ${how}. All documents of the year to date could be derived.`;
    const named = open.slice(0, NAMED).map(({ name, currency, amount }) => {
      const money = formatFigure({ amount, unit: currencyUnit(currency) }, 1);
      return open.length === 1 && view.entities.length === 1 ? `${currency} ${money}` : `${name} ${currency} ${money}`;
    });
    const more = open.length > NAMED ? ` and ${open.length - NAMED} more entities` : '';
    return `Cash basis: ${how}. Of the year to date, ${named.join(', ')}${more} could not be derived.`;
  });

  protected open(): void {
    const data = this.question();
    if (data) this.dialog.open<CashDialog, CashQuestion>(CashDialog, { data, width: '640px', maxWidth: '94vw' });
  }
}

const namesOf = (entities: readonly CashOfEntity[]): string => entities.map(({ name }) => name).join(', ');

/** All that could not be derived of an entity, whichever way it goes. Units: minor units. */
const underived = ({ documents }: CashOfEntity): number =>
  documents.reduce((sum, { reasons }) => sum + reasons.reduce((all, { amount }) => all + Math.abs(amount), 0), 0);
