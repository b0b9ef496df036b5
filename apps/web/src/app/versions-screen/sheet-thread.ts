import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { lineChange, type SheetQuestion } from '@margin-lens/core';
import { isSameBut, type SheetSides, type SheetTotals } from './sheet-totals';
import { startSheetWorker } from './start-sheet-worker';

/**
 * Has the totals of a planning sheet evaluated in a thread, so that typing never waits for them. Only the latest state
 * that is wanted is asked for, one question after the other, so that no answer is older than the one before it.
 */
@Injectable()
export class SheetThread {
  /** The latest answer; what it is of says whether it still holds. */
  readonly totals = signal<SheetTotals | undefined>(undefined);
  private readonly worker = startSheetWorker();
  private wanted: SheetSides | undefined;
  private asked: SheetSides | undefined;
  private answered: SheetTotals | undefined;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<Float64Array[]>) => this.take(data);
    // an error of the thread is one of the page: what is kept of the totals no longer holds
    this.worker.onerror = ({ message }) => {
      this.asked = this.answered = undefined;
      throw new Error(message);
    };
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  want(sides: SheetSides): void {
    this.wanted = sides;
    if (!this.asked) this.askNext();
  }

  private askNext(): void {
    const { wanted, answered } = this;
    if (!wanted || (answered && isSameBut(wanted, answered.of) && wanted.lines === answered.of.lines)) return;
    this.asked = wanted;
    this.worker.postMessage(questionOf(wanted, answered?.of));
  }

  private take([own, ...beside]: Float64Array[]): void {
    const of = this.asked!;
    const isOpened = !this.answered || !isSameBut(of, this.answered.of);
    this.answered = { of, own: own!, beside: isOpened ? beside : this.answered!.beside };
    this.asked = undefined;
    this.totals.set(this.answered);
    this.askNext();
  }
}

const questionOf = (wanted: SheetSides, before: SheetSides | undefined): SheetQuestion => {
  const { source, lines, openings, beside } = wanted;
  if (before && isSameBut(wanted, before)) return { do: 'change', ...lineChange(before.lines, lines) };
  return {
    ...{ do: 'open', source, own: { lines, openings } },
    beside: beside.map((side) => ({ lines: side.lines, openings: side.openings })),
  };
};
