import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import type { LayoutPurpose, Materiality, Presentation, ReaderChoices, StatementDocument } from '@margin-lens/core';
import { WorkspaceStore } from '../shared/workspace-store';
import { ReadersField } from '../shared/readers-field';
import { withSetting } from './shape-edits';
import { LimitsField } from './limits-field';
import { ShapeStore } from './shape-store';

/** What belongs to the statement itself: its name, how figures look, what readers may change, and its layouts' names. */
@Component({
  selector: 'ml-statement-editor',
  imports: [LimitsField, MatCheckboxModule, MatFormFieldModule, MatInputModule, MatSelectModule, ReadersField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './statement-editor.html',
  styleUrl: './editor.scss',
})
export class StatementEditor {
  protected readonly store = inject(ShapeStore);
  private readonly workspaces = inject(WorkspaceStore);
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
}
