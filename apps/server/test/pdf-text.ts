import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { newFolder } from './tiny-package';

function kept(pdf: Buffer): string {
  const file = path.join(newFolder(), 'page.pdf');
  writeFileSync(file, pdf);
  return file;
}

const told = (program: string, args: readonly string[]): string => execFileSync(program, args, { encoding: 'utf8' });

/** What a document reads as, laid out as on paper; of the first sheets alone where a number is given. */
export function pdfText(pdf: Buffer, sheets?: number): string {
  const range = sheets === undefined ? [] : ['-l', String(sheets)];
  return told('pdftotext', ['-layout', ...range, kept(pdf), '-']);
}

/** The words on each sheet of a document. */
export function pdfWords(pdf: Buffer): string[][] {
  const sheets = told('pdftotext', ['-raw', kept(pdf), '-'])
    .split('\f')
    .slice(0, -1);
  return sheets.map((sheet) => sheet.split(/\s+/).filter(Boolean));
}

/** What a document is to a reader who does not see it: its structure elements, one a line, those below further in. */
export const pdfStructure = (pdf: Buffer): string[] =>
  told('pdfinfo', ['-struct', kept(pdf)])
    .split('\n')
    .filter(Boolean);

/** The bookmarks of a document in their order, each with the sheet it leads to; throws where the file is not sound. */
export function pdfBookmarks(pdf: Buffer): { title: string; sheet: number }[] {
  const file = kept(pdf);
  told('qpdf', ['--check', file]);
  const { outlines } = JSON.parse(told('qpdf', ['--json', '--json-key=outlines', file])) as {
    outlines: { title: string; destpageposfrom1: number }[];
  };
  return outlines.map(({ title, destpageposfrom1 }) => ({ title, sheet: destpageposfrom1 }));
}
