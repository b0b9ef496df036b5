import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Screen } from '../shared/screen';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, map, of } from 'rxjs';
import { SetupApi } from '../shared/setup-api';
import { WorkspaceStore } from '../shared/workspace-store';
import { SaveBar } from './save-bar';
import { BASIS_WORDS } from './setup-text';
import type { HoldsUnsaved } from './unsaved-guard';
import { WorkspaceSetupStore } from './workspace-setup-store';

const textIn = (event: Event) => (event.target as HTMLInputElement).value;

/** What holds for the workspace as a whole. */
@Component({
  selector: 'ml-workspace-screen',
  imports: [MatFormFieldModule, MatInputModule, MatSelectModule, SaveBar, Screen],
  providers: [WorkspaceSetupStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './workspace-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './setup-form.scss', './workspace-screen.scss'],
  host: { '(window:beforeunload)': 'unsaved() > 0 && $event.preventDefault()' },
})
export class WorkspaceScreen implements HoldsUnsaved {
  protected readonly store = inject(WorkspaceSetupStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly textIn = textIn;

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly statements = computed(() => this.workspace()?.statements ?? []);
  protected readonly entities = computed(() => this.workspace()?.entities ?? []);
  /** Accounts of equity: one of them carries the results of past years. */
  protected readonly equity = toSignal(
    inject(SetupApi)
      .setupTable('accounts')
      .pipe(
        map(({ rows }) =>
          rows
            .filter(({ cells }) => cells[2] === 'equity')
            .map(({ cells }) => ({ number: cells[0]!, name: cells[1]! })),
        ),
        catchError(() => of([])),
      ),
    { initialValue: [] },
  );
  protected readonly settings = computed(() => this.store.draft()?.settings);
  protected readonly bases = computed(() =>
    (this.store.view()?.bases ?? []).map(({ basis, isUsed }) => ({ basis, isUsed, says: BASIS_WORDS[basis] ?? '' })),
  );

  constructor() {
    this.store.load();
  }

  unsaved(): number {
    return this.store.isChanged() ? 1 : 0;
  }

  protected setMateriality(part: 'amount' | 'percent', event: Event): void {
    const text = textIn(event);
    const held = this.settings()?.materiality ?? { amount: 0, percent: 0 };
    this.store.changeSettings({ materiality: { ...held, [part]: Math.max(0, Number(text) || 0) } });
  }

  protected setDefault(part: 'statement' | 'scope', chosen: string): void {
    const { [part]: _, ...others } = this.settings()?.defaults ?? {};
    this.store.changeSettings({ defaults: chosen ? { ...others, [part]: chosen } : others });
  }
}
