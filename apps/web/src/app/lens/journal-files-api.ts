import { inject, Injectable } from '@angular/core';
import { switchMap, type Observable } from 'rxjs';
import type { JournalFile, JournalView } from '@margin-lens/contract';
import { FilesApi } from '../shared/files-api';
import { ROOT, ServerCalls } from '../shared/server-calls';

/** Files that hang on journals. */
@Injectable({ providedIn: 'root' })
export class JournalFilesApi extends ServerCalls {
  private readonly files = inject(FilesApi);

  /** Keeps a file and hangs it on a journal. */
  keepAndAttach({ id, number }: Pick<JournalView, 'id' | 'number'>, file: File): Observable<void> {
    return this.files
      .keep(file)
      .pipe(switchMap(({ name, sha256 }) => this.attach(id, { name, sha256, journal: number, document: '' })));
  }

  attach(journal: number, file: JournalFile): Observable<void> {
    return this.post(`/journals/${journal}/files`, file);
  }

  detach(id: number, { sha256, journal, document }: JournalFile): Observable<void> {
    const on = new URLSearchParams({ journal, document });
    return this.delete(`/journals/${id}/files/${sha256}?${on}`);
  }

  urlOf(journal: number, { sha256 }: JournalFile): string {
    return `${ROOT}/journals/${journal}/files/${sha256}`;
  }
}
