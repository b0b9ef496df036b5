import { Injectable } from '@angular/core';
import { catchError, type Observable } from 'rxjs';
import type { DecimalSign } from '@margin-lens/core';
import { rethrow, ROOT, ServerCalls } from './server-calls';
import type {
  AdoptionView,
  FiguresQuery,
  FiguresView,
  MoveVersion,
  NewVersion,
  SavedFigures,
  SaveFigures,
  SheetDifferenceView,
  VersionChanges,
  VersionSettings,
  VersionView,
} from '@margin-lens/contract';

/** What a planning sheet is of: a scope, and demands on dimension values as an address writes them. */
export interface SheetPart {
  scope: string;
  where?: string;
}

/** Versions, their figures and sheets. */
@Injectable({ providedIn: 'root' })
export class VersionsApi extends ServerCalls {
  versions(): Observable<VersionView[]> {
    return this.get('/versions');
  }

  createVersion(wanted: NewVersion): Observable<{ code: string }> {
    return this.post('/versions', wanted);
  }

  setUpVersion(code: string, settings: VersionSettings): Observable<void> {
    return this.put(`/versions/${code}`, settings);
  }

  moveVersion(code: string, move: MoveVersion): Observable<void> {
    return this.post(`/versions/${code}/state`, move);
  }

  bringBackVersion(code: string): Observable<void> {
    return this.post(`/versions/${code}/bring-back`, {});
  }

  reviseVersion(code: string): Observable<{ code: string }> {
    return this.post(`/versions/${code}/revise`, {});
  }

  adoption(code: string): Observable<AdoptionView> {
    return this.get(`/versions/${code}/adopt`);
  }

  adoptVersion(code: string): Observable<SavedFigures> {
    return this.post(`/versions/${code}/adopt`, {});
  }

  removeVersion(code: string): Observable<void> {
    return this.delete(`/versions/${code}`);
  }

  figures(query: FiguresQuery): Observable<FiguresView> {
    return this.get('/figures', { ...query });
  }

  saveFigures(code: string, work: SaveFigures): Observable<SavedFigures> {
    return this.put(`/versions/${code}/figures`, work);
  }

  sheetUrl(code: string, part: SheetPart, format: 'xlsx' | 'csv'): string {
    return `${ROOT}/versions/${code}/sheet?${new URLSearchParams({ ...part, format })}`;
  }

  /** What a sheet that came back would do; nothing is written. */
  sheetDifference(code: string, part: SheetPart, file: File, decimal?: DecimalSign): Observable<SheetDifferenceView> {
    const form = new FormData();
    form.append('file', file, file.name);
    return this.http
      .post<SheetDifferenceView>(`${ROOT}/versions/${code}/sheet`, form, {
        params: { ...part, ...(decimal ? { decimal } : {}) },
      })
      .pipe(catchError(rethrow));
  }

  /** A page of the changes of a version, the latest or those before a revision. */
  /** @param only accounts and periods, where just what changed these is asked for */
  versionChanges(
    code: string,
    before: number | null,
    only?: { accounts?: string; periods: string },
  ): Observable<VersionChanges> {
    return this.get(`/versions/${code}/changes`, { ...(before === null ? {} : { before: String(before) }), ...only });
  }

  takeBack(code: string, revision: number): Observable<SavedFigures> {
    return this.post(`/versions/${code}/changes/${revision}/take-back`, {});
  }
}
