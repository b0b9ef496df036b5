import { ISSUE_CODES } from '@margin-lens/core';
import { ERROR_CODES } from './base/error-codes';

const row = (cells: readonly string[]) => `| ${cells.map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`;

/** docs/errors.md, made from the catalogues. */
export function errorsDocument(): string {
  const issues = Object.entries(ISSUE_CODES).map(([code, { severity, template, hint }]) =>
    row([`\`${code}\``, severity, template, hint]),
  );
  const errors = Object.entries(ERROR_CODES).map(([code, { kind, template, hint }]) =>
    row([`\`${code}\``, kind, template, hint]),
  );
  const head = (second: string) => [
    row(['code', second, 'what it says', 'what to do']),
    row(['---', '---', '---', '---']),
  ];
  return [
    '# Findings and errors',
    '',
    'Made by `npm run docs` from the catalogues in `packages/core/src/issue/codes.ts` and `apps/server/src/base/error-codes.ts`.',
    'A code once released is never used again for something else. Words in braces are filled in.',
    '',
    '## Findings in delivered data and layouts',
    '',
    ...head('severity'),
    ...issues,
    '',
    '## Errors of the server',
    '',
    ...head('kind'),
    ...errors,
    '',
  ].join('\n');
}
