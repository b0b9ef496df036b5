import { computed, inject, Injectable, signal, untracked } from '@angular/core';
import { asked } from '../shared/asked';
import { tap, type Observable } from 'rxjs';
import type { LiveRemark, RemarksQuery, RemarkText } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { remarkStates } from './remark-text';

/** The remarks of a statement, entity and month, with their quoted figures live; written, answered and taken out. */
@Injectable({ providedIn: 'root' })
export class RemarksStore {
  private readonly api = inject(Api);
  private readonly question = signal<RemarksQuery | undefined>(undefined);

  private readonly asking = asked(this.question, (query) => this.api.remarks(query));
  readonly answer = this.asking.state;
  readonly remarks = computed((): readonly LiveRemark[] => this.answer().view?.remarks ?? []);
  readonly proposals = computed((): readonly LiveRemark[] => this.answer().view?.proposals ?? []);
  /** Name of the month that proposals come from. */
  readonly before = computed(() => this.answer().view?.before ?? '');
  readonly states = computed(() => remarkStates(this.remarks()));

  /** Reads the remarks of a question, also when it was asked before: their figures may have moved. */
  ask(question: RemarksQuery): void {
    untracked(() => {
      const isSame = JSON.stringify(question) === JSON.stringify(this.question());
      if (isSame) this.asking.again();
      else this.question.set(question);
    });
  }

  write(remark: RemarkText): Observable<unknown> {
    return this.api.writeRemark(remark).pipe(tap(() => this.asking.again()));
  }

  change(id: string, remark: RemarkText): Observable<unknown> {
    return this.api.changeRemark(id, remark).pipe(tap(() => this.asking.again()));
  }

  remove(id: string): Observable<unknown> {
    return this.api.removeRemark(id).pipe(tap(() => this.asking.again()));
  }

  bringBack(id: string): Observable<unknown> {
    return this.api.bringBackRemark(id).pipe(tap(() => this.asking.again()));
  }
}

/** What is kept of a remark, without who wrote it and its figures of now. */
export const textOf = ({
  scope,
  period,
  statement,
  row,
  column,
  columns,
  text,
  quotes,
  state,
  carries,
  explains,
}: LiveRemark): RemarkText => ({
  scope,
  period,
  statement,
  row,
  column,
  columns,
  text,
  quotes,
  state,
  carries,
  ...(explains && { explains }),
});
