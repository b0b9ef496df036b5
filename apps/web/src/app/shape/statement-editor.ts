import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import type {
  NamedCondition,
  LayoutPurpose,
  Materiality,
  Presentation,
  ReaderChoices,
  StatementDocument,
} from '@margin-lens/core';
import { WorkspaceStore } from '../shared/workspace-store';
import { ConditionsField } from './conditions-field';
import { withSetting } from './shape-edits';
import { LimitsField } from './limits-field';
import { ShapeStore } from './shape-store';

const READERS: readonly { key: Exclude<keyof ReaderChoices, 'dimensions'>; name: string }[] = [
  { key: 'scope', name: 'Scope' },
  { key: 'asAt', name: 'As-at month' },
  { key: 'version', name: 'Version' },
  { key: 'currency', name: 'Currency' },
];

/** What belongs to the statement itself: its name, how figures look, what readers may change, and its layouts' names. */
@Component({
  selector: 'ml-statement-editor',
  imports: [ConditionsField, LimitsField, MatCheckboxModule, MatFormFieldModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './statement-editor.html',
  styleUrl: './editor.scss',
})
export class StatementEditor {
  protected readonly store = inject(ShapeStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly READERS = READERS;
  protected readonly documents = this.store.documents;
  protected readonly presentation = computed<Presentation>(() => this.documents()?.statement.presentation ?? {});
  protected readonly readers = computed<ReaderChoices>(() => this.documents()?.statement.readers ?? {});

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }

  protected put(key: keyof StatementDocument, setting: unknown): void {
    this.store.change(
      'Change the statement',
      (documents) => ({ ...documents, statement: withSetting(documents.statement, key, setting) }),
      `statement:${key}`,
    );
  }

  protected putName(which: 'statement' | 'rows' | 'columns', name: string): void {
    if (name.trim() === '') return;
    this.store.change(
      'Rename',
      (documents) => ({ ...documents, [which]: { ...documents[which], name } }),
      `name:${which}`,
    );
  }

  /** Layouts that there are, to choose others from. */
  protected readonly rowChoices = computed(() => this.store.makings()?.rowLayouts ?? []);
  protected readonly columnChoices = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.columnLayouts : [];
  });

  protected putPurpose(purpose: string): void {
    this.store.change('Change the purpose', (documents) => ({
      ...documents,
      rows: { ...documents.rows, purpose: purpose as LayoutPurpose },
    }));
  }

  protected putLimits(limits: Materiality | undefined): void {
    this.store.change(
      'Change the limits',
      (documents) => ({ ...documents, rows: withSetting(documents.rows, 'materiality', limits) }),
      'limits:rows',
    );
  }

  protected putLook(key: keyof Presentation, setting: unknown): void {
    this.store.changeLook((look) => withSetting(look, key, setting), `look:${key}`);
  }

  protected putDecimals(text: string): void {
    this.putLook('decimals', text === '' ? undefined : Number(text));
  }

  protected mayChange(key: (typeof READERS)[number]['key']): boolean {
    return this.readers()[key]?.may ?? true;
  }

  protected putReader(key: (typeof READERS)[number]['key'], may: boolean): void {
    const { usual } = this.readers()[key] ?? {};
    const choice = may && usual === undefined ? undefined : { may, ...(usual === undefined ? {} : { usual }) };
    const next = withSetting(this.readers(), key, choice);
    this.put('readers', Object.keys(next).length === 0 ? undefined : next);
  }

  protected mayDemand(): boolean {
    return this.readers().dimensions?.may ?? true;
  }

  protected putDimensions(may: boolean, usual: NamedCondition[]): void {
    const choice = may && usual.length === 0 ? undefined : { may, ...(usual.length === 0 ? {} : { usual }) };
    const next = withSetting(this.readers(), 'dimensions', choice);
    this.put('readers', Object.keys(next).length === 0 ? undefined : next);
  }

  protected putUsual(key: (typeof READERS)[number]['key'], usual: string): void {
    const may = this.mayChange(key);
    const choice = usual === '' && may ? undefined : { may, ...(usual === '' ? {} : { usual }) };
    this.put('readers', withSetting(this.readers(), key, choice));
  }
}
