import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatRadioModule } from '@angular/material/radio';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import {
  emptyBaseMonths,
  exactFigure,
  periodName,
  periodShort,
  rowFigures,
  withoutOneOffs,
  PHASINGS,
  RUN_RATES,
  type FigureLines,
  type FiscalPeriod,
  type Phasing,
  type PlanAction,
  type PlanAnswer,
  type RunRate,
  type SheetRow,
} from '@margin-lens/core';
import type { How, VersionView } from '@margin-lens/contract';
import { catchError, from, map, of, switchMap } from 'rxjs';
import { PlanningStore } from './planning-store';
import { actionOfForm, EMPTY_FORM, type ActionForm, type ActionKind } from './action-form';
import { outlooksOf, rangeOf, type RowOutlook } from './action-outlook';
import { ActionResult } from './action-result';
import { yearsBefore } from './base-year';
import { ActionSources } from './action-sources';
import { CurveField } from './curve-field';
import { OneOffsField, type TakenOff } from './one-offs-field';
import { SeriesFields } from './series-fields';
import type { SheetSelection } from './planning-table';
import { InWordsPipe } from '../shared/in-words-pipe';

/** Longest words of a step that are kept. */
const LONGEST_LABEL = 200;

const NO_LINES: FigureLines = new Map();
const NO_PREVIEW: PlanAnswer = { changes: [], problems: [], result: undefined };

const PHASING_WORDS: Record<Phasing, string> = {
  even: 'evenly',
  base_year: 'in the shape of a year',
  working_days: 'by working days',
  weeks: 'by the weeks of each period',
  days: 'by days',
  growing: 'growing from month to month',
  profile: 'by a profile of my own',
  present: 'in the shape that stands there',
};
const RUN_RATE_WORDS: Record<RunRate, string> = {
  month: 'the mean of a month',
  day: 'the mean of a day, times the days',
  season: 'with the season of a year',
};
const HOWS: Record<ActionKind, How> = {
  seed: 'seeded',
  outlook: 'seeded',
  uplift: 'uplifted',
  phase: 'phased',
  curve: 'typed',
  series: 'typed',
  round: 'rounded',
  move: 'moved',
};

/** An action on the selection: what it needs, what it would do, and the button that does it. */
@Component({
  selector: 'ml-action-panel',
  imports: [
    InWordsPipe,
    ActionResult,
    CurveField,
    OneOffsField,
    SeriesFields,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatRadioModule,
    MatSelectModule,
    NgTemplateOutlet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './action-panel.html',
  styleUrl: './action-panel.scss',
})
export class ActionPanel {
  readonly kind = input.required<ActionKind>();
  readonly selection = input<SheetSelection>();
  readonly versions = input<readonly VersionView[]>([]);
  readonly done = output();

  protected readonly store = inject(PlanningStore);
  protected readonly PHASINGS = PHASINGS.map((phasing) => ({ phasing, words: PHASING_WORDS[phasing] }));
  protected readonly RUN_RATES = RUN_RATES.map((by) => ({ by, words: RUN_RATE_WORDS[by] }));

  /** What was chosen, as text of the fields. */
  protected readonly form = signal<ActionForm>(EMPTY_FORM);

  protected set(change: Partial<ActionForm>): void {
    this.form.update((form) => ({ ...form, ...change }));
  }

  protected readonly rows = computed((): readonly SheetRow[] => {
    const [selection, model] = [this.selection(), this.store.model()];
    if (!selection || !model) return [];
    const ids = new Set(selection.rows.map(({ id }) => id));
    return model.rows.filter(({ id }) => ids.has(id));
  });
  /** Months that the action is about: those selected, or from the first of them on. */
  protected readonly months = computed(() => {
    const [selection, model] = [this.selection(), this.store.model()];
    if (!selection || !model) return [];
    const chosen = [...new Set(selection.columns.flatMap((at) => [...(model.columns[at]?.periods ?? [])]))].sort(
      (a, b) => a - b,
    );
    if (this.form().span === 'selection' || chosen.length > 1) return chosen;
    return model.input.frame.own.flatMap((_, at) => (at >= chosen[0]! ? [at] : []));
  });
  protected readonly own = computed(() => this.months().filter((month) => this.store.model()?.input.frame.own[month]), {
    equal: (a, b) => a.join() === b.join(),
  });
  protected readonly periods = computed((): FiscalPeriod[] => {
    const calendar = this.store.calendar();
    return calendar ? this.store.ordinals().map((ordinal) => calendar.periods[ordinal]!) : [];
  });
  protected readonly title = computed(() => {
    const rows = this.rows();
    const names = this.own().map((month) => this.periods()[month]?.label ?? '');
    if (rows.length === 0 || names.length === 0) return '';
    const which = rows.length === 1 ? rows[0]!.label : `${rows.length} rows`;
    const span = names.length === 1 ? names[0] : `${names[0]} to ${names.at(-1)}`;
    return `${which} · ${span} · ${names.length} ${names.length === 1 ? 'month' : 'months'}`;
  });
  protected readonly dimension = computed(() =>
    this.store.makings()?.dimensions.find(({ name }) => name === this.form().dimension),
  );

  protected readonly sources = new ActionSources(this.kind, this.form, this.versions, this.periods);

  /** Says of what is taken over or shaped by what would surprise: months of it that are empty, or that there is none. */
  protected readonly sourceSays = computed(() => {
    const seeded = this.sources.seed().source;
    if (this.kind() === 'seed' && this.form().seedBy === 'take')
      return seeded ? this.emptyWords('The source', seeded.lines) : '';
    if (!this.sources.takesBaseYear()) return '';
    const [base, lines] = [this.sources.baseYear(), this.sources.baseLines()];
    if (!base) return 'There is no year before this one with figures.';
    return lines ? this.emptyWords(base.name, lines) : '';
  });

  private emptyWords(name: string, baseYear: FigureLines): string {
    const empty = emptyBaseMonths({ baseYear, rows: this.rows(), months: this.own() });
    const names = empty.map((month) => periodName(this.periods()[month]!));
    const which = names.length > 2 ? `${names.length} months, ${names[0]} to ${names.at(-1)}` : names.join(' and ');
    return names.length === 0 ? '' : `${name} has no figures for ${which}: they would be left with nothing.`;
  }

  /** What each method makes of the first selected row, for the months that are selected. */
  protected readonly outlooks = computed((): RowOutlook[] => {
    const [view, row, own] = [this.sources.history(), this.rows()[0], this.own()];
    if (this.kind() !== 'outlook' || !view || !row || own.length === 0 || row.leaves.length === 0) return [];
    const keys = own.map((month) => this.periods()[month]!.key);
    return outlooksOf(
      view,
      row,
      keys,
      this.sources.places().map(({ key }) => key),
    );
  });
  protected readonly chosenOutlook = computed(() =>
    this.outlooks().find(({ method }) => method === this.form().method),
  );

  protected readonly warnings = computed((): string[] => {
    const place = this.store.place();
    const form = this.form();
    if (!place) return [];
    const warnings: string[] = [this.sourceSays()].filter(Boolean);
    if (this.asksWhy()) warnings.push('Say of each one-off that is taken off why it is one.');
    if (this.kind() === 'seed' && form.seedBy === 'take' && form.source === 'actual' && form.yearsBack === 0)
      warnings.push(
        'These are the actuals that the version will be compared with: the variances would come out as nothing.',
      );
    if (this.kind() === 'uplift' && form.compounding === '')
      warnings.push('Say whether the rate counts once or every month.');
    const uplifts = this.store.view() ? this.store.canUndo() : undefined;
    if (this.kind() === 'uplift' && form.compounding === 'compounding' && uplifts?.startsWith('Uplift'))
      warnings.push('The last step was an uplift too; a compounding rate would be applied twice.');
    return warnings;
  });

  protected readonly action = computed((): PlanAction | string => {
    const [rows, chosen] = [this.rows(), this.chosenOutlook()];
    return actionOfForm(this.kind(), this.form(), {
      rows,
      unit: this.store.unit(),
      ownMonths: this.own().length,
      seed: this.sources.seed(),
      outlook: chosen && (chosen.result.problem ?? chosen.figures),
      curve: this.curve(),
    });
  });

  /** The row whose curve is drawn, in the months that are selected; undefined where there is not one alone. */
  protected readonly curveOf = computed(
    () => {
      const [model, own] = [this.store.model(), this.own()];
      const [row, ...others] = this.rows();
      if (this.kind() !== 'curve' || !model || !row || others.length > 0 || row.leaves.length === 0 || own.length < 2)
        return undefined;
      const figures = rowFigures(this.store.lines(), row, model.input.frame);
      const [before, names] = [own.map((at) => figures[at]!), own.map((at) => periodShort(this.periods()[at]!))];
      return { row, before, names };
    },
    { equal: (a, b) => JSON.stringify([a?.row.id, a?.before]) === JSON.stringify([b?.row.id, b?.before]) },
  );
  protected readonly drawn = signal<{ of: object; figures: readonly number[] } | undefined>(undefined);
  /** The curve as it is drawn, as long as it is of what is selected. */
  protected readonly curve = computed(() => {
    const drawn = this.drawn();
    return drawn && drawn.of === this.curveOf() ? drawn.figures : undefined;
  });

  /** The year whose shape is taken, where one-offs can be taken off it. */
  protected readonly baseForOneOffs = computed(
    () => {
      const [lines, base, model] = [this.sources.baseLines(), this.sources.baseYear(), this.store.model()];
      if (!this.sources.takesBaseYear() || !lines || !base || !model) return undefined;
      const names = this.periods().map(({ key }) => {
        const before = this.sources.places().find((place) => place.key === yearsBefore(key, base.yearsBack));
        return before?.name ?? '';
      });
      return { lines, names, frame: model.input.frame };
    },
    { equal: (a, b) => a?.lines === b?.lines && a?.frame === b?.frame && a?.names.join() === b?.names.join() },
  );
  protected readonly oneOffs = signal<{ of: object; taken: readonly TakenOff[] } | undefined>(undefined);
  private readonly takenOff = computed((): readonly TakenOff[] => {
    const oneOffs = this.oneOffs();
    return oneOffs && oneOffs.of === this.baseForOneOffs() ? oneOffs.taken : [];
  });
  /** Lines of the base year without what is taken off. */
  private readonly baseLines = computed(() => {
    const base = this.baseForOneOffs();
    return base && withoutOneOffs(base.lines, this.takenOff(), base.frame);
  });

  private readonly question = computed(() => {
    const [action, model] = [this.action(), this.store.model()];
    if (typeof action === 'string' || !model || (this.sources.takesBaseYear() && !this.sources.baseLines()))
      return undefined;
    const place = {
      months: this.months(),
      periods: this.periods(),
      baseYear: this.baseLines() ?? NO_LINES,
      holidays: this.sources.daysOff()?.off ?? new Set<string>(),
    };
    return { action, rows: this.rows(), place, lines: this.store.lines() };
  });
  private readonly answer = toSignal(
    toObservable(this.question).pipe(
      switchMap((question) =>
        question
          ? from(this.store.plan(question.rows, question.action, question.place)).pipe(
              catchError((error: Error) => of({ ...NO_PREVIEW, problems: [`No preview: ${error.message}`] })),
              map((planned) => ({ question, planned: { ...planned, row: question.rows[0]! } })),
            )
          : of(undefined),
      ),
    ),
  );
  /** The last preview; it stays until the next one is there. */
  protected readonly planned = computed(() => (this.question() ? this.answer()?.planned : undefined));
  /** The preview is that of what is asked for now. */
  protected readonly isCurrent = computed(() => this.answer()?.question === this.question());
  protected readonly figures = computed(() => this.planned()?.changes.length ?? 0);
  protected readonly applyWords = computed(() => {
    const figures = this.figures();
    if (!this.isCurrent()) return 'Working it out…';
    return figures === 0 ? 'Nothing to apply' : `Apply to ${figures} ${figures === 1 ? 'figure' : 'figures'}`;
  });
  protected readonly says = computed(() => {
    const action = this.action();
    return typeof action === 'string' ? action : (this.planned()?.problems.join(' ') ?? '');
  });

  protected readonly range = computed(() => {
    const chosen = this.chosenOutlook();
    return chosen && rangeOf(chosen, this.own());
  });
  protected readonly rangeWords = computed(() => {
    const [range, row] = [this.range(), this.rows()[0]];
    if (!range || !row) return '';
    const text = (amount: number) => exactFigure({ amount: Math.round(amount), unit: row.unit });
    return `If errors stay as they were, 95 of 100 figures of the last month lie between ${text(range.low.at(-1)!)} and ${text(range.high.at(-1)!)}.`;
  });

  /** Whether a one-off lacks its reason. */
  protected readonly asksWhy = signal(false);

  /** What was taken off the year whose shape is taken, and why, as the history of the version keeps it. */
  private withoutWords(): string {
    const said = this.takenOff().map(({ row, month, amount, reason }) => {
      const money = exactFigure({ amount, unit: row.unit });
      return `${money} of ${this.baseForOneOffs()!.names[month]} (${reason.trim()})`;
    });
    return said.length === 0 ? '' : `, without ${said.join(', ')}`;
  }

  protected apply(): void {
    const planned = this.planned();
    if (!planned || !this.isCurrent() || planned.changes.length === 0) return;
    const label = {
      seed: 'Seed',
      outlook: 'Forecast',
      uplift: 'Uplift',
      phase: 'Phase',
      curve: 'Draw',
      series: 'Series',
      round: 'Round',
      move: 'Move',
    }[this.kind()];
    if (this.takenOff().some(({ reason }) => reason.trim() === '')) return this.asksWhy.set(true);
    this.asksWhy.set(false);
    const how = this.kind() === 'move' && this.form().move === 'clear' ? 'cleared' : HOWS[this.kind()];
    const rows = this.rows();
    const of = rows.length === 1 ? rows[0]!.label : `${rows.length} rows`;
    this.store.change(`${label} ${of}${this.withoutWords()}`.slice(0, LONGEST_LABEL), how, planned.changes);
    this.done.emit();
  }
}
