import { AppError, appError } from '../base/app-error';
import type { ErrorCode } from '../base/error-codes';
import { fileWords } from '../base/words';

/** Causes that a person can remove, by the code that SQLite gives. @source sqlite.org, Result and Error Codes */
const CAUSES: [start: string, code: ErrorCode][] = [
  ['SQLITE_FULL', 'SRV_DISK_FULL'],
  ['SQLITE_BUSY', 'SRV_DATABASE_BUSY'],
  ['SQLITE_LOCKED', 'SRV_DATABASE_BUSY'],
  ['SQLITE_READONLY', 'SRV_DATABASE_READ_ONLY'],
  ['SQLITE_CANTOPEN', 'SRV_DATABASE_NOT_OPENED'],
  ['SQLITE_PERM', 'SRV_DATABASE_NOT_OPENED'],
  ['SQLITE_NOTADB', 'SRV_DATABASE_OTHER'],
  ['SQLITE_CORRUPT', 'SRV_DATABASE_DAMAGED'],
  ['SQLITE_IOERR', 'SRV_DATABASE_DISK'],
  ['ENOSPC', 'SRV_DISK_FULL'],
  ['EACCES', 'SRV_DATABASE_NOT_OPENED'],
];

/** What the library throws when no connection was let go of for a minute. */
const NO_CONNECTION = 'KnexTimeoutError';

/** The error in words where its cause is the disk, the file or how many ask at once, also when a library has wrapped it; else undefined. */
export function databaseError(error: unknown, file: string = fileWords.workspace): AppError | undefined {
  let cause = error as { name?: unknown; code?: unknown; cause?: unknown } | undefined;
  for (let depth = 0; typeof cause === 'object' && cause !== null && depth < 5; depth++) {
    const { name, code } = cause;
    if (name === NO_CONNECTION) return appError('SRV_TOO_MANY_AT_ONCE');
    const found = typeof code === 'string' && CAUSES.find(([start]) => code.startsWith(start));
    if (found) return appError(found[1], { file });
    cause = cause.cause as typeof cause;
  }
  return undefined;
}
