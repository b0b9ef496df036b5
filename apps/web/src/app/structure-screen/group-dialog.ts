import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { SetupApi } from '../shared/setup-api';
import { KeepRows } from '../shared/keep-rows';
import { named } from '../shared/validators';

/** A group as it is kept, by the columns of its table. */
export interface GroupRow {
  code: string;
  name: string;
  currency: string;
  calendar: string;
  top_entity: string;
  parent_group: string;
  tiers: string;
}

/** What the dialog begins with: a group that there is, or what a new one would have. */
export interface GroupAsked {
  group: Partial<GroupRow>;
  isKept: boolean;
  entities: readonly { code: string; name: string }[];
  groups: readonly { code: string; name: string }[];
  calendars: readonly string[];
}

/** A group: whose it is, in which currency and fiscal years it reports, and which group it is part of. */
@Component({
  selector: 'ml-group-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatSelectModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.isKept ? 'Group' : 'New group' }}</h2>
    <mat-dialog-content>
      <form id="group" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field>
          <mat-label>Code</mat-label>
          <input matInput formControlName="code" />
          @if (form.controls.code.touched && form.controls.code.invalid) {
            <mat-error>Letters, digits, dots, lines; no other entity or group has it</mat-error>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Head</mat-label>
          <mat-select formControlName="top_entity">
            @for (entity of asked.entities; track entity.code) {
              <mat-option [value]="entity.code">{{ entity.name }}</mat-option>
            }
          </mat-select>
          <mat-hint>Its shares say who is part of the group</mat-hint>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Part of</mat-label>
          <mat-select formControlName="parent_group">
            <mat-option value="">no other group</mat-option>
            @for (group of others; track group.code) {
              <mat-option [value]="group.code">{{ group.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Currency</mat-label>
          <input matInput formControlName="currency" maxlength="3" />
          @if (form.controls.currency.touched && form.controls.currency.invalid) {
            <mat-error>Three letters, such as EUR</mat-error>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>Fiscal calendar</mat-label>
          <mat-select formControlName="calendar">
            @for (calendar of asked.calendars; track calendar) {
              <mat-option [value]="calendar">{{ calendar }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field class="wide">
          <mat-label>Indirect holdings</mat-label>
          <mat-select formControlName="tiers">
            <mat-option value="effective">by effective shares, all at once</mat-option>
            <mat-option value="sequential">tier by tier</mat-option>
          </mat-select>
        </mat-form-field>
      </form>
      @if (keeping.problem(); as problem) {
        <p class="adverse" role="alert">{{ problem }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (asked.isKept) {
        <button matButton="outlined" class="first" type="button" [disabled]="keeping.isSaving()" (click)="remove()">
          Take out
        </button>
      }
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="group" [disabled]="form.invalid || keeping.isSaving()">
        Keep
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 12px;
      padding-top: 4px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    .first {
      margin-right: auto;
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class GroupDialog {
  protected readonly asked = inject<GroupAsked>(MAT_DIALOG_DATA);
  protected readonly keeping = new KeepRows(inject(SetupApi), inject(MatDialogRef), 'groups');

  private readonly group = this.asked.group;
  private readonly taken = new Set([...this.asked.entities, ...this.asked.groups].map(({ code }) => code));
  protected readonly others = this.asked.groups.filter(({ code }) => code !== this.group.code);
  protected readonly form = inject(NonNullableFormBuilder).group({
    code: [
      { value: this.group.code ?? '', disabled: this.asked.isKept },
      [
        Validators.required,
        Validators.pattern(/^[A-Za-z0-9._-]+$/),
        ({ value }: { value: string }) => (this.taken.has(value) && !this.asked.isKept ? { taken: true } : null),
      ],
    ],
    name: [this.group.name ?? '', named],
    top_entity: [this.group.top_entity ?? '', Validators.required],
    parent_group: [this.group.parent_group ?? ''],
    currency: [this.group.currency ?? '', [Validators.required, Validators.pattern(/^[A-Za-z]{3}$/)]],
    calendar: [this.group.calendar ?? this.asked.calendars[0] ?? '', Validators.required],
    tiers: [this.group.tiers || 'effective'],
  });

  protected keep(): void {
    if (this.form.invalid) return this.form.markAllAsTouched();
    const row = this.form.getRawValue();
    this.keeping.keep([{ ...row, currency: row.currency.toUpperCase() }]);
  }

  protected remove(): void {
    this.keeping.keep([], [{ code: this.form.getRawValue().code }]);
  }
}
