import { inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, concatMap, debounceTime, EMPTY, Subject, tap, type Observable } from 'rxjs';
import type { Document } from '@margin-lens/core';
import type { DocumentView, ErrorReply } from '@margin-lens/contract';
import { Api } from '../shared/api';
import type { StepHistory } from './step-history';

/** Pause in the edits after which the draft is sent, in milliseconds. */
const DRAFT_PAUSE_MS = 250; // 50 to 2000

export const keyOf = ({ kind, id }: Pick<Document, 'kind' | 'id'>): string => `${kind}/${id}`;

/** A document of the sitting as it stands, and as it is kept. */
export interface Copy {
  document: Document;
  kept: DocumentView;
}

/** Sends drafts of what is shaped a moment after each change, with the steps that led there. */
export class DraftSaver {
  private readonly api = inject(Api);
  readonly state = signal<'none' | 'saving' | 'saved' | 'failed' | 'elsewhere'>('none');
  private readonly saves = new Subject<void>();
  /** Something was done that has not been sent yet. */
  private isBehind = false;
  /** Documents of which a draft is on the server, each with the stamp of the state that this window saw. */
  private readonly drafted = new Map<string, string>();

  constructor(
    private readonly history: StepHistory,
    private readonly copies: () => Copy[],
  ) {
    this.saves
      .pipe(
        tap(() => {
          this.isBehind = true;
          this.state.set('saving');
        }),
        debounceTime(DRAFT_PAUSE_MS),
        concatMap(() => this.send()),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  /** Begins with documents as the server has them. */
  begin(views: readonly DocumentView[]): void {
    this.note(views);
    this.state.set(views.some(({ draft }) => draft) ? 'saved' : 'none');
  }

  /** Notes the drafts that the server has. */
  note(views: readonly DocumentView[]): void {
    for (const { document, draft } of views) {
      if (draft) this.drafted.set(keyOf(document), draft.stamp);
      else this.drafted.delete(keyOf(document));
    }
  }

  save(): void {
    this.saves.next();
  }

  private send(): Observable<unknown> {
    const isChanged = ({ document, kept }: Copy) => JSON.stringify(kept.document) !== JSON.stringify(document);
    const copies = this.copies();
    const drafts = copies.filter(isChanged);
    const dropped = copies.filter((copy) => !isChanged(copy) && this.drafted.has(keyOf(copy.document)));
    const steps = this.history.takeUnsent();
    this.isBehind = false;
    const seenOf = (document: Document) => this.drafted.get(keyOf(document)) ?? '';
    return this.api
      .saveDrafts({
        drafts: drafts.map(({ document, kept }) => ({ document, base: kept.base, seen: seenOf(document) })),
        dropped: dropped.map(({ document }) => ({ kind: document.kind, id: document.id, seen: seenOf(document) })),
        steps,
      })
      .pipe(
        tap((saved) => {
          for (const { stamp, ...document } of saved) this.drafted.set(keyOf(document), stamp);
          for (const { document } of dropped) this.drafted.delete(keyOf(document));
          if (!this.isBehind) this.state.set(drafts.length > 0 ? 'saved' : 'none');
        }),
        catchError(({ code }: ErrorReply) => {
          this.history.giveBack(steps);
          this.state.set(code === 'SRV_DRAFT_CHANGED' ? 'elsewhere' : 'failed');
          return EMPTY;
        }),
      );
  }
}
