import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import {
  lineChange,
  type ForecastQuestion,
  type PlanAnswer,
  type PlanQuestion,
  type RowForecast,
  type TotalsQuestion,
} from '@margin-lens/core';
import type { SheetQuestion, SheetReply } from './sheet-answer';
import { isSameBut, type SheetSides, type SheetTotals } from './sheet-totals';
import { startSheetWorker } from './start-sheet-worker';

interface Waiting {
  resolve(answer: unknown): void;
  reject(error: Error): void;
}

/**
 * Has a planning sheet evaluated in a thread, so that typing never waits for it. Only the latest totals that are wanted
 * are asked for, one question after the other, so that no answer is older than the one before it.
 */
@Injectable()
export class SheetThread {
  /** The latest answer; what it is of says whether it still holds. */
  readonly totals = signal<SheetTotals | undefined>(undefined);
  /** Why there are no totals; empty as long as nothing went wrong. */
  readonly problem = signal('');
  private readonly worker = startSheetWorker();
  private readonly waiting = new Map<number, Waiting>();
  private lastId = 0;
  private wanted: SheetSides | undefined;
  /** What the thread has. */
  private sent: SheetSides | undefined;
  /** Questions for totals that are not answered yet. */
  private pending = 0;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<SheetReply>) => {
      const waiting = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if ('answer' in data) waiting?.resolve(data.answer);
      else waiting?.reject(new Error(data.error));
    };
    // a thread that has failed answers nothing that it was asked
    this.worker.onerror = ({ message }) => {
      for (const { reject } of this.waiting.values()) reject(new Error(message));
      this.waiting.clear();
    };
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  want(sides: SheetSides): void {
    this.wanted = sides;
    if (this.pending === 0) this.bringUp();
  }

  /** What an action would change in a sheet. */
  plan(sides: SheetSides, question: Omit<PlanQuestion, 'do'>): Promise<PlanAnswer> {
    this.wanted = sides;
    this.bringUp();
    return this.ask({ do: 'plan', ...question });
  }

  /** What each method makes of rows of a sheet. */
  forecast(sides: SheetSides, question: Omit<ForecastQuestion, 'do'>): Promise<RowForecast[]> {
    this.wanted = sides;
    this.bringUp();
    return this.ask({ do: 'forecast', ...question });
  }

  /** Gives the thread what is wanted, unless it has it. */
  private bringUp(): void {
    const { wanted, sent } = this;
    if (!wanted || (sent && isSameBut(wanted, sent) && wanted.lines === sent.lines)) return;
    this.sent = wanted;
    this.pending++;
    this.ask<Float64Array[]>(questionOf(wanted, sent)).then(
      (answer) => this.take(wanted, answer),
      (error: Error) => {
        this.pending--;
        // what it has is not known any more: the next question opens the sheet anew, and nothing old is shown
        this.sent = undefined;
        this.totals.set(undefined);
        this.problem.set(`The totals could not be worked out: ${error.message}`);
      },
    );
  }

  private take(of: SheetSides, [own, ...beside]: Float64Array[]): void {
    const before = this.totals();
    this.problem.set('');
    this.totals.set({ of, own: own!, beside: before && isSameBut(of, before.of) ? before.beside : beside });
    if (--this.pending === 0) this.bringUp();
  }

  private ask<T>(question: SheetQuestion['question']): Promise<T> {
    const id = ++this.lastId;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: (answer) => resolve(answer as T), reject });
      this.worker.postMessage({ id, question } satisfies SheetQuestion);
    });
  }
}

function questionOf(wanted: SheetSides, before: SheetSides | undefined): TotalsQuestion {
  const { source, lines, openings, beside } = wanted;
  if (before && isSameBut(wanted, before)) return { do: 'change', ...lineChange(before.lines, lines) };
  return {
    ...{ do: 'open', source, own: { lines, openings } },
    beside: beside.map((side) => ({ lines: side.lines, openings: side.openings })),
  };
}
