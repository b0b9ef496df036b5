import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { dayInWords, readablePlain } from '@margin-lens/core/shown';
import { SetupApi } from '../shared/setup-api';
import { KeepRows } from '../shared/keep-rows';
import type { TermsAsked } from './terms-asked';
import { plainAmount, typedAmount } from '../shared/typed-amount';

/** What was got for a part that was sold, and what the rest is worth where control goes with it. */
@Component({
  selector: 'ml-disposal-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Sale of {{ sold }} % of {{ asked.held }}</h2>
    <mat-dialog-content>
      <p class="thin">{{ asked.holder }}, {{ day }}; {{ asked.share.percent }} % are kept</p>
      <form id="disposal" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field>
          <mat-label>Proceeds, {{ asked.currency }}</mat-label>
          <input matInput formControlName="proceeds" inputmode="decimal" cdkFocusInitial />
          @if (form.controls.proceeds.invalid && form.controls.proceeds.touched) {
            <mat-error>An amount, such as 1,250,000.00</mat-error>
          }
        </mat-form-field>
        @if (isKept) {
          <mat-form-field>
            <mat-label>Fair value of what is kept, {{ asked.currency }}</mat-label>
            <input matInput formControlName="keptFairValue" inputmode="decimal" />
            @if (asked.share.losesControl) {
              <mat-hint>Control goes: the rest begins anew at it</mat-hint>
            }
            @if (form.controls.keptFairValue.invalid) {
              <mat-error>An amount, such as 1,250,000.00</mat-error>
            }
          </mat-form-field>
        }
      </form>
      @if (keeping.problem(); as problem) {
        <p class="adverse" role="alert">{{ problem }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="disposal" [disabled]="keeping.isSaving()">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 12px;
    }
    .thin {
      margin: 0 0 6px;
      color: var(--ink-2);
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class DisposalDialog {
  protected readonly asked = inject<TermsAsked>(MAT_DIALOG_DATA);
  protected readonly keeping = new KeepRows(inject(SetupApi), inject(MatDialogRef), 'disposals');

  protected readonly sold = String(
    Math.round((this.asked.share.before - Number(this.asked.share.percent)) * 1e8) / 1e8,
  );
  protected readonly isKept = Number(this.asked.share.percent) > 0;
  protected readonly day = dayInWords(this.asked.share.from);
  protected readonly form = inject(NonNullableFormBuilder).group({
    proceeds: [readablePlain(this.asked.share.disposal?.proceeds ?? ''), [Validators.required, typedAmount]],
    keptFairValue: [readablePlain(this.asked.share.disposal?.keptFairValue ?? ''), typedAmount],
  });

  protected keep(): void {
    if (this.form.invalid) return this.form.markAllAsTouched();
    const { investor, investee, from: date } = this.asked.share;
    const { proceeds, keptFairValue } = this.form.getRawValue();
    this.keeping.keep([
      {
        ...{ investor, investee, date, percent_sold: this.sold },
        ...{ proceeds: plainAmount(proceeds), kept_fair_value: plainAmount(keptFairValue) },
      },
    ]);
  }
}
