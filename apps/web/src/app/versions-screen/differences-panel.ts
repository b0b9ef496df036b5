import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, map, of, switchMap } from 'rxjs';
import {
  exactFigure, findDifferences, isProfitOrLoss, linesOf, type Account, type Cause, type ComparedRow, type FigureLines, type RoundingVerdict,
} from '@margin-lens/core'; // prettier-ignore
import type { ErrorReply, VersionView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { currencyUnit } from '../shared/currency-unit';
import { PlanningStore } from './planning-store';

const CAUSE_WORDS: Record<Cause, string> = {
  rounding: 'Rounding',
  sign: 'Sign',
  missing: 'Missing',
  swapped_digits: 'Swapped digits',
  factor: 'Factor',
  month_off: 'A month off',
  constant: 'Constant',
};
const VERDICT_WORDS: Record<RoundingVerdict, string> = {
  can_be_rounding: 'This can be rounding.',
  unlikely_rounding: 'This is unlikely to be rounding.',
  not_rounding: 'This is not rounding.',
};
const ROWS_SHOWN = 30;

/** Where two versions differ: bottom line, months, sections, accounts, each with a guess at the cause. */
@Component({
  selector: 'ml-differences-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './differences-panel.html',
  styleUrl: './differences-panel.scss',
})
export class DifferencesPanel {
  readonly versions = input.required<readonly VersionView[]>();
  /** Asks for the cell of an account's month. */
  readonly go = output<{ account: string; month: number }>();

  protected readonly store = inject(PlanningStore);
  private readonly api = inject(Api);
  protected readonly other = this.store.heldAgainst;
  protected readonly causeWords = CAUSE_WORDS;

  private readonly question = computed(() => {
    const place = this.store.place();
    if (!place || this.other() === '') return undefined;
    const { version, scope } = place;
    return { version: this.other(), scope: scope.code, from: version.from, to: version.to };
  });
  private readonly answer = toSignal(
    toObservable(this.question).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      switchMap((question) =>
        question
          ? this.api.figures(question).pipe(
              map((view) => ({ lines: linesOf(view.lines), error: undefined })),
              catchError((error: ErrorReply) => of({ lines: undefined, error })),
            )
          : of(undefined),
      ),
    ),
  );
  protected readonly error = computed(() => this.answer()?.error);

  protected readonly found = computed(() => {
    const [lines, model] = [this.answer()?.lines, this.store.model()];
    const place = this.store.place();
    if (!lines || !model || !place) return undefined;
    const { accounts, currency } = model.input.source;
    const months = model.input.frame.own.length;
    const rows = comparedRows(lines, this.store.lines(), months, accounts);
    const differences = findDifferences(rows, months);
    const unit = currencyUnit(currency.code);
    const text = (amount: number) => exactFigure({ amount, unit });
    const periods = this.store
      .ordinals()
      .map((ordinal) => place.periods.find((period) => period.ordinal === ordinal)!.name);
    return {
      bottomLine: differences.bottomLine === 0 ? 'nothing' : text(differences.bottomLine),
      verdict:
        differences.rows.length === 0
          ? 'The two are the same in every account and month.'
          : VERDICT_WORDS[differences.verdict],
      months: differences.months.flatMap((amount, at) =>
        amount === 0 ? [] : [{ name: periods[at]!, text: text(amount) }],
      ),
      sections: differences.sections.map(({ section, difference }) => ({ name: section, text: text(difference) })),
      rows: differences.rows.slice(0, ROWS_SHOWN).map((row) => {
        const [guess] = row.guesses;
        const largest = row.months.reduce(
          (best, amount, at) => (Math.abs(amount) > Math.abs(row.months[best]!) ? at : best),
          0,
        );
        const month = guess && guess.months.length === 1 ? guess.months[0]! : largest;
        return { id: row.id, label: row.label, text: text(row.difference), month, monthName: periods[month]!, guess: guess ? `${CAUSE_WORDS[guess.cause]}: ${this.named(guess.detail)} · ` : '' }; // prettier-ignore
      }),
      more: Math.max(0, differences.rows.length - ROWS_SHOWN),
    };
  });

  /** A cause with the sides by their names. */
  private named(detail: string): string {
    const other = this.versions().find(({ code }) => code === this.other())?.name ?? 'actual';
    const own = this.store.place()?.version.name ?? '';
    return detail.replace(/the first( side)?/g, other).replace(/the second( side)?/g, own);
  }
}

/** Accounts of profit or loss on both sides, as they move profit, each with the lines that it is the sum of. */
function comparedRows(a: FigureLines, b: FigureLines, months: number, accounts: readonly Account[]): ComparedRow[] {
  const none = Array<number>(months).fill(0);
  const profitOf = (lines: FigureLines, key: string) => lines.get(key)?.figures.map((figure) => -figure + 0) ?? none;
  const parts = new Map<string, { a: number[]; b: number[] }[]>();
  for (const [key, line] of new Map([...a, ...b])) {
    const held = parts.get(line.account) ?? [];
    held.push({ a: [...profitOf(a, key)], b: [...profitOf(b, key)] });
    parts.set(line.account, held);
  }
  const sum = (lists: readonly (readonly number[])[]) => none.map((_, at) => lists.reduce((total, list) => total + list[at]!, 0));
  return accounts.filter((account) => isProfitOrLoss(account) && parts.has(account.number)).map(({ number, name, heading }) => {
    const held = parts.get(number)!;
    return { id: number, label: `${number} ${name}`, section: heading, a: sum(held.map((part) => part.a)), b: sum(held.map((part) => part.b)), parts: held };
  });
} // prettier-ignore
