import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import type {
  EntityView,
  PeriodView,
  PersonView,
  VersionEditor,
  VersionSettings,
  VersionView,
  WorkspaceView,
} from '@margin-lens/contract';
import { OpeningField } from './opening-field';

export interface SettingsQuestion {
  version: VersionView;
  /** The other versions. */
  others: readonly VersionView[];
  periods: readonly PeriodView[];
  people: readonly PersonView[];
  entities: readonly EntityView[];
  dimensions: WorkspaceView['dimensions'];
}

/** An editor with the values that they are held to as one list, each with its dimension. */
interface EditorRow {
  person: string;
  entities: readonly string[];
  values: readonly DimensionValue[];
}
type DimensionValue = `${string}\u001f${string}`;

const keyOf = (dimension: string, value: string): DimensionValue => `${dimension}\u001f${value}`;
const rowOf = ({ person, entities, values }: VersionEditor): EditorRow => ({
  person,
  entities,
  values: Object.entries(values).flatMap(([dimension, held]) => held.map((value) => keyOf(dimension, value))),
});

function valuesOf({ values }: EditorRow): VersionEditor['values'] {
  const held: VersionEditor['values'] = {};
  for (const key of values) {
    const [dimension, value] = key.split('\u001f') as [string, string];
    held[dimension] = [...(held[dimension] ?? []), value];
  }
  return held;
}

/** Name and owner of a version, and who may change it beside the owner. */
@Component({
  selector: 'ml-version-settings-dialog',
  imports: [MatDialogModule, MatFormFieldModule, MatSelectModule, OpeningField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Settings of {{ version.name }}</h2>
    <mat-dialog-content>
      <form id="version-settings" (submit)="$event.preventDefault(); save()">
        <label>Name <input class="field" #name [value]="version.name" (input)="called.set(name.value)" /></label>
        <mat-form-field appearance="outline">
          <mat-label>Owner</mat-label>
          <mat-select [value]="ownedBy()" (selectionChange)="ownedBy.set($event.value)">
            <mat-option value="">Nobody</mat-option>
            @for (person of data.people; track person.id) {
              <mat-option [value]="person.id">{{ person.name }}</mat-option>
            }
          </mat-select>
          <mat-hint>Where nobody owns it, anyone who plans may change its settings and submit it.</mat-hint>
        </mat-form-field>
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
              <mat-form-field appearance="outline">
                <mat-label>Person</mat-label>
                <mat-select [value]="editor.person" (selectionChange)="set(at, { person: $event.value })">
                  @for (person of data.people; track person.id) {
                    <mat-option [value]="person.id" [disabled]="isNamed(person.id, at)">{{ person.name }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
              <mat-form-field appearance="outline" floatLabel="always">
                <mat-label>Entities</mat-label>
                <mat-select
                  multiple
                  placeholder="all"
                  [value]="editor.entities"
                  (selectionChange)="set(at, { entities: $event.value })"
                >
                  @for (entity of data.entities; track entity.code) {
                    <mat-option [value]="entity.code">{{ entity.name }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
              <mat-form-field appearance="outline" floatLabel="always">
                <mat-label>Dimension values</mat-label>
                <mat-select
                  multiple
                  placeholder="all"
                  [value]="editor.values"
                  (selectionChange)="set(at, { values: $event.value })"
                >
                  @for (dimension of data.dimensions; track dimension.name) {
                    <mat-optgroup [label]="dimension.name.replaceAll('_', ' ')">
                      @for (each of dimension.values; track each.value) {
                        <mat-option [value]="keyOf(dimension.name, each.value)">{{
                          each.name || each.value
                        }}</mat-option>
                      }
                    </mat-optgroup>
                  }
                </mat-select>
              </mat-form-field>
              <button
                class="button"
                type="button"
                [attr.aria-label]="'Take out ' + nameOf(editor.person)"
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
    }
    label {
      display: grid;
      gap: 3px;
      color: var(--ink-2);
      font-size: 13px;
    }
    fieldset {
      display: grid;
      gap: 10px;
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
      gap: 8px;
      align-items: center;
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
  protected readonly keyOf = keyOf;
  protected readonly called = signal(this.version.name);
  protected readonly ownedBy = signal(this.version.owner);
  protected readonly opening = signal(this.version.opening);
  protected readonly editors = signal<readonly EditorRow[]>(this.version.editors.map(rowOf));

  protected set(at: number, change: Partial<EditorRow>): void {
    this.editors.update((rows) => rows.map((row, index) => (index === at ? { ...row, ...change } : row)));
  }

  protected add(): void {
    this.editors.update((rows) => [...rows, { person: '', entities: [], values: [] }]);
  }

  protected remove(at: number): void {
    this.editors.update((rows) => rows.filter((_, index) => index !== at));
  }

  /** Whether a person is named in another row. */
  protected isNamed(person: string, at: number): boolean {
    return this.editors().some((row, index) => index !== at && row.person === person);
  }

  protected nameOf(id: string): string {
    return this.data.people.find((person) => person.id === id)?.name ?? 'this editor';
  }

  protected save(): void {
    const editors = this.editors()
      .filter(({ person }) => person !== '')
      .map((row): VersionEditor => ({ person: row.person, entities: [...row.entities], values: valuesOf(row) }));
    this.ref.close({ name: this.called().trim(), owner: this.ownedBy(), editors, opening: this.opening() });
  }
}
