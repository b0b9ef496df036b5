import yazl from 'yazl';
import type { PackFormat } from '@margin-lens/contract';
import type { FiscalPeriod, PackDocument, Scope } from '@margin-lens/core';
import { paperWords } from '../../base/words';
import { fileApart } from '../../base/work-apart';
import { pageCsv } from '../../page/page-csv';
import type { HtmlToWrite } from '../../page/page-html';
import type { WorkbookToWrite } from '../../page/page-workbook';
import type { PaperToPrint } from '../../page/sheets-pdf';
import type { MadePage } from './pack-pages';

/** What files of packs say they are; CSV is an archive with a file a page. */
export const PACK_TYPES: Record<PackFormat, { type: string; extension: string }> = {
  pdf: { type: 'application/pdf', extension: 'pdf' },
  xlsx: { type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', extension: 'xlsx' },
  docx: {
    type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    extension: 'docx',
  },
  pptx: {
    type: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
    extension: 'pptx',
  },
  html: { type: 'text/html; charset=utf-8', extension: 'html' },
  csv: { type: 'application/zip', extension: 'zip' },
};

/** What the file of a pack is called. @param value of a dimension, where it is made for one */
export const fileNameOfPack = (
  { id }: PackDocument,
  { scope, at }: { scope: Pick<Scope, 'code'>; at: Pick<FiscalPeriod, 'key'> },
  format: PackFormat,
  value?: string,
): string =>
  `${[id, scope.code, value, at.key].filter(Boolean).join('-')}.${PACK_TYPES[format].extension}`
    .toLowerCase()
    .replace(/[^\w.-]+/g, '-');

/** The pages of a pack as they are printed. @param of whose and of when it is, in words */
export const packPaper = ({ name }: PackDocument, pages: readonly MadePage[], of: string): PaperToPrint => ({
  ...{ title: `${name}, ${of}`, says: `${name} · ${of}` },
  pages: pages.map(({ paper }) => paper),
});

/** A pack as a file. */
export function packFile(
  pack: PackDocument,
  pages: readonly MadePage[],
  of: string,
  format: PackFormat,
): Promise<Buffer> {
  switch (format) {
    case 'pdf':
      return fileApart('writePdf', packPaper(pack, pages, of));
    case 'xlsx': {
      const workbook: WorkbookToWrite = {
        sheets: pages.map(({ paper, unit }) => ({
          ...{ id: paper.id, page: paper.page, unit },
        })),
      };
      return fileApart('writePageWorkbook', workbook);
    }
    case 'docx':
      return fileApart('writeDocx', packPaper(pack, pages, of));
    case 'pptx':
      return fileApart('writePptx', packPaper(pack, pages, of));
    case 'html': {
      const html: HtmlToWrite = {
        ...{ title: `${pack.name}, ${of}`, says: `Margin Lens · ${paperWords.made(new Date())}` },
        pages: pages.map(({ paper }) => ({ id: paper.id, page: paper.page })),
      };
      return fileApart('writeHtml', html);
    }
    case 'csv':
      return csvFiles(pages);
  }
}

/** A CSV file for each page that has tables, numbered as they stand. */
async function csvFiles(pages: readonly MadePage[]): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  pages.forEach(({ paper: { id, page } }, at) => {
    if (!page.blocks.some(({ kind }) => kind === 'table')) return;
    zip.addBuffer(Buffer.from(pageCsv(page)), `${String(at + 1).padStart(2, '0')}-${id}.csv`);
  });
  zip.end();
  const pieces: Buffer[] = [];
  for await (const piece of zip.outputStream) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
}
