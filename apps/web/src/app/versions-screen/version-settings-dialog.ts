import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { PeriodView, VersionEditor, VersionSettings, VersionView } from '@margin-lens/contract';
import { OpeningField } from './opening-field';

export interface SettingsQuestion {
  version: VersionView;
  /** The other versions. */
  others: readonly VersionView[];
  periods: readonly PeriodView[];
}

/** Editors as they are typed: codes divided by commas or blanks. */
interface EditorRow {
  person: string;
  entities: string;
  departments: string;
}

const listOf = (text: string): string[] => text.split(/[,\s]+/).filter(Boolean);
const rowOf = ({ person, entities, departments }: VersionEditor): EditorRow => ({
  person,
  entities: entities.join(', '),
  departments: departments.join(', '),
});

/** Name and owner of a version, and who may change it beside the owner. */
@Component({
  selector: 'ml-version-settings-dialog',
  imports: [MatDialogModule, OpeningField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Settings of {{ version.name }}</h2>
    <mat-dialog-content>
      <form id="version-settings" (submit)="$event.preventDefault(); save()">
        <label>Name <input class="field" #name [value]="version.name" (input)="called.set(name.value)" /></label>
        <label>
          Owner <input class="field" #owner [value]="version.owner" (input)="ownedBy.set(owner.value)" />
          <span class="thin">Left empty, anyone who plans may change its settings and submit it.</span>
        </label>
        @if (version.kind === 'plan' && version.state !== 'locked') {
          <ml-opening-field
            [versions]="data.others"
            [periods]="data.periods"
            [first]="version.from"
            [opening]="opening()"
            (changed)="opening.set($event)"
          />
        }
        <fieldset>
          <legend>Who may change figures beside the owner</legend>
          @for (editor of editors(); track $index; let at = $index) {
            <div class="editor">
              <input
                class="field"
                aria-label="Person"
                placeholder="Person"
                #person
                [value]="editor.person"
                (input)="set(at, { person: person.value })"
              />
              <input
                class="field"
                aria-label="Entities"
                placeholder="all entities"
                #entities
                [value]="editor.entities"
                (input)="set(at, { entities: entities.value })"
              />
              <input
                class="field"
                aria-label="Departments"
                placeholder="all departments"
                #departments
                [value]="editor.departments"
                (input)="set(at, { departments: departments.value })"
              />
              <button
                class="button"
                type="button"
                [attr.aria-label]="'Take out ' + (editor.person || 'this editor')"
                (click)="remove(at)"
              >
                ×
              </button>
            </div>
          } @empty {
            <p class="thin">Nobody is named, so anyone who plans may.</p>
          }
          <button class="button" type="button" (click)="add()">Add a person</button>
        </fieldset>
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="button" type="button" mat-dialog-close>Leave</button>
      <button class="button primary keep" type="submit" form="version-settings" [disabled]="called().trim() === ''">
        Save
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      gap: 12px;
      min-width: 480px;
    }
    label {
      display: grid;
      gap: 3px;
      color: var(--ink-2);
      font-size: 13px;
    }
    fieldset {
      display: grid;
      gap: 6px;
      justify-items: start;
      margin: 0;
      padding: 0;
      border: 0;
    }
    legend {
      margin-bottom: 6px;
      padding: 0;
      color: var(--ink-2);
      font-size: 13px;
    }
    .editor {
      display: grid;
      grid-template-columns: 1fr 1fr 1fr auto;
      gap: 6px;
      width: 100%;
    }
    .thin {
      margin: 0;
      color: var(--ink-2);
      font-size: 12.5px;
    }
    .keep {
      margin-left: 8px;
    }
  `,
})
export class VersionSettingsDialog {
  protected readonly data = inject<SettingsQuestion>(MAT_DIALOG_DATA);
  protected readonly version = this.data.version;
  private readonly ref = inject<MatDialogRef<VersionSettingsDialog, VersionSettings>>(MatDialogRef);
  protected readonly called = signal(this.version.name);
  protected readonly ownedBy = signal(this.version.owner);
  protected readonly opening = signal(this.version.opening);
  protected readonly editors = signal<readonly EditorRow[]>(this.version.editors.map(rowOf));

  protected set(at: number, change: Partial<EditorRow>): void {
    this.editors.update((rows) => rows.map((row, index) => (index === at ? { ...row, ...change } : row)));
  }

  protected add(): void {
    this.editors.update((rows) => [...rows, { person: '', entities: '', departments: '' }]);
  }

  protected remove(at: number): void {
    this.editors.update((rows) => rows.filter((_, index) => index !== at));
  }

  protected save(): void {
    const editors = this.editors()
      .filter(({ person }) => person.trim() !== '')
      .map(({ person, entities, departments }) => ({
        person: person.trim(),
        entities: listOf(entities),
        departments: listOf(departments),
      }));
    this.ref.close({ name: this.called().trim(), owner: this.ownedBy().trim(), editors, opening: this.opening() });
  }
}
