import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { PackDocument } from '@margin-lens/core';
import type {
  PackContext,
  PackFormat,
  PackIssue,
  PackReadiness,
  PackRunRequest,
  PackRunView,
  PackSince,
  PackView,
} from '@margin-lens/contract';
import { ROOT, ServerCalls } from '../shared/server-calls';

/** What packs ask the server: as they will print, whether they can be issued, as files, and for many. */
@Injectable({ providedIn: 'root' })
export class PacksApi extends ServerCalls {
  /** A pack as it will print, whether it is kept or not. */
  previewPack(pack: PackDocument, context: PackContext): Observable<PackView> {
    return this.post('/packs/preview', { pack, context });
  }

  /** Whether a pack can be issued as it stands. */
  packReadiness(pack: PackDocument, context: PackContext): Observable<PackReadiness> {
    return this.post('/packs/readiness', { pack, context });
  }

  /** What is new, gone and moved since the month before. */
  packSince(pack: PackDocument, context: PackContext): Observable<PackSince> {
    return this.post('/packs/since', { pack, context });
  }

  issuePack(id: string, issue: PackIssue): Observable<void> {
    return this.post(`/packs/${id}/issues`, issue);
  }

  proposedPack(): Observable<PackDocument> {
    return this.get('/packs/proposal');
  }

  packUrl(id: string, context: PackContext, format: PackFormat): string {
    return `${ROOT}/packs/${id}/export?${new URLSearchParams({ ...context, format })}`;
  }

  makePackForMany(id: string, request: PackRunRequest): Observable<PackRunView> {
    return this.post(`/packs/${id}/runs`, request);
  }

  packRun(run: string): Observable<PackRunView> {
    return this.get(`/packs/runs/${run}`);
  }

  /** Cancels it; nothing of it stays. */
  cancelPackRun(run: string): Observable<PackRunView> {
    return this.delete(`/packs/runs/${run}`);
  }

  packRunUrl(run: string): string {
    return `${ROOT}/packs/runs/${run}/files`;
  }
}
