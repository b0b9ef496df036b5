import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import type { TrialBalanceQuery } from '@margin-lens/contract';
import { trialBalancePage, trialBalanceProof } from '@margin-lens/core/shown';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { asAtText, type ViewContext } from '../shared/view-context';
import { Paper } from '../shared/paper';
import { NO_LINES, VIEWS } from './ledger-text';

/** The trial balance: an outline of accounts over a span, months or entities, with totals that prove themselves. */
@Component({
  selector: 'ml-trial-balance-screen',
  imports: [EmptyState, MatButtonModule, MatButtonToggleModule, MatIconModule, MatMenuModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trial-balance-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './trial-balance-screen.scss'],
})
export class TrialBalanceScreen {
  private readonly api = inject(Api);
  protected readonly contexts = inject(ContextStore);
  protected readonly views = VIEWS;
  private readonly folded = signal<ReadonlySet<string>>(new Set());

  protected readonly chosen = computed(
    () => VIEWS.find(({ id }) => id === this.contexts.params()['view'])?.id ?? 'year_to_date',
  );
  private readonly query = computed<TrialBalanceQuery | undefined>(() => {
    const context = this.contexts.context();
    return context && { scope: context.scope.code, as_at: asAtText(context.asAt), view: this.chosen() };
  });

  private readonly asking = asked(this.query, (query) => this.api.trialBalance(query));
  protected readonly state = this.asking.state;

  private readonly page = computed(() => {
    const { view } = this.state();
    return view && trialBalancePage(view, this.chosen());
  });
  protected readonly subtitle = computed(() => {
    const page = this.page();
    return page ? `${page.subtitle} · ${page.asAt}` : '';
  });
  /** The texts of each row, by its id. */
  private readonly texts = computed(() => {
    const block = this.page()?.blocks.find(({ kind }) => kind === 'table');
    const rows = block?.kind === 'table' ? block.table.rows : [];
    return new Map(rows.map(({ id, cells }) => [id, cells.map(({ text }) => text)]));
  });

  /** Lines that no folded group hides. */
  protected readonly lines = computed(() => {
    const texts = this.texts();
    const folded = this.folded();
    let hiddenBelow = Infinity;
    return (this.state().view?.lines ?? []).flatMap((line) => {
      if (line.depth > hiddenBelow) return [];
      const isFolded = line.kind !== 'account' && folded.has(line.id);
      hiddenBelow = isFolded ? line.depth : Infinity;
      return [{ ...line, isFolded, texts: texts.get(line.id)! }];
    });
  });
  protected readonly totals = computed(() => this.texts().get('total') ?? []);
  protected readonly profits = computed(() => this.texts().get('profit') ?? []);
  protected readonly proof = computed(() => {
    const { view } = this.state();
    return view ? trialBalanceProof(view) : { holds: true, words: '' };
  });

  constructor() {
    inject(Paper).shows(this.page);
  }

  protected setView(view: string): void {
    this.contexts.setParams({ view: view === 'year_to_date' ? null : view });
  }

  protected fold(id: string): void {
    this.folded.update((before) => {
      const after = new Set(before);
      if (!after.delete(id)) after.add(id);
      return after;
    });
  }

  protected foldAll(): void {
    const headings = (this.state().view?.lines ?? []).filter(({ kind }) => kind === 'heading').map(({ id }) => id);
    this.folded.update((before) => (before.size > 0 ? new Set() : new Set(headings)));
  }

  protected readonly isFolded = computed(() => this.folded().size > 0);

  /** The lines behind an account of this view. */
  protected linesOf(account: string, column = ''): Record<string, string | null> {
    const context = this.contexts.context()!;
    const isMonth = column.startsWith('FY');
    const to = isMonth ? column : context.asAt.key;
    const from = isMonth || this.chosen() === 'month' ? to : firstOfYear(context);
    const isEntity = this.chosen() === 'entities' && column !== '';
    return { ...NO_LINES, account, from, to, view: null, ...(isEntity ? { scope: column } : {}) };
  }

  protected exportUrl(format: 'csv' | 'xlsx' | 'pdf'): string {
    return this.api.trialBalanceUrl(this.query()!, format);
  }

  protected retry(): void {
    this.asking.again();
  }
}

const firstOfYear = ({ periods, asAt }: ViewContext): string =>
  periods.find(({ fiscalYear }) => fiscalYear === asAt.fiscalYear)!.key;
