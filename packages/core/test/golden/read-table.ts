import { readFileSync } from 'node:fs';
import Papa from 'papaparse';

/** Rows of a CSV file of a reference case, by column. */
export const readTable = (file: string): Record<string, string>[] =>
  Papa.parse<Record<string, string>>(readFileSync(file, 'utf8').trim(), { header: true }).data;
