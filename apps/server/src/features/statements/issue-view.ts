import type { IssueView } from '@margin-lens/contract';
import { describeIssue, type Issue } from '@margin-lens/core';

/** A finding with its words, as screens and files show it. */
export const issueView = (found: Issue): IssueView => ({
  code: found.code,
  severity: found.severity,
  ...describeIssue(found),
  ...(found.place ? { file: found.place.file } : {}),
  ...(found.place?.line === undefined ? {} : { line: found.place.line }),
  ...(found.place?.column === undefined ? {} : { column: found.place.column }),
});
