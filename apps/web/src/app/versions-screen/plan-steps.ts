import { computed, inject, Injectable, signal } from '@angular/core';
import type { PlanTemplate } from '@margin-lens/core';
import { PlanningStore } from './planning-store';

/** A step as it was taken, with what it says. */
export type RecordedStep = Omit<PlanTemplate['steps'][number], 'id' | 'rows'> & {
  rows: readonly string[];
  words: string;
};

const KEPT = 'margin-lens.plan-steps';
/** Steps that are remembered of a sheet. */
const MOST = 50; // 10 to 200

/** Steps that were taken in the sheets of this window, to be kept as a template. */
@Injectable()
export class PlanSteps {
  private readonly store = inject(PlanningStore);
  private readonly held = signal<Readonly<Record<string, readonly RecordedStep[]>>>(
    JSON.parse(sessionStorage.getItem(KEPT) ?? '{}') as Record<string, RecordedStep[]>,
  );
  private readonly sheet = computed(() => {
    const place = this.store.place();
    return place ? `${place.version.code} ${place.scope.code} ${place.rows}` : '';
  });
  /** Those of the sheet that is open, in the order in which they were taken. */
  readonly taken = computed(() => this.held()[this.sheet()] ?? []);

  record(step: RecordedStep): void {
    this.keep([...this.taken(), step].slice(-MOST));
  }

  drop(at: number): void {
    this.keep(this.taken().filter((_, place) => place !== at));
  }

  private keep(taken: readonly RecordedStep[]): void {
    this.held.update((held) => ({ ...held, [this.sheet()]: taken }));
    sessionStorage.setItem(KEPT, JSON.stringify(this.held()));
  }
}
