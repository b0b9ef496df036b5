import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { readablePlain, typedPlain } from '@margin-lens/core/shown';
import type { ErrorReply, WorkspaceSetupView } from '@margin-lens/contract';
import { SetupApi } from '../shared/setup-api';
import { plainAmount, typedAmount } from '../shared/typed-amount';

/** The limits of the workspace, changed where they are felt; rows of a layout may have their own. Closes with true once kept. */
@Component({
  selector: 'ml-limits-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Limits</h2>
    <mat-dialog-content>
      <p>A variance is to be explained when it is beyond both. Rows can have limits of their own, under Shape.</p>
      <form id="limits" [formGroup]="form" (ngSubmit)="save()">
        <mat-form-field>
          <mat-label>Amount{{ currency() ? ', ' + currency() : '' }}</mat-label>
          <input matInput formControlName="amount" inputmode="decimal" cdkFocusInitial />
          @if (form.controls.amount.invalid) {
            <mat-error>An amount, such as {{ samples.amount }}</mat-error>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>Percent</mat-label>
          <input matInput formControlName="percent" inputmode="decimal" />
          @if (form.controls.percent.invalid) {
            <mat-error>A number, such as {{ samples.percent }}</mat-error>
          }
        </mat-form-field>
      </form>
      @if (failure(); as error) {
        <p class="adverse" role="alert">{{ error.message }} {{ error.hint }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="limits" [disabled]="!setup() || form.invalid || isSaving()">
        Save
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin: 0 0 12px;
    }
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class LimitsDialog {
  private readonly api = inject(SetupApi);
  private readonly dialog = inject<MatDialogRef<LimitsDialog, boolean>>(MatDialogRef);

  protected readonly samples = { amount: readablePlain('25000'), percent: typedPlain('2.5') };
  protected readonly setup = signal<WorkspaceSetupView | undefined>(undefined);
  protected readonly currency = () => this.setup()?.settings.reporting_currency ?? '';
  protected readonly form = inject(NonNullableFormBuilder).group({
    amount: ['', [Validators.required, typedAmount]],
    percent: ['', [Validators.required, typedAmount]],
  });
  protected readonly isSaving = signal(false);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  constructor() {
    this.api.workspaceSetup().subscribe({
      next: (setup) => {
        const { amount, percent } = setup.settings.materiality ?? { amount: 0, percent: 0 };
        this.setup.set(setup);
        this.form.setValue({ amount: readablePlain(String(amount)), percent: typedPlain(String(percent)) });
      },
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }

  protected save(): void {
    const setup = this.setup();
    if (!setup || this.form.invalid) return;
    const { amount, percent } = this.form.getRawValue();
    const materiality = { amount: sizeOf(amount), percent: sizeOf(percent) };
    const { revision: base, settings, retainedEarnings } = setup;
    this.isSaving.set(true);
    this.api.saveWorkspaceSetup({ base, settings: { ...settings, materiality }, retainedEarnings }).subscribe({
      next: () => this.dialog.close(true),
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.failure.set(error);
      },
    });
  }
}

/** A limit has no sign. */
const sizeOf = (typed: string): number => Math.abs(Number(plainAmount(typed)));
