import { inject, Injectable, NgZone, signal } from '@angular/core';
import { Observable, type Subscription } from 'rxjs';
import type { CheckRequest, ErrorReply, ImportJobView, ImportRunView, LookAgain } from '@margin-lens/contract';
import type { Mapping } from '@margin-lens/core';
import { WorkspaceStore } from '../shared/workspace-store';
import { formOf, type DeliveredFile } from './read-dropped-files';
import { ImportsApi } from './imports-api';

const ENDED: readonly ImportJobView['state'][] = ['done', 'refused', 'cancelled', 'failed'];

/** A foreign file that was refused can be read another way. */
const isOver = ({ state, inspection }: ImportJobView) =>
  ENDED.includes(state) && !(state === 'refused' && inspection !== null);

/** Deliveries: the one under way, followed by server-sent events, and those that were brought in. */
@Injectable()
export class ImportStore {
  private readonly api = inject(ImportsApi);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly zone = inject(NgZone);
  private following: Subscription | undefined;

  readonly job = signal<ImportJobView | undefined>(undefined);
  readonly runs = signal<ImportRunView[] | undefined>(undefined);
  readonly error = signal<ErrorReply | undefined>(undefined);
  readonly isSending = signal(false);
  /** Something was asked of the delivery, and it has not moved yet. */
  readonly isAsked = signal(false);

  load(): void {
    this.api.all().subscribe({
      next: ({ runs, running }) => {
        this.runs.set(runs);
        if (running) this.follow(running);
      },
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  send(files: readonly DeliveredFile[]): void {
    if (files.length === 0) return;
    this.error.set(undefined);
    this.job.set(undefined);
    this.isSending.set(true);
    this.api.start(formOf(files)).subscribe({
      next: (job) => {
        this.isSending.set(false);
        this.follow(job);
      },
      error: (error: ErrorReply) => {
        this.isSending.set(false);
        this.error.set(error);
        // another delivery may be in its way: it is shown, so that it can be answered or cancelled
        this.load();
      },
    });
  }

  answer(again: boolean): void {
    this.act((id) => this.api.answer(id, again));
  }

  lookAgain(said: LookAgain): void {
    this.act((id) => this.api.lookAgain(id, said));
  }

  /** Checks the delivery; without a mapping by the one it was checked with before. */
  check(request: CheckRequest): void {
    this.act((id) => this.api.check(id, request));
  }

  survey(mapping: Mapping): void {
    this.act((id) => this.api.survey(id, mapping));
  }

  goAhead(): void {
    this.act((id) => this.api.goAhead(id));
  }

  undo(run: number): void {
    this.error.set(undefined);
    this.job.set(undefined);
    this.api.undo(run).subscribe({
      next: () => {
        this.load();
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  private act(request: (id: string) => Observable<ImportJobView>): void {
    const job = this.job();
    this.error.set(undefined);
    if (!job) return;
    this.isAsked.set(true);
    request(job.id).subscribe({
      error: (error: ErrorReply) => {
        this.isAsked.set(false);
        this.error.set(error);
      },
    });
  }

  cancel(): void {
    this.act((id) => this.api.cancel(id));
  }

  stop(): void {
    this.following?.unsubscribe();
  }

  private follow(job: ImportJobView): void {
    this.take(job);
    this.following?.unsubscribe();
    this.following = this.events(job.id).subscribe((view) => this.take(view));
  }

  private take(job: ImportJobView): void {
    this.isAsked.set(false);
    this.job.set(job);
    if (!isOver(job)) return;
    this.following?.unsubscribe();
    this.load();
    if (job.state === 'done') this.workspaces.reload();
  }

  private events(id: string): Observable<ImportJobView> {
    return new Observable((observer) => {
      const source = new EventSource(this.api.eventsUrl(id));
      source.onmessage = ({ data }: MessageEvent<string>) =>
        this.zone.run(() => observer.next(JSON.parse(data) as ImportJobView));
      return () => source.close();
    });
  }
}
