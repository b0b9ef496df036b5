import { inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject, map, merge, tap, timer, type Observable } from 'rxjs';
import type { MoveVersion, NewVersion, VersionSettings, VersionView } from '@margin-lens/contract';
import { VersionsApi } from '../shared/versions-api';
import { latestAnswer, NO_ANSWER, type Answer } from '../shared/latest-answer';
import { WorkspaceStore } from '../shared/workspace-store';

/** How often versions are asked for anew, so that what others write shows, in milliseconds. */
const POLL_MS = 15_000; // 5000 to 120,000

/** All versions, and what is done to them as a whole. */
@Injectable()
export class VersionsStore {
  private readonly api = inject(VersionsApi);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly reloads = new BehaviorSubject<void>(undefined);

  readonly answer = toSignal(
    latestAnswer(merge(this.reloads, timer(POLL_MS, POLL_MS)), () => this.api.versions()),
    { initialValue: NO_ANSWER as Answer<VersionView[]> },
  );

  reload(): void {
    this.reloads.next();
  }

  create(wanted: NewVersion): Observable<string> {
    return this.after(this.api.createVersion(wanted).pipe(map(({ code }) => code)));
  }

  setUp(code: string, settings: VersionSettings): Observable<unknown> {
    return this.after(this.api.setUpVersion(code, settings));
  }

  move(code: string, move: MoveVersion): Observable<unknown> {
    return this.after(this.api.moveVersion(code, move));
  }

  revise(code: string): Observable<string> {
    return this.after(this.api.reviseVersion(code).pipe(map((made) => made.code)));
  }

  adopt(code: string): Observable<unknown> {
    return this.after(this.api.adoptVersion(code));
  }

  remove(code: string): Observable<unknown> {
    return this.after(this.api.removeVersion(code));
  }

  bringBack(code: string): Observable<unknown> {
    return this.after(this.api.bringBackVersion(code));
  }

  /** Reads the versions and the frame anew once the work is done. */
  private after<T>(work: Observable<T>): Observable<T> {
    return work.pipe(
      tap(() => {
        this.reload();
        this.workspaces.reload();
      }),
    );
  }
}
