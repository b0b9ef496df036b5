import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { exactFigure, likelyPlace, outlineOf } from '@margin-lens/core';
import type { StatementView } from '@margin-lens/contract';
import { misplacedWords } from './shape-words';
import { ShapeStore } from './shape-store';

/** The accounts that a statement does not have in one row each: one line that says so and opens, and what mends each. */
@Component({
  selector: 'ml-misplaced-accounts',
  imports: [MatButtonModule, MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './misplaced-accounts.html',
  styleUrl: './misplaced-accounts.scss',
})
export class MisplacedAccounts {
  readonly view = input<StatementView>();
  protected readonly store = inject(ShapeStore);

  private readonly opened = signal<boolean | undefined>(undefined);
  /** A single account stands there at once. */
  protected readonly isOpen = computed(() => this.opened() ?? this.accounts().length === 1);
  protected readonly words = computed(() => misplacedWords(this.accounts().map(({ how }) => how)));

  protected readonly accounts = computed(() => {
    const view = this.view();
    const documents = this.store.documents();
    const accounts = this.store.makings()?.accounts ?? [];
    if (!view || !documents) return [];
    const figureAt = view.columns.findLastIndex(({ kind, notation }) => kind === 'figure' && notation === 'actual');
    return view.coverage.misplaced
      .filter(({ used }) => used)
      .map((place) => {
        const account = accounts.find(({ number }) => number === place.number);
        const cell = view.misplacedRows.find(({ id }) => id === `account.${place.number}`)?.cells[figureAt];
        const likely =
          account && place.how === 'none' ? likelyPlace(documents.rows.rows, account, accounts) : undefined;
        return {
          ...place,
          amount: cell ? exactFigure(cell) : '',
          likely: likely && (likely.row ? `Add it to ${likely.row.label}` : `Add a row “${likely.label}” for it`),
        };
      });
  });
  /** Rows of accounts that a misplaced one could go to. */
  protected readonly accountRows = computed(() =>
    outlineOf(this.store.documents()?.rows.rows ?? []).flatMap(({ row }) => (row.kind === 'accounts' ? [row] : [])),
  );

  /** Accounts that are near to something, where they are several. */
  protected readonly suggested = computed(() => {
    const numbers = this.accounts().flatMap(({ likely, number }) => (likely ? [number] : []));
    return numbers.length > 1 ? numbers : [];
  });

  protected turn(): void {
    this.opened.set(!this.isOpen());
  }
}
