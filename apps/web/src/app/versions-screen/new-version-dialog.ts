import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { OpeningField } from './opening-field';
import type { NewVersion, PeriodView, VersionView } from '@margin-lens/contract';

export interface NewVersionQuestion {
  versions: readonly VersionView[];
  periods: readonly PeriodView[];
  /** Last month with postings, where a forecast cuts over. */
  lastActual: string;
  start: Partial<NewVersion>;
}

/** Asks for the kind, range and start of a new version. */
@Component({
  selector: 'ml-new-version-dialog',
  imports: [MatDialogModule, OpeningField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New version</h2>
    <mat-dialog-content>
      <form class="grid" id="new-version" (submit)="$event.preventDefault(); make()">
        <label>Name <input class="field" #name [value]="wanted().name" (input)="set({ name: name.value })" /></label>
        <label>
          Kind
          <select class="field" #kind [value]="wanted().kind" (change)="set({ kind: $any(kind.value) })">
            <option value="plan">Plan: figures of its own</option>
            <option value="forecast">Forecast: actuals to a month, then figures of its own</option>
            <option value="branch">Branch: differs from another version where it is changed</option>
          </select>
        </label>
        @if (wanted().kind === 'branch') {
          <label>
            Branch of
            <select class="field" #parent [value]="wanted().parent" (change)="set({ parent: parent.value })">
              @for (version of data.versions; track version.code) {
                <option [value]="version.code" [selected]="version.code === wanted().parent">{{ version.name }}</option>
              }
            </select>
          </label>
        } @else {
          <label>
            From
            <select class="field" #from (change)="set({ from: from.value })">
              @for (period of months; track period.key) {
                <option [value]="period.key" [selected]="period.key === wanted().from">{{ period.name }}</option>
              }
            </select>
          </label>
          <label>
            To
            <select class="field" #to (change)="set({ to: to.value })">
              @for (period of months; track period.key) {
                <option [value]="period.key" [selected]="period.key === wanted().to">{{ period.name }}</option>
              }
            </select>
          </label>
          @if (wanted().kind === 'forecast') {
            <label>
              Actual to
              <select class="field" #cut (change)="set({ cutOver: cut.value })">
                @for (period of months; track period.key) {
                  <option [value]="period.key" [selected]="period.key === wanted().cutOver">{{ period.name }}</option>
                }
              </select>
            </label>
          }
          <label>
            Start with
            <select class="field" #copy (change)="set({ copyOf: copy.value })">
              <option value="">no figures</option>
              @for (version of data.versions; track version.code) {
                <option [value]="version.code" [selected]="version.code === wanted().copyOf">
                  the figures of {{ version.name }}
                </option>
              }
            </select>
          </label>
          @if (wanted().kind === 'plan') {
            <ml-opening-field
              [versions]="data.versions"
              [periods]="data.periods"
              [first]="wanted().from"
              [opening]="wanted().opening"
              (changed)="set({ opening: $event })"
            />
          }
        }
        @if (problem(); as text) {
          <p class="issue" role="alert">{{ text }}</p>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="button" type="button" mat-dialog-close>Leave</button>
      <button class="button primary stay" type="submit" form="new-version" [disabled]="problem()">Make it</button>
    </mat-dialog-actions>
  `,
  styles: `
    .grid {
      display: grid;
      gap: 10px;
      min-width: 380px;
    }
    label {
      display: grid;
      gap: 3px;
      color: var(--ink-2);
      font-size: 13px;
    }
    .stay {
      margin-left: 8px;
    }
  `,
})
export class NewVersionDialog {
  protected readonly data = inject<NewVersionQuestion>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<NewVersionDialog, NewVersion>>(MatDialogRef);
  protected readonly months = this.data.periods.filter(({ kind }) => kind === 'regular');
  protected readonly wanted = signal<NewVersion>(this.start());
  protected readonly problem = computed(() => {
    const { name, kind, from, to, cutOver, parent, opening } = this.wanted();
    if (name.trim() === '') return 'Give it a name.';
    if (kind === 'branch') return parent === '' ? 'Choose the version that it branches off.' : '';
    if (to < from) return 'It ends before it begins.';
    if (kind === 'plan' && opening && opening.period >= from) return 'It opens with a month before its first.';
    if (kind === 'forecast' && (cutOver < from || cutOver >= to))
      return 'The last actual month lies inside, before the last month.';
    return '';
  });

  protected set(change: Partial<NewVersion>): void {
    this.wanted.update((wanted) => ({ ...wanted, ...change }));
  }

  protected make(): void {
    const { kind, opening } = this.wanted();
    if (this.problem() === '') this.ref.close({ ...this.wanted(), opening: kind === 'plan' ? opening : null });
  }

  private start(): NewVersion {
    const last = this.months.find(({ key }) => key === this.data.lastActual) ?? this.months.at(-1)!;
    const year = this.months.filter(({ fiscalYear }) => fiscalYear === last.fiscalYear);
    const next = this.months.filter(({ fiscalYear }) => fiscalYear === last.fiscalYear + 1);
    const range = next.length > 0 ? next : year;
    return {
      name: `Plan FY${String(range[0]!.fiscalYear).slice(2)}`,
      kind: 'plan',
      from: range[0]!.key,
      to: range.at(-1)!.key,
      cutOver: this.data.lastActual,
      parent: this.data.versions.at(-1)?.code ?? '',
      copyOf: '',
      opening: null,
      ...this.data.start,
    };
  }
}

export interface ReasonQuestion {
  title: string;
  says: string;
  act: string;
}

/** Asks for a reason before a version goes back. */
@Component({
  selector: 'ml-reason-dialog',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.title }}</h2>
    <mat-dialog-content>
      <p>{{ data.says }}</p>
      <label>Reason <input class="field" #reason (input)="text.set(reason.value)" /></label>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="button" type="button" mat-dialog-close>Leave</button>
      <button class="button primary" type="button" [disabled]="text().trim() === ''" [mat-dialog-close]="text()">
        {{ data.act }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    label {
      display: grid;
      gap: 3px;
      margin-top: 12px;
      color: var(--ink-2);
      font-size: 13px;
    }
    .primary {
      margin-left: 8px;
    }
  `,
})
export class ReasonDialog {
  protected readonly data = inject<ReasonQuestion>(MAT_DIALOG_DATA);
  protected readonly text = signal('');
}
