import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { ClosingQuery, ClosingView, IssueChecksView, SaveClosingList, Tick } from '@margin-lens/contract';
import { ServerCalls } from '../shared/server-calls';

/** The month's end: whether figures can be issued, and the checklist of one's own. */
@Injectable({ providedIn: 'root' })
export class ClosingApi extends ServerCalls {
  closing(query: ClosingQuery): Observable<ClosingView> {
    return this.get('/closing', { ...query });
  }

  checks(query: ClosingQuery): Observable<IssueChecksView> {
    return this.get('/closing/checks', { ...query });
  }

  saveList(work: SaveClosingList): Observable<void> {
    return this.put('/closing/list', work);
  }

  tick(tick: Tick): Observable<void> {
    return this.post('/closing/ticks', tick);
  }
}

/** The checklist with who looks after a check; nobody where the owner is empty. */
export function withOwner({ base, list }: SaveClosingList, check: string, owner: string): SaveClosingList {
  const { [check]: _, ...others } = list.owners;
  return { base, list: { ...list, owners: owner === '' ? others : { ...others, [check]: owner } } };
}
