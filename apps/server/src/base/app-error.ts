import { ERROR_CODES, type ErrorCode, type ErrorKind } from './error-codes';

export type ErrorParams = Readonly<Record<string, string | number>>;

const STATUS: Record<ErrorKind, number> = {
  invalid: 400,
  unknown_person: 401,
  forbidden: 403,
  not_found: 404,
  conflict: 409,
  too_large: 413,
  misdirected: 421,
  unavailable: 503,
  bug: 500,
};

/** An error that a person is told about: a code, its words, and what to do. */
export class AppError extends Error {
  readonly status: number;
  readonly hint: string;

  constructor(
    readonly code: ErrorCode,
    readonly params: ErrorParams = {},
    /** Each place that is wrong, with what is wrong there. */
    readonly details: readonly string[] = [],
  ) {
    const { kind, template, hint } = ERROR_CODES[code];
    const fill = (text: string) => text.replace(/\{(\w+)\}/g, (_, name: string) => String(params[name] ?? ''));
    super(fill(template));
    this.status = STATUS[kind];
    this.hint = fill(hint);
  }
}

export const appError = (code: ErrorCode, params?: ErrorParams, details?: readonly string[]): AppError =>
  new AppError(code, params, details);
