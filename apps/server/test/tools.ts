import { spawnSync } from 'node:child_process';

/** Programs outside the registry that some proofs need; the summary of `npm test` says when one is missing. */
type Tool = 'soffice' | 'pdftotext';

const has = (tool: Tool): boolean => spawnSync('sh', ['-c', `command -v ${tool}`]).status === 0;

/** `it`, or a skipped one that says so where a program is not installed. */
export const itWith = (tool: Tool, name: string, test: () => Promise<void>): void =>
  has(tool) ? it(name, test) : it.skip(`${name} (${tool} is not installed)`, test);

/** `describe`, or a skipped one that says so where a program is not installed. */
export const describeWith = (tool: Tool, name: string, tests: () => void): void =>
  has(tool) ? describe(name, tests) : describe.skip(`${name} (${tool} is not installed)`, tests);
