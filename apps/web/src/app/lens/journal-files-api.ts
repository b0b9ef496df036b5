import { inject, Injectable } from '@angular/core';
import { switchMap, type Observable } from 'rxjs';
import type { JournalFile } from '@margin-lens/contract';
import { FilesApi } from '../shared/files-api';
import { ROOT, ServerCalls } from '../shared/server-calls';

/** Files that hang on journals. */
@Injectable({ providedIn: 'root' })
export class JournalFilesApi extends ServerCalls {
  private readonly files = inject(FilesApi);

  keepAndAttach(journal: number, file: File): Observable<void> {
    return this.files
      .keep(file)
      .pipe(switchMap(({ name, sha256 }) => this.attach(journal, { name, sha256, document: '' })));
  }

  attach(journal: number, file: JournalFile): Observable<void> {
    return this.post(`/journals/${journal}/files`, file);
  }

  detach(journal: number, { sha256 }: JournalFile): Observable<void> {
    return this.delete(`/journals/${journal}/files/${sha256}`);
  }

  urlOf(journal: number, { sha256 }: JournalFile): string {
    return `${ROOT}/journals/${journal}/files/${sha256}`;
  }
}
