import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { freshId, type PlanTemplate } from '@margin-lens/core';
import type { ErrorReply, ListedDocument, VersionView } from '@margin-lens/contract';
import { concatMap } from 'rxjs';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { EMPTY_FORM, type ActionForm, type ActionKind } from './action-form';
import { ACTION_LABELS } from './action-labels';
import { ActionModel } from './action-model';
import { PlanSteps } from './plan-steps';
import { PlanningStore } from './planning-store';

type Step = PlanTemplate['steps'][number];

/** What became of a step that was taken again. */
interface Outcome {
  words: string;
  says: string;
  isDone: boolean;
}

/** Steps that were taken here, kept as a template, and templates taken again step by step, with what did not fit. */
@Component({
  selector: 'ml-steps-panel',
  imports: [MatButtonModule, MatFormFieldModule, MatIconModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Taken here</h2>
    @if (steps.taken().length === 0) {
      <p>
        Steps that you take in this sheet stand here, to be kept as a template. What is typed or drawn is not among
        them.
      </p>
    } @else {
      <ol data-testid="steps-taken">
        @for (step of steps.taken(); track $index; let at = $index) {
          <li>
            <span>{{ step.words }}</span>
            <button matIconButton type="button" [attr.aria-label]="'Leave out ' + step.words" (click)="steps.drop(at)">
              <mat-icon svgIcon="close" />
            </button>
          </li>
        }
      </ol>
      <div class="keep">
        <mat-form-field>
          <mat-label>Name of the template</mat-label>
          <input matInput #name maxlength="80" [value]="named()" (input)="named.set(name.value)" />
        </mat-form-field>
        <button matButton="outlined" type="button" [disabled]="named().trim() === ''" (click)="keep()">Keep</button>
      </div>
    }
    <h2>Templates</h2>
    @if (templates().length === 0) {
      <p>There are none yet.</p>
    }
    <ul data-testid="templates">
      @for (each of templates(); track each.id) {
        <li>
          <span
            >{{ each.name }} <span class="thin">{{ each.holds }}</span></span
          >
          <button matButton="outlined" type="button" [disabled]="running() !== undefined" (click)="replay(each.id)">
            Take its steps
          </button>
          <button matIconButton type="button" [attr.aria-label]="'Delete ' + each.name" (click)="remove(each.id)">
            <mat-icon svgIcon="close" />
          </button>
        </li>
      }
    </ul>
    @if (failure(); as error) {
      <p class="adverse" role="alert">{{ error.message }} {{ error.hint }}</p>
    }
    @if (outcomes().length > 0 || running()) {
      <h2>{{ heading() }}</h2>
      <ol data-testid="steps-outcome" aria-live="polite">
        @for (each of outcomes(); track $index) {
          <li>
            <span>{{ each.words }}</span>
            <span class="thin" [class.adverse]="!each.isDone">{{ each.says }}</span>
          </li>
        }
      </ol>
      <p>Each step is one of its own in the history: Ctrl Z takes back the last.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 12px 14px;
    }
    h2 {
      margin: 12px 0 4px;
      font: 600 var(--text) / 1.3 var(--sans);

      &:first-child {
        margin-top: 0;
      }
    }
    p {
      margin: 0 0 8px;
      color: var(--ink-2);
      font-size: var(--medium);
    }
    ol,
    ul {
      margin: 0 0 8px;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 8px;
      padding: 3px 0;
      border-bottom: 1px solid var(--rule);

      > :first-child {
        flex: 1;
      }
    }
    .keep {
      display: grid;
      grid-template-columns: 1fr auto;
      align-items: end;
      gap: 8px;
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--small);
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class StepsPanel {
  readonly versions = input<readonly VersionView[]>([]);

  private readonly api = inject(Api);
  private readonly store = inject(PlanningStore);
  protected readonly steps = inject(PlanSteps);

  protected readonly named = signal('');
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  private readonly library = asked(signal({}), () => this.api.library());
  protected readonly templates = computed((): ListedDocument[] =>
    (this.library.state().view?.documents ?? []).filter(({ kind, archived }) => kind === 'plan_template' && !archived),
  );

  /** The template whose steps are taken, and how far it is. */
  protected readonly running = signal<{ template: PlanTemplate; at: number } | undefined>(undefined);
  protected readonly outcomes = signal<readonly Outcome[]>([]);
  private readonly played = signal('');
  private readonly step = computed((): Step | undefined => {
    const running = this.running();
    return running?.template.steps[running.at];
  });
  protected readonly heading = computed(() => {
    const left = this.outcomes().filter(({ isDone }) => !isDone).length;
    if (this.running()) return `Taking the steps of ${this.played()}…`;
    return left === 0 ? `${this.played()}: all steps fitted` : `${this.played()}: ${left} did not fit`;
  });

  private readonly months = computed((): number[] => {
    const [step, own] = [this.step(), this.store.model()?.input.frame.own ?? []];
    const first = own.indexOf(true);
    if (!step || first < 0) return [];
    return own.flatMap((isOwn, at) => (isOwn && at >= first + step.from && at <= first + step.to ? [at] : []));
  });
  private readonly model = new ActionModel({
    kind: computed((): ActionKind => this.step()?.action ?? 'seed'),
    form: computed((): ActionForm => ({ ...EMPTY_FORM, ...this.step()?.settings })),
    rows: computed(() => this.step()?.rows ?? []),
    months: this.months,
    unit: computed(() => this.step()?.unit ?? 1),
    versions: this.versions,
  });

  constructor() {
    effect(() => {
      const step = this.step();
      if (!step) return;
      const says = this.unfit(step) ?? this.model.problem();
      if (says !== undefined) untracked(() => this.take(step, says));
    });
  }

  protected keep(): void {
    const place = this.store.place();
    if (!place) return;
    const known = new Set(this.library.state().view?.documents.map(({ id }) => id));
    const template: PlanTemplate = {
      ...{ schema: 1, kind: 'plan_template', id: freshId(this.named(), known), name: this.named().trim() },
      layout: place.rows,
      steps: this.steps
        .taken()
        .map(({ words: _, rows, ...step }, at) => ({ ...step, rows: [...rows], id: `s${at + 1}` })),
    };
    this.api.createDocument(template).subscribe({ next: () => this.named.set(''), ...this.then });
  }

  protected remove(id: string): void {
    this.api
      .document('plan_template', id)
      .pipe(
        concatMap(({ document, base }) =>
          this.api.keepDocument({ ...(document as PlanTemplate), archived: true }, base),
        ),
      )
      .subscribe(this.then);
  }

  protected replay(id: string): void {
    this.api.document('plan_template', id).subscribe({
      next: ({ document }) => this.begin(document as PlanTemplate),
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }

  private readonly then = {
    complete: () => {
      this.failure.set(undefined);
      this.library.again();
    },
    error: (error: ErrorReply) => this.failure.set(error),
  };

  private begin(template: PlanTemplate): void {
    this.failure.set(undefined);
    this.outcomes.set([]);
    this.played.set(template.name);
    // rows that stand below others are there once these are open
    const above = template.steps.flatMap(({ rows }) =>
      rows.flatMap((row) => (row.includes(':') ? row.slice(0, row.indexOf(':')) : [])),
    );
    if (above.length > 0) this.store.hideUnused.set(false);
    this.store.open.update((open) => new Set([...open, ...above]));
    this.running.set(template.steps.length > 0 ? { template, at: 0 } : undefined);
  }

  /** Why a step cannot be taken here at all; undefined where it may. */
  private unfit({ rows }: Step): string | undefined {
    const running = this.running()!;
    if (this.store.place()?.rows !== running.template.layout) return 'is of other rows than this sheet shows';
    if (this.months().length === 0) return 'its months are not of this version';
    if (rows.every((id) => !this.has(id))) return 'none of its rows is here';
    return undefined;
  }

  private has(id: string): boolean {
    return this.store.model()?.rows.some((row) => row.id === id) ?? false;
  }

  private take(step: Step, says: string): void {
    const running = this.running()!;
    const figures = this.model.figures();
    const isDone = says === '' && this.model.apply();
    const missing = step.rows.filter((id) => !this.has(id));
    const without =
      missing.length > 0 && isDone
        ? `, without ${missing.length === 1 ? 'a row' : `${missing.length} rows`} that are not here`
        : '';
    const rows = this.model.rows().map(({ label }) => label);
    const of = rows.length === 1 ? rows[0] : `${step.rows.length} rows`;
    const done = `${figures} ${figures === 1 ? 'figure' : 'figures'}${without}`;
    this.outcomes.update((outcomes) => [
      ...outcomes,
      { words: `${ACTION_LABELS[step.action]} ${of}`, says: isDone ? done : says, isDone },
    ]);
    const next = running.at + 1;
    this.running.set(next < running.template.steps.length ? { ...running, at: next } : undefined);
  }
}
