import { answerOf, type Answer } from './base/ask-thread';
import * as versions from './features/versions/sheet-file';
import { writePagePdf as writePdf } from './page/page-pdf';
import { writePageWorkbook as writeWorkbook } from './page/page-workbook';

const answering =
  <D>(work: (data: D) => Promise<Buffer>) =>
  (data: D): Promise<Answer> =>
    answerOf(() => work(data));

// the works that are done apart by their name, see `fileApart`
export const writePagePdf = answering(writePdf);
export const writePageWorkbook = answering(writeWorkbook);
export const writeXlsxSheet = answering(versions.writeXlsxSheet);
