import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { AttachedFile } from '@margin-lens/core';
import type { EvidenceQuery, EvidenceView, SaveEvidence } from '@margin-lens/contract';
import { ROOT, ServerCalls } from '../shared/server-calls';

/** What balances are held against: read and written. */
@Injectable({ providedIn: 'root' })
export class EvidenceApi extends ServerCalls {
  evidence(query: EvidenceQuery): Observable<EvidenceView> {
    return this.get('/evidence', { ...query });
  }

  save(work: SaveEvidence): Observable<void> {
    return this.put('/evidence', work);
  }

  fileUrl({ sha256 }: AttachedFile): string {
    return `${ROOT}/evidence/files/${sha256}`;
  }
}
