import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatButtonModule } from '@angular/material/button';
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
import { named } from '../shared/validators';
import { OpeningField } from './opening-field';
import { InWordsPipe } from '../shared/in-words-pipe';

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
  imports: [
    InWordsPipe,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatSelectModule,
    OpeningField,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Settings of {{ version.name }}</h2>
    <mat-dialog-content>
      <form id="version-settings" [formGroup]="form" (ngSubmit)="save()">
        <mat-form-field>
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Owner</mat-label>
          <mat-select formControlName="owner">
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
            [opening]="form.controls.opening.value"
            (changed)="form.controls.opening.setValue($event)"
          />
        }
        <mat-form-field>
          <mat-label>Set of rates</mat-label>
          <input matInput formControlName="rateSet" placeholder="usual rates" />
          <mat-hint>Its own months come into other currencies at these; their rates are typed under Rates.</mat-hint>
        </mat-form-field>
        <fieldset>
          <legend>Who may change figures beside the owner</legend>
          @for (editor of form.controls.editors.controls; track editor; let at = $index) {
            <div class="editor" [formGroup]="editor">
              <mat-form-field>
                <mat-label>Person</mat-label>
                <mat-select formControlName="person">
                  @for (person of data.people; track person.id) {
                    <mat-option [value]="person.id" [disabled]="isNamed(person.id, at)">{{ person.name }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
              <mat-form-field>
                <mat-label>Entities</mat-label>
                <mat-select multiple placeholder="all" formControlName="entities">
                  @for (entity of data.entities; track entity.code) {
                    <mat-option [value]="entity.code">{{ entity.name }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
              <mat-form-field>
                <mat-label>Dimension values</mat-label>
                <mat-select multiple placeholder="all" formControlName="values">
                  @for (dimension of data.dimensions; track dimension.name) {
                    <mat-optgroup [label]="dimension.name | inWords">
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
                matIconButton
                type="button"
                [attr.aria-label]="'Remove ' + nameOf(editor.value.person)"
                (click)="form.controls.editors.removeAt(at)"
              >
                <mat-icon svgIcon="close" />
              </button>
            </div>
          } @empty {
            <p class="thin">Nobody is named, so anyone who plans may.</p>
          }
          <button matButton="outlined" type="button" (click)="add()">Add a person</button>
        </fieldset>
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="version-settings" [disabled]="form.invalid">Save</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      gap: 12px;
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
      font-size: var(--medium);
    }
    .editor {
      display: grid;
      grid-template-columns: 1fr 1fr 1fr auto;
      gap: 8px;
      align-items: end;
      width: 100%;
    }
    .thin {
      margin: 0;
      color: var(--ink-2);
      font-size: var(--small);
    }
  `,
})
export class VersionSettingsDialog {
  protected readonly data = inject<SettingsQuestion>(MAT_DIALOG_DATA);
  protected readonly version = this.data.version;
  private readonly ref = inject<MatDialogRef<VersionSettingsDialog, VersionSettings>>(MatDialogRef);
  protected readonly keyOf = keyOf;
  private readonly fields = inject(NonNullableFormBuilder);
  protected readonly form = this.fields.group({
    name: [this.version.name, named],
    owner: this.version.owner,
    opening: this.fields.control(this.version.opening),
    rateSet: [{ value: this.version.rateSet, disabled: this.version.state === 'locked' }, Validators.maxLength(40)],
    editors: this.fields.array(this.version.editors.map((editor) => this.rowOf(rowOf(editor)))),
  });

  private rowOf({ person, entities, values }: EditorRow) {
    return this.fields.group({
      person,
      entities: this.fields.control(entities),
      values: this.fields.control(values),
    });
  }

  protected add(): void {
    this.form.controls.editors.push(this.rowOf({ person: '', entities: [], values: [] }));
  }

  /** Whether a person is named in another row. */
  protected isNamed(person: string, at: number): boolean {
    return this.form.controls.editors.getRawValue().some((row, index) => index !== at && row.person === person);
  }

  protected nameOf(id: string | undefined): string {
    return this.data.people.find((person) => person.id === id)?.name ?? 'this editor';
  }

  protected save(): void {
    const { name, owner, opening, rateSet, editors: rows } = this.form.getRawValue();
    const editors = rows
      .filter(({ person }) => person !== '')
      .map((row): VersionEditor => ({ person: row.person, entities: [...row.entities], values: valuesOf(row) }));
    this.ref.close({ name: name.trim(), owner, editors, opening, rateSet: rateSet.trim() });
  }
}
