import { answerOf, type Answer, type Handed } from './base/ask-thread';
import { inStyle } from './base/reader-style';
import * as versions from './features/versions/sheet-file';
import { laidPaper, writePdf as writePaper, type PaperToPrint } from './page/sheets-pdf';
import { writeDocx as writeDocument } from './page/page-docx';
import { writePptx as writeSlides } from './page/page-pptx';
import { writeHtml as writePages } from './page/page-html';
import { writePageWorkbook as writeWorkbook } from './page/page-workbook';

const answering =
  <D>(work: (data: D) => Promise<Buffer>) =>
  ({ data, style }: Handed<D>): Promise<Answer> =>
    inStyle(style, () => answerOf(() => work(data)));

// the works that are done apart by their name, see `fileApart`
export const writePdf = answering(writePaper);
export const laySheets = answering(async (paper: PaperToPrint) => {
  const { sheets, begins } = await laidPaper(paper);
  return Buffer.from(JSON.stringify({ sheets, begins: Object.fromEntries(begins) }));
});
export const writeHtml = answering(writePages);
export const writeDocx = answering(writeDocument);
export const writePptx = answering(writeSlides);
export const writePageWorkbook = answering(writeWorkbook);
export const writeXlsxSheet = answering(versions.writeXlsxSheet);
