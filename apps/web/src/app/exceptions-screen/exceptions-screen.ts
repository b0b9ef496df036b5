import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { asked } from '../shared/asked';
import { Screen } from '../shared/screen';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import {
  ACTUAL,
  EXCEPTION_SPANS,
  exceptionColumnsId,
  formatFigure,
  readablePlain,
  RATIO,
  type ExceptionSpan,
} from '@margin-lens/core';
import type { ExceptionRowView, FigureView } from '@margin-lens/contract';
import { Beside } from '../shared/beside';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { laterMonths } from '../shared/later-months';
import { EmptyState } from '../shared/empty-state';
import { ErrorState } from '../shared/error-state';
import { currencyUnit } from '../shared/currency-unit';
import { WorkspaceStore } from '../shared/workspace-store';
import { sparkline } from '../versions-screen/planning-table-view';
import type { ToExplain } from '../remarks/explanation-words';
import { Explained } from './explained';
import { RemarksPanel, type Quotable, type RemarkPlace } from '../remarks/remarks-panel';
import { RemarksStore } from '../remarks/remarks-store';
import { LimitsDialog } from './limits-dialog';

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
  imports: [
    EmptyState,
    ErrorState,
    Explained,
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatMenuModule,
    RemarksPanel,
    Screen,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './exceptions-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './exceptions-screen.scss'],
})
export class ExceptionsScreen {
  private readonly api = inject(Api);
  private readonly beside = inject(Beside);
  protected readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly remarks = inject(RemarksStore);
  private readonly dialog = inject(MatDialog);
  protected readonly spans = EXCEPTION_SPANS;
  protected readonly spanWords = SPAN_WORDS;

  protected readonly span = computed(
    () => EXCEPTION_SPANS.find((each) => each === this.contexts.params()['span']) ?? 'year_to_date',
  );
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
    return {
      scope: context.scope.code,
      as_at: asAtText(context.asAt),
      statement,
      span: this.span(),
      ...(version ? { version } : {}),
      ...(against ? { against } : {}),
    };
  });
  private readonly asking = asked(this.question, (query) => this.api.exceptions(query));
  protected readonly answer = this.asking.state;
  protected readonly view = computed(() => this.answer().view);
  /** Asked again once a remark is written. */
  private readonly told = computed(() => {
    const question = this.question();
    return question && { question, remarks: this.remarks.remarks() };
  });
  protected readonly explanations = asked(this.told, ({ question }) => this.api.explanations(question)).state;
  protected readonly toExplain = computed((): ToExplain | undefined => {
    const [view, row, context] = [this.view(), this.chosenRow(), this.contexts.context()];
    if (!view || !context || row?.unit.kind !== 'currency') return undefined;
    const effect = row.effect || row.change;
    return { effect, currency: row.unit.code, month: view.asAt.key, later: laterMonths(context) };
  });
  protected readonly unit = computed(() => this.contexts.context()?.unit ?? 1);

  /** What a variance must be beyond to be listed, in words. */
  protected readonly limits = computed(() => {
    const view = this.view();
    if (!view) return '';
    const { amount, percent } = view.limits;
    const part = `${readablePlain(String(Number((percent * 100).toFixed(4))))} %`;
    return view.missingRate
      ? part
      : `${formatFigure({ amount, unit: currencyUnit(view.scope.currency) }, 1)} and ${part}`;
  });
  protected readonly says = computed(() => {
    const [view, context] = [this.view(), this.contexts.context()];
    if (!view || !context) return '';
    const unit = { 1: '', 1000: ' thousand', 1_000_000: ' million' }[this.unit()];
    const why = view.missingRate ? ` alone: there is no average rate ${view.missingRate} for the amount` : '';
    const limits = `${this.limits()}${why}`;
    const sides = `${view.of.name} against ${view.against?.name ?? 'nothing'}`;
    return `${sides}, ${SPAN_WORDS[view.span]} to ${view.asAt.name} · beyond ${limits} · ${view.scope.name}, ${view.scope.currency}${unit}`;
  });
  /** Why nothing is compared; undefined where something is. */
  protected readonly lacking = computed(() => {
    const { lacks, of, against, asAt, scope } = this.view() ?? {};
    if (!lacks) return undefined;
    const place = `${asAt!.name} in ${scope!.name}`;
    if (lacks === 'of')
      return `${of!.code === 'actual' ? 'Nothing is posted' : `${of!.name} has nothing`} for ${place}.`;
    if (against) return `${against.name} has nothing for ${place}. Choose another version above.`;
    return `No version covers ${asAt!.name} to be held against. Make a plan, or choose a version above.`;
  });
  /** Why less than the span is compared; empty where all of it is. */
  protected readonly part = computed(() => {
    const { range, span, asAt } = this.view() ?? {};
    if (!range || (range.span === span && range.upTo.key === asAt?.key)) return '';
    const why = range.span === span ? 'nothing is posted after it' : 'nothing is forecast of the rest of the year';
    return `Both sides to ${range.upTo.name}: ${why}.`;
  });
  /** Largest change on the page, for the common scale of the bars. */
  private readonly scale = computed(() =>
    Math.max(1, ...(this.view()?.exceptions ?? []).map(({ change }) => Math.abs(change))),
  );
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
          {
            name: 'Unplanned',
            says: `${view.of.name}, and nothing in ${view.against?.name ?? 'the plan'}`,
            rows: view.unplanned.map((row) => this.shown(row)),
          },
          {
            name: 'No actuals',
            says: `planned in ${view.against?.name ?? 'the plan'}, and nothing came`,
            rows: view.noActuals.map((row) => this.shown(row)),
          },
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
  protected readonly page = computed(() => {
    const view = this.view();
    return view && { scope: view.scope.code, period: view.asAt.key, statement: view.statement.id };
  });
  protected readonly places = computed((): RemarkPlace[] => {
    const [row, page] = [this.chosenRow(), { row: '', column: '', columns: '', name: 'The page' }];
    return row ? [{ row: row.id, column: '', columns: '', name: row.label }, page] : [page];
  });
  protected readonly quotables = computed((): Quotable[] => {
    const [view, row] = [this.view(), this.chosenRow()];
    if (!view || !row) return [];
    const context = {
      columns: exceptionColumnsId(view.span),
      ...(view.of.code === ACTUAL ? {} : { version: view.of.code }),
      ...(view.against && { against: view.against.code }),
    };
    const money = (amount: number): FigureView => ({ amount, unit: row.unit });
    const percent: FigureView =
      row.percent === null
        ? { amount: null, unit: RATIO, ...(row.actual === 0 ? {} : { word: 'new' as const }) }
        : { amount: row.percent, unit: RATIO };
    return [
      { name: 'Change', cell: `${row.id}~now_change`, context, figure: money(row.change) },
      { name: 'Percent', cell: `${row.id}~now_percent`, context, figure: percent },
      { name: view.of.name, cell: `${row.id}~now`, context, figure: money(row.actual) },
      { name: view.against?.name ?? 'base', cell: `${row.id}~now_base`, context, figure: money(row.base) },
    ];
  });

  constructor() {
    effect(() => {
      const { row } = this.beside.picked() ?? {};
      if (row) untracked(() => this.chosen.set(row));
    });
    effect(() => {
      const view = this.view();
      if (!view) return;
      this.remarks.ask({ scope: view.scope.code, as_at: view.asAt.key, statement: view.statement.id });
      untracked(() => {
        if (this.chosen() === '' || !this.chosenRow()) this.chosen.set(view.exceptions[0]?.id ?? '');
      });
    });
  }

  private shown(row: ExceptionRowView) {
    const unit = this.unit();
    const money = (amount: number) => formatFigure({ amount, unit: row.unit }, unit, { zero: 'zero' });
    const rate = (amount: number, decimals: number) =>
      formatFigure({ amount, unit: RATIO }, 1, { zero: 'zero', decimals });
    const width = Math.min(BAR_PX, (Math.abs(row.change) / this.scale()) * BAR_PX);
    return {
      ...row,
      actualText: money(row.actual),
      baseText: money(row.base),
      changeText: money(row.change),
      percentText: row.percent === null ? (row.actual === 0 ? '' : 'new') : rate(row.percent, 1),
      shareText: row.share === null ? '' : rate(row.share, 0),
      line: sparkline(row.trend),
      bar: { width, left: row.change < 0 ? BAR_PX - width : BAR_PX },
      remark: this.remarks.states().get(row.id) ?? ('none' as const),
    };
  }

  protected set(params: Record<string, string | null>): void {
    this.contexts.setParams(params);
  }

  protected setLimits(): void {
    this.dialog
      .open<LimitsDialog, void, boolean>(LimitsDialog, { width: '440px' })
      .afterClosed()
      .subscribe((isKept) => {
        if (isKept) this.asking.again();
      });
  }

  protected choose(id: string): void {
    this.chosen.set(id);
    const view = this.view();
    if (!view) return;
    const { span, statement, against: _, ...context } = this.question()!;
    const [columns, column] = ['month_and_year_to_date', span === 'period' ? 'month' : 'ytd'];
    this.beside.pick({
      row: id,
      figure: { statement, context: { ...context, columns }, address: `cell~${id}~${column}` },
    });
  }

  protected onRowKey(event: KeyboardEvent, index: number): void {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const rows = [
      ...(event.currentTarget as HTMLElement).closest('table')!.querySelectorAll<HTMLElement>('[data-row]'),
    ];
    rows[Math.max(0, Math.min(rows.length - 1, index + step))]?.focus();
  }

  protected retry(): void {
    this.asking.again();
  }
}
