import { answerOf, type Answer } from './base/ask-thread';
import * as versions from './features/versions/sheet-file';
import { writePdf as writePaper } from './page/sheets-pdf';
import { writePageWorkbook as writeWorkbook } from './page/page-workbook';

const answering =
  <D>(work: (data: D) => Promise<Buffer>) =>
  (data: D): Promise<Answer> =>
    answerOf(() => work(data));

// the works that are done apart by their name, see `fileApart`
export const writePdf = answering(writePaper);
export const writePageWorkbook = answering(writeWorkbook);
export const writeXlsxSheet = answering(versions.writeXlsxSheet);
