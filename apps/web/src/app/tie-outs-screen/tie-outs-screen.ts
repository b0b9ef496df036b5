import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Screen } from '../shared/screen';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { countText, exactFigure } from '@margin-lens/core/shown';
import type { TieOutsView } from '@margin-lens/contract';
import { NO_LINES } from '../ledger-screen/ledger-text';
import { ContextStore } from '../shared/context-store';
import { currencyUnit } from '../shared/currency-unit';
import { CHECK_WORDS } from '../shared/tie-outs';
import { TieOutsStore } from '../shared/tie-outs-store';
import { TieOutsOfAll } from './tie-outs-of-all';

type Tie = TieOutsView['ties'][number];

/** Figures that must agree, both sides of each, and the way to the cause where they do not. */
@Component({
  selector: 'ml-tie-outs-screen',
  imports: [MatButtonModule, MatButtonToggleModule, Screen, TieOutsOfAll],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tie-outs-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './tie-outs-screen.scss'],
})
export class TieOutsScreen {
  protected readonly store = inject(TieOutsStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly isOfAll = computed(() => this.contexts.params()['all'] === '1');
  protected readonly state = this.store.state;

  protected readonly ties = computed(() => {
    const { view } = this.state();
    if (!view) return [];
    const money = currencyUnit(view.scope.currency);
    const text = ({ unit }: Tie, amount: number) =>
      unit === 'money' ? exactFigure({ amount, unit: money }) : countText(amount);
    return view.ties.map((tie) => ({
      ...tie,
      name: CHECK_WORDS[tie.check],
      leftText: text(tie, tie.left.amount),
      rightText: text(tie, tie.right.amount),
      differenceText: tie.difference === 0 ? '–' : text(tie, tie.difference),
      way: wayOf(tie),
    }));
  });
  protected readonly says = computed(() => {
    const [all, off] = [this.store.checks()?.length ?? 0, this.store.open()];
    if (this.isOfAll()) return `Every entity and group at ${this.contexts.context()?.asAt.name ?? ''}`;
    if (this.contexts.unposted()) return 'Nothing is there to agree yet';
    return off === 0 ? `All ${all} agree` : `${off} of ${all} do not agree`;
  });

  protected follow(tie: Tie): void {
    if (OF_THE_BOOKS.includes(tie.check)) this.contexts.goTo('/ledger', NO_LINES);
    else if (OF_RATES.includes(tie.check)) this.contexts.goTo('/rates', NO_LINES);
    else if (tie.check === 'translation') this.contexts.goTo('/translation', NO_LINES);
    else if (tie.check === 'intercompany') this.contexts.goTo('/between-entities', NO_LINES);
    else if (OF_THE_GROUP.includes(tie.check)) this.contexts.goTo('/eliminations', NO_LINES);
    else if (tie.statement) this.contexts.openStatement(tie.statement, tie.check === 'coverage');
  }
}

/** Checks of the books, whose accounts the trial balance shows. */
const OF_THE_BOOKS: readonly Tie['check'][] = ['trial_balance', 'balances', 'statements'];
const OF_THE_GROUP: readonly Tie['check'][] = ['shares', 'eliminations'];
const OF_RATES: readonly Tie['check'][] = ['rates', 'plausible_rates'];

/** Where the cause can be looked for, in words. */
function wayOf({ check, statement }: Tie): string {
  if (OF_THE_BOOKS.includes(check)) return 'Trial balance';
  if (OF_RATES.includes(check)) return 'Rates';
  if (check === 'translation') return 'Translation';
  if (check === 'intercompany') return 'Between entities';
  if (OF_THE_GROUP.includes(check)) return 'Eliminations';
  if (!statement) return '';
  return check === 'coverage' ? 'Shape its rows' : 'Read the statement';
}
