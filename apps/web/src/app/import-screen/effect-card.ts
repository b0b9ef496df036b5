import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatButtonModule } from '@angular/material/button';
import type { EffectView, ImportJobView } from '@margin-lens/contract';
import { exactFigure, countText } from '@margin-lens/core/shown';
import { currencyUnit } from '../shared/currency-unit';
import { countsInWords } from './import-text';

const amount = (minor: number, currency: string) => exactFigure({ amount: minor, unit: currencyUnit(currency) });
const count = (journals: number) => (journals === 0 ? '–' : countText(journals));

/** Sums by currency: amounts of two currencies are never added. */
function totals(months: EffectView['months']) {
  const currencies = [...new Set(months.map(({ currency }) => currency))];
  return currencies.map((currency) => {
    const rows = months.filter((month) => month.currency === currency);
    const sum = (of: (row: EffectView['months'][number]) => number) => rows.reduce((total, row) => total + of(row), 0);
    const [debit, credit] = [sum((row) => row.debit), sum((row) => row.credit)];
    return {
      currency,
      added: count(sum((row) => row.journalsAdded)),
      changed: count(sum((row) => row.journalsChanged)),
      removed: count(sum((row) => row.journalsRemoved)),
      debit: amount(debit, currency),
      credit: amount(credit, currency),
      profit: amount(
        sum((row) => row.profit),
        currency,
      ),
      agrees: debit === credit,
    };
  });
}

/** What a delivery would change, before anything is written: by entity and month, and account by account. */
@Component({
  selector: 'ml-effect-card',
  imports: [MatButtonModule, MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './effect-card.html',
  styleUrl: './effect-card.scss',
})
export class EffectCard {
  /** A delivery that has been checked. */
  readonly job = input.required<ImportJobView>();
  /** Words of the way back. */
  readonly backTo = input('Back to its columns');

  readonly goAhead = output();
  readonly complete = output<boolean>();
  readonly back = output();
  readonly cancelled = output();

  private readonly effect = computed(() => this.job().effect!);
  protected readonly words = computed(() => countsInWords(this.job().counts!));
  protected readonly isNothing = computed(() => this.words().startsWith('Nothing') || this.onlyKnown());
  private readonly onlyKnown = computed(() => {
    const { unchangedJournals } = this.job().counts!;
    return unchangedJournals > 0 && countsInWords({ ...this.job().counts!, unchangedJournals: 0 }) === 'Nothing new';
  });
  protected readonly months = computed(() =>
    this.effect().months.map((month) => ({
      ...month,
      added: count(month.journalsAdded),
      changed: count(month.journalsChanged),
      removed: count(month.journalsRemoved),
      debitText: amount(month.debit, month.currency),
      creditText: amount(month.credit, month.currency),
      profitText: month.profit === 0 ? '–' : amount(month.profit, month.currency),
    })),
  );
  /** Only journals can be left out of a month. */
  protected readonly hasJournals = computed(() => {
    const purpose = this.job().inspection?.mapping.purpose;
    return purpose === undefined || purpose === 'journals' || purpose === 'trial_balance';
  });
  protected readonly figures = computed(() =>
    this.effect().figures.map((row) => ({
      ...row,
      addedText: count(row.added),
      changedText: count(row.changed),
      profitText: row.profit === 0 ? '–' : amount(row.profit, row.currency),
    })),
  );
  protected readonly totals = computed(() => totals(this.effect().months));
  protected readonly accounts = computed(() =>
    this.effect().accounts.map((account) => ({
      ...account,
      beforeText: amount(account.before, account.currency),
      changeText: amount(account.change, account.currency),
      afterText: amount(account.before + account.change, account.currency),
    })),
  );
}
