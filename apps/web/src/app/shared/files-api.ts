import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { AttachedFile } from '@margin-lens/core';
import { ServerCalls } from './server-calls';

/** Files that show where figures come from. */
@Injectable({ providedIn: 'root' })
export class FilesApi extends ServerCalls {
  /** Keeps a file, to be named by what it shows. */
  keep(file: File): Observable<AttachedFile> {
    const form = new FormData();
    form.append('file', file, file.name);
    return this.post('/files', form);
  }
}
