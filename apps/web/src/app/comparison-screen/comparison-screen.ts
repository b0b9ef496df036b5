import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { ComparisonQuery, ComparisonView } from '@margin-lens/contract';
import { countText } from '@margin-lens/core/shown';
import { amountText } from '../ledger-screen/ledger-text';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { momentInWords } from '../shared/moment';
import { CountPipe } from '../shared/count-pipe';

const HOW_WORDS: Record<ComparisonView['journals'][number]['how'], string> = {
  came: 'new',
  changed: 'changed',
  went: 'removed',
};

/** A month as two deliveries left it, account by account and journal by journal. */
@Component({
  selector: 'ml-comparison-screen',
  imports: [
    CountPipe,
    EmptyState,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatSelectModule,
    RouterLink,
    Screen,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './comparison-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './comparison-screen.scss'],
})
export class ComparisonScreen {
  private readonly api = inject(Api);
  protected readonly contexts = inject(ContextStore);

  private readonly query = computed((): ComparisonQuery | undefined => {
    const [context, entity] = [this.contexts.context(), this.contexts.entity()];
    const { before, after } = this.contexts.params() as { before?: string; after?: string };
    if (!context || !entity) return undefined;
    return {
      scope: entity.code,
      as_at: asAtText(context.asAt),
      ...(before ? { before } : {}),
      ...(after ? { after } : {}),
    };
  });
  private readonly asking = asked(this.query, (query) => this.api.comparison(query));
  protected readonly state = this.asking.state;
  protected readonly view = computed(() => this.state().view);
  protected readonly currency = computed(() => this.view()?.scope.currency ?? '');
  protected readonly isWhole = computed(() => this.contexts.params()['all'] === '1');

  protected readonly deliveries = computed(() =>
    (this.view()?.deliveries ?? []).map(({ id, fileName, person, at, isUndone }) => ({
      id,
      words: `${momentInWords(at)} · ${fileName} · ${person}${isUndone ? ' · undone' : ''}`,
    })),
  );
  protected readonly accounts = computed(() =>
    (this.view()?.accounts ?? [])
      .filter(({ before, after }) => this.isWhole() || before !== after)
      .map((account) => ({ ...account, ...this.texts(account.before, account.after) })),
  );
  /** Profit of the month on both sides, income positive. */
  protected readonly profit = computed(() => {
    const rows = (this.view()?.accounts ?? []).filter(({ isProfitOrLoss }) => isProfitOrLoss);
    const of = (side: 'before' | 'after') => rows.reduce((sum, row) => sum - row[side], 0);
    return { ...this.texts(of('before'), of('after')), moved: of('after') - of('before') };
  });
  protected readonly journals = computed(() =>
    (this.view()?.journals ?? []).map((journal) => ({
      ...journal,
      words: HOW_WORDS[journal.how],
      beforeText: journal.before === null ? '' : amountText(journal.before, this.currency()),
      afterText: journal.after === null ? '' : amountText(journal.after, this.currency()),
    })),
  );
  protected readonly subtitle = computed(() => {
    const view = this.view();
    if (!view) return '';
    const changed = view.accounts.filter(({ before, after }) => before !== after).length;
    const moved = `${changed} of ${view.accounts.length} accounts and ${countText(view.journals.length + view.more)} journals differ`;
    return `${view.scope.name}, ${view.period.name}, ${view.scope.currency} · ${view.deliveries.length === 0 ? 'no delivery touched it' : moved}`;
  });

  protected choose(side: 'before' | 'after', run: number): void {
    this.contexts.setParams({ [side]: String(run) }, true);
  }

  protected toggleAll(): void {
    this.contexts.setParams({ all: this.isWhole() ? null : '1' }, true);
  }

  protected retry(): void {
    this.asking.again();
  }

  private texts(before: number, after: number) {
    const [a, b] = [before, after].map((amount) => amountText(amount, this.currency()));
    return { beforeText: a!, afterText: b!, changeText: amountText(after - before, this.currency()) };
  }
}
