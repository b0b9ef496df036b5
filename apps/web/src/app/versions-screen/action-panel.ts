import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatRadioModule } from '@angular/material/radio';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import {
  emptyBaseMonths,
  exactFigure,
  periodName,
  PHASINGS,
  planDifference,
  RUN_RATES,
  type FigureLines,
  type Phasing,
  type RunRate,
} from '@margin-lens/core';
import type { VersionView } from '@margin-lens/contract';
import { PlanningStore } from './planning-store';
import { EMPTY_FORM, type ActionForm, type ActionKind } from './action-form';
import { ACTION_LABELS } from './action-labels';
import { ActionModel } from './action-model';
import { rangeOf } from './action-outlook';
import { ActionResult } from './action-result';
import { differenceWords } from './balance-words';
import { CurveField } from './curve-field';
import { ForecastField } from './forecast-field';
import { OneOffsField } from './one-offs-field';
import { PlanSteps, type RecordedStep } from './plan-steps';
import { SeriesFields } from './series-fields';
import type { SheetSelection } from './planning-table';
import { InWordsPipe } from '../shared/in-words-pipe';

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
/** An action on the selection: what it needs, what it would do, and the button that does it. */
@Component({
  selector: 'ml-action-panel',
  imports: [
    InWordsPipe,
    ActionResult,
    CurveField,
    ForecastField,
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
  styleUrls: ['./action-fields.scss', './action-panel.scss'],
})
export class ActionPanel {
  readonly kind = input.required<ActionKind>();
  readonly selection = input<SheetSelection>();
  readonly versions = input<readonly VersionView[]>([]);
  readonly done = output();

  protected readonly store = inject(PlanningStore);
  private readonly steps = inject(PlanSteps);
  protected readonly PHASINGS = PHASINGS.map((phasing) => ({ phasing, words: PHASING_WORDS[phasing] }));
  protected readonly RUN_RATES = RUN_RATES.map((by) => ({ by, words: RUN_RATE_WORDS[by] }));

  /** What was chosen, as text of the fields. */
  protected readonly form = signal<ActionForm>(EMPTY_FORM);

  protected set(change: Partial<ActionForm>): void {
    this.form.update((form) => ({ ...form, ...change }));
  }

  private readonly rowIds = computed(() => this.selection()?.rows.map(({ id }) => id) ?? []);
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
  protected readonly model = new ActionModel({
    ...{ kind: this.kind, form: this.form, rows: this.rowIds, months: this.months },
    ...{ unit: this.store.unit, versions: this.versions },
  });
  protected readonly rows = this.model.rows;
  protected readonly own = this.model.own;
  protected readonly periods = this.model.periods;
  protected readonly sources = this.model.sources;
  protected readonly title = computed(() => {
    const rows = this.rows();
    const names = this.own().map((month) => this.periods()[month]?.label ?? '');
    const isOfAll = this.kind() === 'balance';
    if ((rows.length === 0 && !isOfAll) || names.length === 0) return '';
    const which = isOfAll ? 'Balance sheet' : rows.length === 1 ? rows[0]!.label : `${rows.length} rows`;
    const span = names.length === 1 ? names[0] : `${names[0]} to ${names.at(-1)}`;
    return `${which} · ${span} · ${names.length} ${names.length === 1 ? 'month' : 'months'}`;
  });
  protected readonly dimension = computed(() =>
    this.store.makings()?.dimensions.find(({ name }) => name === this.form().dimension),
  );

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

  protected readonly warnings = computed((): string[] => {
    const place = this.store.place();
    const form = this.form();
    if (!place) return [];
    const warnings: string[] = [this.sourceSays()].filter(Boolean);
    if (this.model.asksWhy()) warnings.push('Say of each one-off that is taken off why it is one.');
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

  /** Where the balance sheet is out, and by how much at the end. */
  protected readonly balanceSays = computed(() => {
    const [sides, own] = [this.store.sides(), this.store.model()?.input.frame.own];
    if (!sides || !own) return undefined;
    return differenceWords(planDifference(this.store.lines(), sides.accounts, own), sides.months, sides.unit);
  });

  protected readonly applyWords = computed(() => {
    const figures = this.model.figures();
    if (!this.model.isCurrent()) return 'Working it out…';
    return figures === 0 ? 'Nothing to apply' : `Apply to ${figures} ${figures === 1 ? 'figure' : 'figures'}`;
  });
  protected readonly range = computed(() => {
    const chosen = this.model.onlyOutlook();
    return chosen && rangeOf(chosen, this.own());
  });
  protected readonly rangeWords = computed(() => {
    const [range, row] = [this.range(), this.rows()[0]];
    if (!range || !row) return '';
    const text = (amount: number) => exactFigure({ amount: Math.round(amount), unit: row.unit });
    return `If errors stay as they were, 95 of 100 figures of the last month lie between ${text(range.low.at(-1)!)} and ${text(range.high.at(-1)!)}.`;
  });

  protected apply(): void {
    const step = this.recorded();
    if (!this.model.apply()) return;
    if (step) this.steps.record(step);
    this.done.emit();
  }

  /** What is done, so that it can be done again elsewhere; undefined of what is drawn by hand. */
  private recorded(): RecordedStep | undefined {
    const kind = this.kind();
    const [own, first] = [this.own(), this.store.model()?.input.frame.own.indexOf(true) ?? 0];
    if (kind === 'curve' || own.length === 0) return undefined;
    return {
      ...{ action: kind, rows: this.rowIds(), unit: this.store.unit(), settings: { ...this.form() } },
      ...{ from: own[0]! - first, to: own.at(-1)! - first, words: `${ACTION_LABELS[kind]} ${this.title()}` },
    };
  }
}
