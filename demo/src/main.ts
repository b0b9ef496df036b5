import { parseArgs } from 'node:util';
import { makePackage } from './make-package';

const { values, positionals } = parseArgs({ options: { lines: { type: 'string' } }, allowPositionals: true });
const folder = positionals[0] ?? 'var/demo-package';
const lines = values.lines === undefined ? undefined : Number(values.lines);
if (lines !== undefined && !(lines >= 89_000)) {
  console.error('--lines takes a number from 89000 on.');
  process.exit(2);
}
const made = await makePackage(folder, lines);
console.log(
  `${folder}: ${made.lines.toLocaleString('en')} journal lines, ${made.figures.toLocaleString('en')} figures`,
);
