import { spawnSync } from 'node:child_process';

/** Programs outside the registry that some proofs need; the summary of `npm test` says when one is missing. */
type Tool = 'soffice' | 'soffice for documents and slides' | 'pdftotext' | 'qpdf';

/** LibreOffice has its parts for documents and slides in packages of their own, as Debian puts them. */
const PARTS = ['libswlo', 'libsdlo'].map((part) => `test -e /usr/lib/libreoffice/program/${part}.so`);

const has = (tool: Tool): boolean => {
  const [command, ...parts] = tool.split(' ');
  const tests = [`command -v ${command}`, ...(parts.length > 0 ? PARTS : [])];
  return spawnSync('sh', ['-c', tests.join(' && ')]).status === 0;
};

/** What a test may take that waits for another program, in milliseconds: it starts as slowly as the machine lets it. */
const TOOL_MS = 60_000;

/** `it`, or a skipped one that says so where a program is not installed. */
export const itWith = (tool: Tool, name: string, test: () => Promise<void>): void =>
  has(tool) ? it(name, test, TOOL_MS) : it.skip(`${name} (${tool} is not installed)`, test);

/** `describe`, or a skipped one that says so where a program is not installed. */
export const describeWith = (tool: Tool, name: string, tests: () => void): void =>
  has(tool) ? describe(name, tests) : describe.skip(`${name} (${tool} is not installed)`, tests);
