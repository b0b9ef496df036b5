import { computed, signal } from '@angular/core';
import { undoChange, type Document, type DocumentStep } from '@margin-lens/core';
import type { StepsView, StepView } from '@margin-lens/contract';

/** A step of work; what it changed is read from the server when it was done in another sitting. */
export interface Step {
  action: string;
  label: string;
  changes?: readonly DocumentStep[];
}

export type Direction = 'undo' | 'redo';

const newAction = () => `${Date.now().toString(36)}-${Math.random().toString(36).slice(2, 10)}`;

/** What can be taken back and done again, and the log of it that the server has not seen yet. */
export class StepHistory {
  private readonly past = signal<readonly Step[]>([]);
  private readonly future = signal<readonly Step[]>([]);
  private lastMerge: string | undefined;
  private unsent = new Map<string, StepView>();

  readonly canUndo = computed(() => this.past().at(-1)?.label);
  readonly canRedo = computed(() => this.future().at(-1)?.label);

  /** Takes over what was done in other sittings. */
  load(steps: StepsView): void {
    const stepsIn = (state: 'done' | 'undone') =>
      steps.filter((step) => step.state === state).map(({ action, label }) => ({ action, label }));
    this.past.set(stepsIn('done'));
    this.future.set(stepsIn('undone').reverse());
    this.lastMerge = undefined;
  }

  /** Lets go of everything, also of what the server has not seen. */
  forget(): void {
    this.past.set([]);
    this.future.set([]);
    this.lastMerge = undefined;
    this.unsent = new Map();
  }

  /** Adds a step. Changes that bear the same `merge` one after another are one step. */
  add(label: string, changes: readonly DocumentStep[], merge?: string): void {
    const last = this.past().at(-1);
    const growing = merge !== undefined && merge === this.lastMerge ? last?.changes : undefined;
    const step = growing
      ? { action: last!.action, label, changes: grown(growing, changes) }
      : { action: newAction(), label, changes };
    this.past.update((steps) => [...(growing ? steps.slice(0, -1) : steps), step]);
    this.future.set([]);
    this.lastMerge = merge;
    this.unsent.set(step.action, { action: step.action, label, how: 'change', changes: [...step.changes] });
  }

  next(direction: Direction): Step | undefined {
    return this.listOf(direction)().at(-1);
  }

  /** Notes that a step was taken back or done again, and what that changed. */
  turn(direction: Direction, step: Step, changes: readonly DocumentStep[]): void {
    this.listOf(direction).update((steps) => steps.filter(({ action }) => action !== step.action));
    this.listOf(direction === 'undo' ? 'redo' : 'undo').update((steps) => [...steps, step]);
    this.lastMerge = undefined;
    this.log(step, direction, changes);
  }

  /** Leaves a step as it is, so that those before it can be reached. */
  passOver(direction: Direction): void {
    const step = this.next(direction);
    if (!step) return;
    this.listOf(direction).update((steps) => steps.slice(0, -1));
    this.log(step, 'pass_over', []);
  }

  /** The part of the log that is to be sent; `giveBack` when it did not arrive. */
  takeUnsent(): StepView[] {
    const steps = [...this.unsent.values()];
    this.unsent = new Map();
    return steps;
  }

  giveBack(steps: readonly StepView[]): void {
    const later = this.unsent;
    this.unsent = new Map([...steps.map((step) => [step.action, step] as const), ...later]);
  }

  private log(step: Step, how: 'undo' | 'redo' | 'pass_over', changes: readonly DocumentStep[]): void {
    const action = newAction();
    this.unsent.set(action, { action, label: step.label, how, of: step.action, changes: [...changes] });
  }

  private listOf(direction: Direction) {
    return direction === 'undo' ? this.past : this.future;
  }
}

const isSame = (a: DocumentStep, b: DocumentStep) => a.after.kind === b.after.kind && a.after.id === b.after.id;

/** A step that went on: each document from its first state to its last. */
function grown(step: readonly DocumentStep[], more: readonly DocumentStep[]): DocumentStep[] {
  return [
    ...step.map((change) => ({
      before: change.before,
      after: (more.find((other) => isSame(other, change)) ?? change).after,
    })),
    ...more.filter((change) => !step.some((other) => isSame(other, change))),
  ];
}

/** What becomes of a document when a step is turned on it: its new state, or what in it was touched since. */
interface Turned {
  now: Document;
  merged: Document;
  conflicts: readonly string[];
}

/** Takes the changes of a step back, or does them again, on the documents as they stand; `copyOf` finds these. */
export const turnedOn = (
  direction: Direction,
  changes: readonly DocumentStep[],
  copyOf: (document: Document) => Document | undefined,
): Turned[] =>
  changes
    .map(({ before, after }) => (direction === 'undo' ? { before, after } : { before: after, after: before }))
    .map((change) => {
      const now = copyOf(change.after);
      return now
        ? { now, ...undoChange(change, now) }
        : { now: change.after, merged: change.before, conflicts: [change.after.name] };
    });
