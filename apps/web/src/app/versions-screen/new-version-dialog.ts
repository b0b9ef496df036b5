import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { inWords } from '../shared/validators';
import { OpeningField } from './opening-field';
import type { NewVersion, PeriodView, VersionView } from '@margin-lens/contract';

export interface NewVersionQuestion {
  versions: readonly VersionView[];
  periods: readonly PeriodView[];
  /** Last month with postings, where a forecast cuts over. */
  lastActual: string;
  start: Partial<NewVersion>;
}

/** What is wrong with a wish for a version; nothing when it can be made. */
function problemOf({ name, kind, from, to, cutOver, parent, opening }: NewVersion): string {
  if (name.trim() === '') return 'Give it a name.';
  if (kind === 'branch') return parent === '' ? 'Choose the version that it branches off.' : '';
  if (to < from) return 'It ends before it begins.';
  if (kind === 'plan' && opening && opening.period >= from) return 'It opens with a month before its first.';
  if (kind === 'forecast' && (cutOver < from || cutOver >= to))
    return 'The last actual month lies inside, before the last month.';
  return '';
}

/** Asks for the kind, range and start of a new version. */
@Component({
  selector: 'ml-new-version-dialog',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    OpeningField,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New version</h2>
    <mat-dialog-content>
      <form class="grid" id="new-version" [formGroup]="form" (ngSubmit)="make()">
        <mat-form-field>
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Kind</mat-label>
          <mat-select formControlName="kind">
            <mat-option value="plan">Plan: figures of its own</mat-option>
            <mat-option value="forecast">Forecast: actuals to a month, then figures of its own</mat-option>
            <mat-option value="branch">Branch: differs from another version where it is changed</mat-option>
          </mat-select>
        </mat-form-field>
        @if (form.value.kind === 'branch') {
          <mat-form-field>
            <mat-label>Branch of</mat-label>
            <mat-select formControlName="parent">
              @for (version of data.versions; track version.code) {
                <mat-option [value]="version.code">{{ version.name }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        } @else {
          <mat-form-field>
            <mat-label>From</mat-label>
            <mat-select formControlName="from">
              @for (period of months; track period.key) {
                <mat-option [value]="period.key">{{ period.name }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
          <mat-form-field>
            <mat-label>To</mat-label>
            <mat-select formControlName="to">
              @for (period of months; track period.key) {
                <mat-option [value]="period.key">{{ period.name }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
          @if (form.value.kind === 'forecast') {
            <mat-form-field>
              <mat-label>Actual to</mat-label>
              <mat-select formControlName="cutOver">
                @for (period of months; track period.key) {
                  <mat-option [value]="period.key">{{ period.name }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
          }
          <mat-form-field>
            <mat-label>Start with</mat-label>
            <mat-select formControlName="copyOf">
              <mat-option value="">no figures</mat-option>
              @for (version of data.versions; track version.code) {
                <mat-option [value]="version.code"> the figures of {{ version.name }} </mat-option>
              }
            </mat-select>
          </mat-form-field>
          @if (form.value.kind === 'plan') {
            <ml-opening-field
              [versions]="data.versions"
              [periods]="data.periods"
              [first]="form.value.from!"
              [opening]="form.value.opening ?? null"
              (changed)="form.patchValue({ opening: $event })"
            />
          }
        }
        @if (form.errors?.['problem']; as text) {
          <p class="issue" role="alert">{{ text }}</p>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="new-version" [disabled]="form.invalid">Create</button>
    </mat-dialog-actions>
  `,
  styles: `
    .grid {
      display: grid;
      gap: 10px;
      min-width: 380px;
    }
  `,
})
export class NewVersionDialog {
  protected readonly data = inject<NewVersionQuestion>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<NewVersionDialog, NewVersion>>(MatDialogRef);
  protected readonly months = this.data.periods.filter(({ kind }) => kind === 'regular');
  private readonly fields = inject(NonNullableFormBuilder);
  protected readonly form = this.fields.group(this.wanted(), {
    validators: inWords((wanted: NewVersion) => problemOf(wanted)),
  });

  protected make(): void {
    const wanted = this.form.getRawValue();
    const { kind, opening } = wanted;
    if (this.form.valid) this.ref.close({ ...wanted, opening: kind === 'plan' ? opening : null });
  }

  private wanted() {
    const { opening, ...start } = this.start();
    return { ...start, opening: this.fields.control(opening) };
  }

  private start(): NewVersion {
    const last = this.months.find(({ key }) => key === this.data.lastActual) ?? this.months.at(-1)!;
    const year = this.months.filter(({ fiscalYear }) => fiscalYear === last.fiscalYear);
    const next = this.months.filter(({ fiscalYear }) => fiscalYear === last.fiscalYear + 1);
    const range = next.length > 0 ? next : year;
    return {
      name: `Plan FY${String(range[0]!.fiscalYear).slice(2)}`,
      kind: 'plan',
      from: range[0]!.key,
      to: range.at(-1)!.key,
      cutOver: this.data.lastActual,
      parent: this.data.versions.at(-1)?.code ?? '',
      copyOf: '',
      opening: null,
      ...this.data.start,
    };
  }
}
