import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { newFolder } from './tiny-package';

/** What a document reads as, laid out as on paper; of the first sheets alone where a number is given. */
export function pdfText(pdf: Buffer, sheets?: number): string {
  const file = path.join(newFolder(), 'page.pdf');
  writeFileSync(file, pdf);
  const range = sheets === undefined ? [] : ['-l', String(sheets)];
  return execFileSync('pdftotext', ['-layout', ...range, file, '-'], { encoding: 'utf8' });
}
