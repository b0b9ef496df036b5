import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import type { ShownUnit, Unit } from '@margin-lens/core';
import { ContextStore } from '../shared/context-store';
import { ShownStatement } from '../shared/shown-statement';
import { tieOutsOf } from '../shared/tie-outs';
import { WorkspaceStore } from '../shared/workspace-store';
import { currencyUnit } from '../shared/currency-unit';

export const UNIT_CHOICES: readonly { unit: ShownUnit; label: string }[] = [
  { unit: 1, label: 'units' },
  { unit: 1000, label: 'thousand' },
  { unit: 1_000_000, label: 'million' },
];

/** Word mark, where I am, the context pills, the light, find-or-do, person. */
@Component({
  selector: 'ml-top-bar',
  imports: [MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './top-bar.html',
  styleUrl: './top-bar.scss',
})
export class TopBar {
  readonly find = output();

  private readonly workspaces = inject(WorkspaceStore);
  private readonly shown = inject(ShownStatement);
  protected readonly contexts = inject(ContextStore);
  protected readonly units = UNIT_CHOICES;

  protected readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly place = computed(() => {
    const path = this.contexts.path();
    if (path.startsWith('/deliveries')) return ['Books', 'Deliveries'];
    if (path.startsWith('/ledger'))
      return ['Books', path.endsWith('/lines') ? 'Ledger, lines' : 'Ledger, trial balance'];
    return ['Statements', this.shown.view()?.name ?? ''];
  });
  protected readonly isStatement = computed(() => this.contexts.path().startsWith('/statements'));
  protected readonly hasScope = computed(() => this.isStatement() || this.contexts.path().startsWith('/ledger'));
  protected readonly unitLabel = computed(() => {
    const context = this.contexts.context();
    const label = UNIT_CHOICES.find((choice) => choice.unit === context?.unit)!.label;
    return context ? (context.unit === 1 ? context.scope.currency : `${context.scope.currency} ${label}`) : '';
  });
  protected readonly tieOuts = computed(() => {
    const view = this.shown.view();
    const unit: Unit | undefined = view && currencyUnit(view.scope.currency);
    return view && unit && this.isStatement() ? tieOutsOf(view, unit) : undefined;
  });
  protected readonly agreeing = computed(() => this.tieOuts()?.filter((check) => check.agrees).length ?? 0);
  protected readonly initials = computed(() =>
    (this.workspace()?.viewer ?? '')
      .split(/\s+/)
      .map((word) => word[0] ?? '')
      .slice(0, 2)
      .join('')
      .toUpperCase(),
  );
}
