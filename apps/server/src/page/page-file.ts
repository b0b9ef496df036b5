import type { Page, ShownUnit } from '@margin-lens/core';
import { paperWords } from '../base/words';
import { fileApart } from '../base/work-apart';
import { pageCsv } from './page-csv';
import type { PaperToPrint } from './sheets-pdf';

/** Formats that any page is written in. */
export type PageFormat = 'csv' | 'xlsx' | 'pdf';

/** A page as a file: CSV holds exact figures, XLSX live formulas, PDF what is read. Both of the last are made in a thread. */
export function pageFile(page: Page, format: PageFormat, unit: ShownUnit): Promise<Buffer | string> {
  switch (format) {
    case 'csv':
      return Promise.resolve(pageCsv(page));
    case 'xlsx':
      return fileApart('writePageWorkbook', { sheets: [{ id: 'page', page, unit }] });
    case 'pdf':
      return pdfOf(page, new Date());
  }
}

function pdfOf(page: Page, madeAt: Date): Promise<Buffer> {
  const title = [page.title, page.subtitle, page.asAt].filter(Boolean).join(', ');
  const paper: PaperToPrint = {
    ...{ title, pages: [{ id: 'page', page }] },
    says: `Margin Lens · ${paperWords.made(madeAt)}`,
  };
  return fileApart('writePdf', paper);
}
