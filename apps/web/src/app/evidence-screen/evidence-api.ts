import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { EvidenceFile } from '@margin-lens/core';
import type { EvidenceQuery, EvidenceView, SaveEvidence } from '@margin-lens/contract';
import { ROOT, ServerCalls } from '../shared/server-calls';

/** What balances are held against: read, written, and the files that show it. */
@Injectable({ providedIn: 'root' })
export class EvidenceApi extends ServerCalls {
  evidence(query: EvidenceQuery): Observable<EvidenceView> {
    return this.get('/evidence', { ...query });
  }

  save(work: SaveEvidence): Observable<void> {
    return this.put('/evidence', work);
  }

  keepFile(file: File): Observable<EvidenceFile> {
    const form = new FormData();
    form.append('file', file, file.name);
    return this.post('/evidence/files', form);
  }

  fileUrl({ sha256 }: EvidenceFile): string {
    return `${ROOT}/evidence/files/${sha256}`;
  }
}
