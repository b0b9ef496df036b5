import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import type { NamedCondition, ReaderChoices } from '@margin-lens/core';
import { Choice } from './choice';
import { BASIS_CHOICES, currencyChoices, monthChoices, scopeChoices, versionChoices } from './choice-lists';
import { ConditionsField } from './conditions-field';
import { WorkspaceStore } from './workspace-store';

/** Settings that readers may change, with what each can open with. */
const SETTINGS = [
  { key: 'scope', name: 'Scope', called: 'scope', choices: scopeChoices },
  { key: 'asAt', name: 'As-at month', called: 'as-at month', choices: monthChoices },
  { key: 'version', name: 'Version', called: 'version', choices: versionChoices },
  { key: 'currency', name: 'Currency', called: 'currency', choices: currencyChoices },
  { key: 'basis', name: 'Basis', called: 'basis', choices: () => BASIS_CHOICES },
] as const;
type Key = (typeof SETTINGS)[number]['key'];

/** What readers of a statement or pack may change of it, and what it opens with. */
@Component({
  selector: 'ml-readers-field',
  imports: [Choice, ConditionsField, MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (each of settings(); track each.key) {
      <div class="setting" [attr.data-reader]="each.key">
        <ml-choice
          [label]="each.name"
          [value]="each.usual"
          [choices]="each.choices"
          none="What was looked at last"
          (chosen)="put(each.key, each.may, $event)"
        />
        <mat-checkbox
          [checked]="each.may"
          [disabled]="each.usual === undefined && each.may"
          (change)="put(each.key, $event.checked, each.usual)"
        >
          Readers may change the {{ each.called }}
        </mat-checkbox>
      </div>
    }
    <div class="setting" role="group" aria-label="Filter" data-reader="dimensions">
      <span class="head">Filter</span>
      <ml-conditions-field
        [conditions]="demands().usual ?? []"
        [dimensions]="dimensions()"
        [more]="[]"
        (changed)="putDemands(demands().may, $event)"
      />
      <mat-checkbox [checked]="demands().may" (change)="putDemands($event.checked, demands().usual ?? [])">
        Readers may change the filter
      </mat-checkbox>
    </div>
  `,
  styles: `
    :host,
    .setting {
      display: grid;
      gap: 2px;
    }
    :host {
      gap: 8px;
    }
    .head {
      color: var(--ink-2);
      font-size: var(--small);
    }
  `,
})
export class ReadersField {
  readonly readers = input.required<ReaderChoices>();
  /** Undefined where readers may change all, and nothing is said to open with. */
  readonly changed = output<ReaderChoices | undefined>();

  private readonly workspaces = inject(WorkspaceStore);
  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly dimensions = computed(() => this.workspace()?.dimensions ?? []);
  protected readonly settings = computed(() =>
    SETTINGS.map(({ key, choices, ...named }) => {
      const { may = true, usual } = this.readers()[key] ?? {};
      return { ...named, key, may, usual, choices: choices(this.workspace()) };
    }),
  );
  protected readonly demands = computed(() => ({ may: true, ...this.readers().dimensions }));

  protected put(key: Key, may: boolean, usual: string | undefined): void {
    this.change(key, may && usual === undefined ? undefined : { may, ...(usual !== undefined && { usual }) });
  }

  protected putDemands(may: boolean, usual: NamedCondition[]): void {
    const isUsual = may && usual.length === 0;
    this.change('dimensions', isUsual ? undefined : { may, ...(usual.length > 0 && { usual }) });
  }

  private change<K extends keyof ReaderChoices>(key: K, choice: ReaderChoices[K]): void {
    const { [key]: _, ...others } = this.readers();
    const readers = { ...others, ...(choice && { [key]: choice }) };
    this.changed.emit(Object.keys(readers).length > 0 ? readers : undefined);
  }
}
