import type { Page, ShownUnit } from '@margin-lens/core';
import { fileApart } from '../base/work-apart';
import { pageCsv } from './page-csv';

/** Formats that any page is written in. */
export type PageFormat = 'csv' | 'xlsx' | 'pdf';

/** A page as a file: CSV holds exact figures, XLSX live formulas, PDF what is read. Both of the last are made in a thread. */
export function pageFile(page: Page, format: PageFormat, unit: ShownUnit): Promise<Buffer | string> {
  switch (format) {
    case 'csv':
      return Promise.resolve(pageCsv(page));
    case 'xlsx':
      return fileApart('writePageWorkbook', { page, unit });
    case 'pdf':
      return fileApart('writePagePdf', { page, madeAt: new Date() });
  }
}
