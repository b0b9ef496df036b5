import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { BehaviorSubject } from 'rxjs';
import { EXCEPTION_SPANS, formatFigure, type ExceptionSpan } from '@margin-lens/core';
import type {
  ErrorReply,
  ExceptionRowView,
  ExceptionsView,
  Quote,
  RemarksView,
  RemarkText,
  RemarkView,
} from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asAtText, ContextStore } from '../shared/context-store';
import { ErrorState } from '../shared/error-state';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from '../shared/latest-answer';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';
import { sparkline } from '../versions-screen/planning-table-view';
import { nextKey, piecesOf, shownFigure, WHAT_WORDS } from './remark-text';

const SPAN_WORDS: Record<ExceptionSpan, string> = {
  period: 'the month',
  year_to_date: 'the year to date',
  full_year: 'the full year',
};

/** Half of the width of a bar's field, in pixels. */
const BAR_PX = 44;

/** What needs an explanation: variances beyond the limits, ranked, and the remarks that explain them. */
@Component({
  selector: 'ml-exceptions-screen',
  imports: [ErrorState, MatMenuModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './exceptions-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './exceptions-screen.scss'],
})
export class ExceptionsScreen {
  private readonly api = inject(Api);
  protected readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly spans = EXCEPTION_SPANS;
  protected readonly spanWords = SPAN_WORDS;
  protected readonly whatWords = WHAT_WORDS;
  protected readonly whats = ['change', 'percent', 'actual', 'base'] as const;
  protected readonly moment = momentInWords;

  private readonly retries = new BehaviorSubject<void>(undefined);
  protected readonly span = computed(() => EXCEPTION_SPANS.find((each) => each === this.contexts.params()['span']) ?? 'year_to_date');
  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly statements = computed(() => this.workspace()?.statements ?? []);
  protected readonly versions = computed(() => this.workspace()?.versions ?? []);
  private readonly statement = computed(() => {
    const asked = this.contexts.params()['of_statement'] as string | undefined;
    const workspace = this.workspace();
    return asked ?? workspace?.defaults.statement ?? workspace?.statements[0]?.id;
  });
  private readonly question = computed(() => {
    const [context, statement] = [this.contexts.context(), this.statement()];
    if (!context || !statement) return undefined;
    const { version, against } = context;
    return { scope: context.scope.code, as_at: asAtText(context.asAt), statement, span: this.span(), ...(version ? { version } : {}), ...(against ? { against } : {}) };
  });
  protected readonly answer = toSignal(
    latestAnswer(questionsOf(toObservable(this.question), this.retries), (query) => this.api.exceptions(query)),
    { initialValue: NO_ANSWER as Answer<ExceptionsView> },
  );
  protected readonly view = computed(() => this.answer().view);
  protected readonly unit = computed(() => this.contexts.context()?.unit ?? 1);

  private readonly remarkReads = new BehaviorSubject<void>(undefined);
  private readonly remarkQuestion = computed(() => {
    const question = this.question();
    return question && { scope: question.scope, as_at: question.as_at, statement: question.statement };
  });
  protected readonly remarks = toSignal(
    latestAnswer(questionsOf(toObservable(this.remarkQuestion), this.remarkReads), (query) => this.api.remarks(query)),
    { initialValue: NO_ANSWER as Answer<RemarksView> },
  );

  protected readonly says = computed(() => {
    const [view, context] = [this.view(), this.contexts.context()];
    if (!view || !context) return '';
    const unit = { 1: '', 1000: ' thousand', 1_000_000: ' million' }[this.unit()];
    const { amount, percent } = view.limits;
    const money = formatFigure({ amount, unit: { kind: 'currency', code: view.scope.currency, digits: 2 } }, 1);
    return `${view.scope.name}, ${view.scope.currency}${unit} · ${view.of.name} against ${view.against?.name ?? 'nothing'}, ${SPAN_WORDS[view.span]} to ${view.asAt.name} · beyond ${money} and ${(percent * 100).toFixed(0)} %`;
  });
  /** Largest change on the page, for the common scale of the bars. */
  private readonly scale = computed(() => Math.max(1, ...(this.view()?.exceptions ?? []).map(({ change }) => Math.abs(change))));
  protected readonly rows = computed(() => (this.view()?.exceptions ?? []).map((row) => this.shown(row)));
  protected readonly result = computed(() => {
    const result = this.view()?.result;
    return result ? this.shown(result) : undefined;
  });
  protected readonly flat = computed(() => (this.view()?.flat ?? []).map((row) => this.shown(row)));
  protected readonly lists = computed(() => {
    const view = this.view();
    return view
      ? [
          { name: 'Unplanned', says: `${view.of.name}, and nothing in ${view.against?.name ?? 'the plan'}`, rows: view.unplanned.map((row) => this.shown(row)) },
          { name: 'No actuals', says: `planned in ${view.against?.name ?? 'the plan'}, and nothing came`, rows: view.noActuals.map((row) => this.shown(row)) },
        ]
      : [];
  });
  protected readonly showsFlat = signal(false);

  /** The row whose remarks are shown; empty for the page. */
  protected readonly chosen = signal('');
  protected readonly chosenRow = computed(() => {
    const view = this.view();
    return view && [view.result, ...view.exceptions, ...view.flat].find((row) => row?.id === this.chosen());
  });
  protected readonly here = computed(() => (this.remarks().view?.remarks ?? []).filter(({ row }) => row === this.chosen()).map((remark) => this.withPieces(remark)));
  protected readonly proposals = computed(() => (this.remarks().view?.proposals ?? []).filter(({ row }) => row === this.chosen()).map((remark) => this.withPieces(remark)));
  protected readonly text = signal('');
  protected readonly quotes = signal<readonly Quote[]>([]);
  protected readonly problem = signal('');

  constructor() {
    effect(() => {
      const view = this.view();
      if (!view) return;
      untracked(() => {
        if (this.chosen() === '' || !this.chosenRow()) this.chosen.set(view.exceptions[0]?.id ?? '');
      });
    });
  }

  private shown(row: ExceptionRowView) {
    const unit = this.unit();
    const text = (what: Quote['what']) => shownFigure(row, what, unit).shown;
    const width = Math.min(BAR_PX, (Math.abs(row.change) / this.scale()) * BAR_PX);
    const remarks = (this.remarks().view?.remarks ?? []).filter((remark) => remark.row === row.id);
    return {
      ...row,
      actualText: text('actual'),
      baseText: text('base'),
      changeText: text('change'),
      percentText: row.percent === null ? (row.actual === 0 ? '' : 'new') : text('percent'),
      shareText: row.share === null ? '' : `${(row.share * 100).toFixed(0).replace('-', '−')} %`,
      line: sparkline(row.trend),
      bar: { width, left: row.change < 0 ? BAR_PX - width : BAR_PX },
      remark: remarks.length === 0 ? 'none' : remarks.some(({ state }) => state === 'open') ? 'open' : 'answered',
    };
  }

  private withPieces(remark: RemarkView) {
    const view = this.view();
    return { ...remark, pieces: view ? piecesOf(remark, view, this.unit()) : [] };
  }

  protected set(params: Record<string, string | null>): void {
    this.contexts.setParams(params);
  }

  protected choose(id: string): void {
    this.chosen.set(id);
    this.text.set('');
    this.quotes.set([]);
  }

  protected onRowKey(event: KeyboardEvent, index: number): void {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const rows = [...(event.currentTarget as HTMLElement).closest('table')!.querySelectorAll<HTMLElement>('[data-row]')];
    rows[Math.max(0, Math.min(rows.length - 1, index + step))]?.focus();
  }

  /** Puts a figure of the chosen row into the text, as it is now and will be. */
  protected quote(what: Quote['what']): void {
    const row = this.chosenRow();
    if (!row) return;
    const key = nextKey(this.quotes());
    this.quotes.update((quotes) => [...quotes, { key, row: row.id, what, ...shownFigure(row, what, this.unit()) }]);
    this.text.update((text) => `${text}${text === '' || text.endsWith(' ') ? '' : ' '}{${key}}`);
  }

  protected write(): void {
    const base = this.base();
    if (!base || this.text().trim() === '') return;
    this.send(this.api.writeRemark({ ...base, text: this.text(), quotes: [...this.quotes()], state: 'open', carries: '' }));
    this.text.set('');
    this.quotes.set([]);
  }

  protected carryOn({ id, text, quotes, row, column }: RemarkView): void {
    const base = this.base();
    if (base) this.send(this.api.writeRemark({ ...base, row, column, text, quotes, state: 'open', carries: id }));
  }

  protected turn(remark: RemarkView): void {
    this.send(this.api.changeRemark(remark.id, { ...textOf(remark), state: remark.state === 'open' ? 'answered' : 'open' }));
  }

  protected remove({ id }: RemarkView): void {
    this.send(this.api.removeRemark(id));
  }

  private base(): Pick<RemarkText, 'scope' | 'period' | 'statement' | 'row' | 'column'> | undefined {
    const view = this.view();
    return view && { scope: view.scope.code, period: view.asAt.key, statement: view.statement.id, row: this.chosen(), column: '' };
  }

  private send(work: ReturnType<Api['writeRemark']> | ReturnType<Api['removeRemark']>): void {
    this.problem.set('');
    (work as ReturnType<Api['removeRemark']>).subscribe({
      next: () => this.remarkReads.next(),
      error: (error: ErrorReply) => this.problem.set(`${error.message} ${error.hint}`),
    });
  }

  protected retry(): void {
    this.retries.next();
  }
} // prettier-ignore

const textOf = ({ scope, period, statement, row, column, text, quotes, state, carries }: RemarkView): RemarkText => ({
  scope, period, statement, row, column, text, quotes, state, carries,
}); // prettier-ignore
