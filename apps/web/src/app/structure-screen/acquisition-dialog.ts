import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators, type AbstractControl } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { map } from 'rxjs';
import { dayInWords, readablePlain } from '@margin-lens/core/shown';
import type { AcquisitionView } from '@margin-lens/contract';
import { SetupApi } from '../shared/setup-api';
import { accountsThatFit, chartAccounts } from '../shared/chart-accounts';
import { KeepRows } from '../shared/keep-rows';
import type { RowToSave } from '../shared/save-rows';
import { plainAmount, typedAmount } from '../shared/typed-amount';
import type { TermsAsked } from './terms-asked';

type Item = AcquisitionView['items'][number];
const NO_ITEM: Item = {
  ...{ kind: 'fair_value', item: '', account: '', localAmount: '', expenseAccount: '', lifeMonths: null },
};

/** What was paid for a part that was bought, how others' interests are told, and what items were worth on the day. */
@Component({
  selector: 'ml-acquisition-dialog',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './acquisition-dialog.html',
  styleUrl: './acquisition-dialog.scss',
})
export class AcquisitionDialog {
  protected readonly asked = inject<TermsAsked>(MAT_DIALOG_DATA);
  private readonly api = inject(SetupApi);
  private readonly forms = inject(NonNullableFormBuilder);
  protected readonly keeping = new KeepRows(this.api, inject(MatDialogRef), 'acquisitions');

  private readonly kept = this.asked.share.acquisition;
  protected readonly bought = Math.round((Number(this.asked.share.percent) - this.asked.share.before) * 1e8) / 1e8;
  protected readonly hasOthers = this.asked.share.method === 'full' && Number(this.asked.share.percent) < 100;
  protected readonly day = dayInWords(this.asked.share.from);
  private readonly chart = toSignal(chartAccounts(this.api), { initialValue: [] });

  protected readonly form = this.forms.group({
    consideration: [readablePlain(this.kept?.consideration ?? ''), [Validators.required, typedAmount]],
    priorInterestFairValue: [readablePlain(this.kept?.priorInterestFairValue ?? ''), typedAmount],
    nciMethod: [this.kept?.nciMethod || 'proportionate'],
    nciFairValue: [readablePlain(this.kept?.nciFairValue ?? ''), typedAmount],
    items: this.forms.array((this.kept?.items ?? []).map((item) => this.itemForm(item))),
  });
  protected readonly isTouched = signal(false);
  protected readonly typed = signal('');
  protected readonly isAtFairValue = toSignal(
    this.form.controls.nciMethod.valueChanges.pipe(map((method) => method === 'fair_value')),
    { initialValue: this.kept?.nciMethod === 'fair_value' },
  );
  protected readonly offered = computed(() => accountsThatFit(this.chart(), this.typed()));

  protected get items() {
    return this.form.controls.items;
  }

  protected nameOf(number: string): string {
    return this.chart().find((account) => account.number === number)?.name ?? '';
  }

  protected add(): void {
    this.items.push(this.itemForm(NO_ITEM));
  }

  protected keep(): void {
    if (this.form.invalid) {
      this.form.markAllAsTouched();
      return this.isTouched.set(true);
    }
    const { investor, investee, from: date } = this.asked.share;
    const pair = { investor, investee, date };
    const { consideration, priorInterestFairValue, nciMethod, nciFairValue, items } = this.form.getRawValue();
    // what is said once stands on a row without an item
    const head: RowToSave = {
      ...pair,
      consideration: plainAmount(consideration),
      prior_interest_fair_value: plainAmount(priorInterestFairValue),
      nci_method: this.hasOthers ? nciMethod : '',
      nci_fair_value: this.hasOthers && nciMethod === 'fair_value' ? plainAmount(nciFairValue) : '',
    };
    const rows = items.map((item) => ({
      ...{ ...pair, kind: item.kind, item: item.item.trim(), account: item.account },
      ...{ local_amount: plainAmount(item.localAmount), life_months: item.lifeMonths },
      expense_account: item.expenseAccount,
    }));
    const put = [head, ...rows];
    const keyOf = (row: RowToSave) => `${row['item'] ?? ''}|${row['account'] ?? ''}`;
    const keys = new Set(put.map(keyOf));
    const gone = (this.kept?.items ?? []).map(({ item, account }) => ({ ...pair, item, account }));
    this.keeping.keep(
      put,
      gone.filter((row) => !keys.has(keyOf(row))),
    );
  }

  private itemForm({ kind, item, account, localAmount, expenseAccount, lifeMonths }: Item) {
    const inChart = ({ value }: AbstractControl<string>) =>
      value === '' || this.chart().length === 0 || this.nameOf(value) !== '' ? null : { account: true };
    return this.forms.group({
      kind: [kind],
      item: [item, Validators.required],
      account: [account, [Validators.required, inChart]],
      localAmount: [readablePlain(localAmount), [Validators.required, typedAmount]],
      expenseAccount: [expenseAccount, inChart],
      lifeMonths: [lifeMonths === null ? '' : String(lifeMonths), Validators.pattern(/^\d{0,4}$/)],
    });
  }
}
