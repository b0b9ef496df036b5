import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import JSZip from 'jszip';
import { newFolder } from './tiny-package';

/** Takes the stored results of formulas out, so that only a recalculation can fill the cells. */
async function withoutResults(workbook: Buffer): Promise<Buffer> {
  const zip = await JSZip.loadAsync(workbook);
  for (const name of Object.keys(zip.files).filter((each) => each.startsWith('xl/worksheets/sheet'))) {
    const xml = await zip.file(name)!.async('string');
    zip.file(name, xml.replace(/(<c [^>]*?)( t="str")?(>)(<f>[^<]*<\/f>)<v>[^<]*<\/v>/g, '$1$3$4'));
  }
  return zip.generateAsync({ type: 'nodebuffer' });
}

/** Separator tab (9), UTF-8 (76), no quotes, cells as they are stored and not as they are formatted. */
const AS_TEXT = 'csv:Text - txt - csv (StarCalc):9,34,76,1,,0,false,false,false';

const cellsOf = (file: string): string[][] =>
  readFileSync(file, 'utf8')
    .split(/\r?\n/)
    .map((line) => line.split('\t').map((cell) => cell.replace(/^"(.*)"$/, '$1')));

/** Opens a workbook with LibreOffice, and gives the recalculated cells of each of its sheets, by their names. */
export async function recalculateSheets(workbook: Buffer): Promise<Record<string, string[][]>> {
  const folder = newFolder();
  writeFileSync(path.join(folder, 'book.xlsx'), await withoutResults(workbook));
  const profile = `-env:UserInstallation=file://${folder}/profile`;
  // all sheets (-1), a file each
  const filter = `${AS_TEXT},false,false,-1`;
  execFileSync('soffice', [profile, '--headless', '--convert-to', filter, '--outdir', 'out', 'book.xlsx'], {
    cwd: folder,
    stdio: 'ignore',
  });
  const files = readdirSync(path.join(folder, 'out'));
  return Object.fromEntries(
    files.map((file) => [file.replace(/^book-(.*)\.csv$/, '$1'), cellsOf(path.join(folder, 'out', file))]),
  );
}

/**
 * Opens workbooks with LibreOffice, all in one start of it, and gives the recalculated cells of the first sheet of each
 * in full precision, row by row.
 */
export async function recalculate(workbooks: Readonly<Record<string, Buffer>>): Promise<Record<string, string[][]>> {
  const folder = newFolder();
  const names = Object.keys(workbooks);
  mkdirSync(path.join(folder, 'out'));
  for (const name of names) writeFileSync(path.join(folder, `${name}.xlsx`), await withoutResults(workbooks[name]!));
  const profile = `-env:UserInstallation=file://${folder}/profile`;
  const files = names.map((name) => `${name}.xlsx`);
  execFileSync('soffice', [profile, '--headless', '--convert-to', AS_TEXT, '--outdir', 'out', ...files], {
    cwd: folder,
    stdio: 'ignore',
  });
  return Object.fromEntries(names.map((name) => [name, cellsOf(path.join(folder, 'out', `${name}.csv`))]));
}

/** A cell's text as a number; percentages as fractions. */
export const numberOf = (text: string): number => (text.endsWith('%') ? Number(text.slice(0, -1)) / 100 : Number(text));

/** Opens documents and slides with LibreOffice, all in one start of it, and gives each as it would print them: PDF. */
export function printed(files: Readonly<Record<string, Buffer>>): Record<string, Buffer> {
  const folder = newFolder();
  const names = Object.keys(files);
  for (const name of names) writeFileSync(path.join(folder, name), files[name]!);
  const profile = `-env:UserInstallation=file://${folder}/profile`;
  execFileSync('soffice', [profile, '--headless', '--convert-to', 'pdf', '--outdir', 'out', ...names], {
    cwd: folder,
    stdio: 'ignore',
  });
  const outOf = (name: string) => path.join(folder, 'out', name.replace(/\.\w+$/, '.pdf'));
  return Object.fromEntries(names.map((name) => [name, readFileSync(outOf(name))]));
}
