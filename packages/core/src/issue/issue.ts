import { ISSUE_CODES, type IssueCode } from './codes';

/** Where in a delivered file a finding stands. `line` counts physical lines from 1, the header being line 1. */
export interface Place {
  file: string;
  line?: number;
  column?: string;
}

/** Something wrong or noteworthy in delivered data: a value, gathered and returned, never thrown. */
export interface Issue {
  code: IssueCode;
  severity: 'error' | 'question' | 'notice';
  params: Readonly<Record<string, string | number>>;
  place?: Place;
}

/** Makes the one kind of finding there is; severity comes from the catalogue. */
export function issue(code: IssueCode, params: Issue['params'] = {}, place?: Place): Issue {
  return { code, severity: ISSUE_CODES[code].severity, params, ...(place ? { place } : {}) };
}

const fill = (template: string, params: Issue['params']) =>
  template.replace(/\{(\w+)\}/g, (_, name: string) => String(params[name] ?? ''));

/**
 * What is wrong, and how to mend it, in words.
 *
 * Shape: `{message, hint}`, both a plain sentence each.
 */
export function describeIssue(found: Pick<Issue, 'code' | 'params'>): { message: string; hint: string } {
  const { template, hint } = ISSUE_CODES[found.code];
  return { message: fill(template, found.params), hint: fill(hint, found.params) };
}

/** Misuse of the core by a caller: a bug, not wrong data. */
export class CoreError extends Error {
  constructor(
    readonly code: IssueCode,
    readonly params: Issue['params'] = {},
  ) {
    super(describeIssue({ code, params }).message);
  }
}

/** Findings kept in order up to a limit; beyond it only counted, by code. */
export class IssueList {
  readonly shown: Issue[] = [];
  readonly countByCode = new Map<IssueCode, number>();
  errors = 0;
  questions = 0;

  constructor(readonly limit: number) {}

  add(found: Issue): void {
    this.countByCode.set(found.code, (this.countByCode.get(found.code) ?? 0) + 1);
    if (found.severity === 'error') this.errors++;
    if (found.severity === 'question') this.questions++;
    if (this.shown.length < this.limit) this.shown.push(found);
  }
}
