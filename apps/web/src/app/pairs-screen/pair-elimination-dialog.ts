import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  NonNullableFormBuilder,
  ReactiveFormsModule,
  Validators,
  type AbstractControl,
  type ValidationErrors,
} from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { startWith } from 'rxjs';
import type { PairElimination } from '@margin-lens/contract';
import { SetupApi } from '../shared/setup-api';
import { accountsThatFit, chartAccounts } from '../shared/chart-accounts';
import { KeepRows } from '../shared/keep-rows';
import { plainAmount, typedAmount } from '../shared/typed-amount';
import { readablePlain } from '@margin-lens/core/shown';

/** What is to be eliminated, and the two that it is about. */
export interface EliminationAsked {
  draft: PairElimination;
  entities: readonly { code: string; name: string }[];
  /** Name of the period. */
  month: string;
}

/** Takes what a pair differs by out of the group by hand: both lines name the pair and its rule. */
@Component({
  selector: 'ml-pair-elimination-dialog',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Eliminate a difference by hand</h2>
    <mat-dialog-content>
      <p class="thin">
        {{ names }}, {{ draft.rule }}: taken off {{ draft.account }} {{ draft.accountName }} of the group in
        {{ asked.month }}. The books of both stay as they are.
      </p>
      <form id="elimination" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field>
          <mat-label>Amount, {{ draft.currency }}</mat-label>
          <input matInput formControlName="amount" inputmode="decimal" />
          @if (form.controls.amount.touched && form.controls.amount.invalid) {
            <mat-error>An amount, such as 1,250,000.00</mat-error>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>How long</mat-label>
          <mat-select formControlName="kind">
            <mat-option value="reversing">Back in the next month</mat-option>
            <mat-option value="normal">Stays</mat-option>
            <mat-option value="recurring">Again every month</mat-option>
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Taken up in</mat-label>
          <input matInput formControlName="against" [matAutocomplete]="list" cdkFocusInitial data-testid="against" />
          <mat-autocomplete #list="matAutocomplete" autoActiveFirstOption>
            @for (account of offered(); track account.number) {
              <mat-option [value]="account.number">{{ account.number }} {{ account.name }}</mat-option>
            }
          </mat-autocomplete>
          <mat-hint>{{ chosen()?.name }}</mat-hint>
          @if (form.controls.against.touched && form.controls.against.invalid) {
            <mat-error>An account of the chart</mat-error>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>In the figures of</mat-label>
          <mat-select formControlName="entity">
            @for (entity of asked.entities; track entity.code) {
              <mat-option [value]="entity.code">{{ entity.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field class="wide">
          <mat-label>Reason</mat-label>
          <input matInput formControlName="reason" />
          @if (form.controls.reason.touched && form.controls.reason.invalid) {
            <mat-error>Say why</mat-error>
          }
        </mat-form-field>
      </form>
      @if (keeping.problem(); as problem) {
        <p class="adverse" role="alert">{{ problem }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="elimination" [disabled]="keeping.isSaving()">Eliminate</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      align-items: start;
      gap: 8px 12px;
      padding-top: 4px;
    }
    .wide {
      grid-column: 1 / -1;
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
export class PairEliminationDialog {
  protected readonly asked = inject<EliminationAsked>(MAT_DIALOG_DATA);
  protected readonly draft = this.asked.draft;
  private readonly api = inject(SetupApi);
  protected readonly keeping = new KeepRows(this.api, inject(MatDialogRef), 'eliminations');
  private readonly accounts = toSignal(chartAccounts(this.api), { initialValue: [] });

  protected readonly names = this.asked.entities.map(({ name }) => name).join(' and ');
  protected readonly form = inject(NonNullableFormBuilder).group({
    amount: [readablePlain(this.draft.amount), [Validators.required, typedAmount]],
    kind: ['reversing'],
    against: [this.draft.against, [Validators.required, (control: AbstractControl<string>) => this.inChart(control)]],
    entity: [this.draft.entity],
    reason: [this.draft.reason, Validators.required],
  });

  private readonly values = toSignal(this.form.valueChanges.pipe(startWith(undefined)));
  private readonly typed = computed(() => {
    this.values();
    return this.form.getRawValue().against.trim();
  });
  protected readonly offered = computed(() => accountsThatFit(this.accounts(), this.typed()));
  protected readonly chosen = computed(() => this.accounts().find(({ number }) => number === this.typed()));

  private inChart({ value }: AbstractControl<string>): ValidationErrors | null {
    const accounts = this.accounts();
    return accounts.length === 0 || accounts.some(({ number }) => number === value.trim()) ? null : { account: true };
  }

  protected keep(): void {
    if (this.form.invalid) return this.form.markAllAsTouched();
    const { amount, kind, entity, reason } = this.form.getRawValue();
    const { group, journal, period, rule, account, side } = this.draft;
    const partner = this.asked.entities.find(({ code }) => code !== entity)!.code;
    const line = (at: number, of: string, on: 'debit' | 'credit') => ({
      ...{ group, journal, kind, line: String(at), period, entity, partner, account: of, rule, reason },
      ...{ debit: '', credit: '', [on]: plainAmount(amount) },
    });
    this.keeping.keep([line(1, account, side), line(2, this.typed(), side === 'debit' ? 'credit' : 'debit')]);
  }
}
