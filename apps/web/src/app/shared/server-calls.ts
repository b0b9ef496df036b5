import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject } from '@angular/core';
import { catchError, type Observable, throwError } from 'rxjs';
import type { ErrorReply } from '@margin-lens/contract';

export const ROOT = '/api/v1';

/** What went wrong, as it arrives; refused is what stays so, however often it is asked for. */
export interface Failure extends ErrorReply {
  isRefused?: boolean;
}

/** Status of what the person may not see or do. @source RFC 9110, 15.5.4 */
const FORBIDDEN = 403;

const OFFLINE: Failure = {
  code: 'WEB_SERVER_UNREACHABLE',
  message: 'The server does not answer.',
  hint: 'Nothing is lost. Check that it runs, then try again.',
  details: [],
};

/** What went wrong, in the words of the server; a lost connection in ours. */
export function errorReplyOf(error: unknown): Failure {
  if (!(error instanceof HttpErrorResponse)) return OFFLINE;
  const body = error.error as Partial<ErrorReply> | null;
  if (!body || typeof body.message !== 'string' || typeof body.code !== 'string') return OFFLINE;
  return { ...OFFLINE, ...body, isRefused: error.status === FORBIDDEN };
}

export const rethrow = (error: unknown) => throwError(() => errorReplyOf(error));

/** How the server is asked; what a place asks it stands in a class of its own, and errors arrive as `ErrorReply`. */
export abstract class ServerCalls {
  protected readonly http = inject(HttpClient);

  protected post<T>(path: string, body: object): Observable<T> {
    return this.http.post<T>(ROOT + path, body).pipe(catchError(rethrow));
  }

  protected put<T>(path: string, body: object): Observable<T> {
    return this.http.put<T>(ROOT + path, body).pipe(catchError(rethrow));
  }

  protected delete<T>(path: string): Observable<T> {
    return this.http.delete<T>(ROOT + path).pipe(catchError(rethrow));
  }

  protected get<T>(path: string, params: Record<string, string> = {}): Observable<T> {
    return this.http.get<T>(ROOT + path, { params }).pipe(catchError(rethrow));
  }
}
