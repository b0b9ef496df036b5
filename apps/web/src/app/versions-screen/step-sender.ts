import { computed, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, concatMap, debounceTime, EMPTY, of, Subject, switchMap, tap, type Observable } from 'rxjs';
import { mergeChanges, type FigureChange } from '@margin-lens/core';
import type { ErrorReply, How, SavedFigures } from '@margin-lens/contract';

/** Pause in the edits after which they are sent, in milliseconds. */
const SAVE_PAUSE_MS = 300; // 50 to 2000

/** Changes of figures that are one in the history. */
export interface Step {
  label: string;
  how: How;
  changes: readonly FigureChange[];
}

/** A figure that someone else changed while it was changed here. */
export type Conflict = Extract<SavedFigures, { state: 'conflict' }>['cells'][number];

/** How steps are written. */
interface Writing {
  write: (step: Step) => Observable<SavedFigures>;
  /** Takes what others wrote meanwhile; gives the changes that it does not touch, which are sent again. */
  meet: (cells: readonly Conflict[], changes: readonly FigureChange[]) => FigureChange[];
}

/** Sends the steps of a sheet one after the other, a pause after the last of them, and says how far it is. */
export class StepSender {
  readonly waiting = signal<readonly Step[]>([]);
  readonly count = computed(() => this.waiting().length);
  readonly state = signal<'saved' | 'saving' | 'failed'>('saved');
  readonly error = signal<ErrorReply | undefined>(undefined);
  /** Writes that the server took since the sheet was read. */
  readonly saves = signal(0);
  private readonly sends = new Subject<void>();

  /** To be made where a component or service is. */
  constructor(private readonly writing: Writing) {
    this.sends
      .pipe(
        debounceTime(SAVE_PAUSE_MS),
        concatMap(() => this.send()),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  add(step: Step): void {
    this.waiting.update((steps) => [...steps, step]);
    this.state.set('saving');
    this.sends.next();
  }

  /** Tries again to send what could not be saved. */
  retry(): void {
    this.sends.next();
  }

  /** Gives up what could not be saved. */
  drop(): void {
    this.waiting.set([]);
    this.state.set('saved');
    this.error.set(undefined);
  }

  /** Sends what waits; changes of the same kind one after another go together. */
  private send(): Observable<unknown> {
    const [first, ...rest] = this.waiting();
    if (!first) return EMPTY;
    const other = rest.findIndex(({ how, label }) => how !== first.how || label !== first.label);
    const steps = [first, ...(other < 0 ? rest : rest.slice(0, other))];
    const changes = steps.reduce<FigureChange[]>((all, step) => mergeChanges(all, step.changes), []);
    const done = () => this.waiting.update((waiting) => waiting.slice(steps.length));
    if (changes.length === 0) {
      done();
      return this.afterSend();
    }
    return this.writing.write({ ...first, changes }).pipe(
      tap((saved) => {
        done();
        if (saved.state === 'conflict') this.sendRest(this.writing.meet(saved.cells, changes));
        this.saves.update((count) => count + 1);
      }),
      switchMap(() => this.afterSend()),
      catchError((error: ErrorReply) => {
        this.state.set('failed');
        this.error.set(error);
        return EMPTY;
      }),
    );
  }

  private sendRest(changes: readonly FigureChange[]): void {
    if (changes.length > 0) this.waiting.update((steps) => [{ label: 'the rest', how: 'typed', changes }, ...steps]);
  }

  private afterSend(): Observable<unknown> {
    this.error.set(undefined);
    if (this.count() > 0) return this.send();
    this.state.set('saved');
    return of(undefined);
  }
}
