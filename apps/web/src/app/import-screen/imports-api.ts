import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { Mapping } from '@margin-lens/core';
import type { CheckRequest, ImportJobView, ImportRunView, LookAgain } from '@margin-lens/contract';
import { ROOT, ServerCalls } from '../shared/server-calls';

/** Deliveries that are brought in, and those that were. */
@Injectable({ providedIn: 'root' })
export class ImportsApi extends ServerCalls {
  all(): Observable<{ runs: ImportRunView[]; running: ImportJobView | null }> {
    return this.get('/imports');
  }

  start(files: FormData): Observable<ImportJobView> {
    return this.post('/imports', files);
  }

  answer(id: string, again: boolean): Observable<ImportJobView> {
    return this.post(`/imports/${id}/answer`, { again });
  }

  lookAgain(id: string, said: LookAgain): Observable<ImportJobView> {
    return this.post(`/imports/${id}/look`, said);
  }

  survey(id: string, mapping: Mapping): Observable<ImportJobView> {
    return this.post(`/imports/${id}/survey`, { mapping });
  }

  check(id: string, request: CheckRequest): Observable<ImportJobView> {
    return this.post(`/imports/${id}/check`, request);
  }

  goAhead(id: string): Observable<ImportJobView> {
    return this.post(`/imports/${id}/go-ahead`, {});
  }

  undo(run: number): Observable<{ journals: number; lines: number }> {
    return this.post(`/import-runs/${run}/undo`, {});
  }

  cancel(id: string): Observable<ImportJobView> {
    return this.delete(`/imports/${id}`);
  }

  eventsUrl(id: string): string {
    return `${ROOT}/imports/${id}/events`;
  }
}
