import { answerOf, type Answer } from './base/ask-thread';
import * as ledger from './features/ledger/export-trial-balance';
import * as pdf from './features/pdf/pdf-table';
import * as statements from './features/statements/statement-workbook';
import * as versions from './features/versions/sheet-file';

const answering =
  <D>(work: (data: D) => Promise<Buffer>) =>
  (data: D): Promise<Answer> =>
    answerOf(() => work(data));

// the works that are done apart by their name, see `fileApart`
export const pdfTable = answering(pdf.pdfTable);
export const trialBalanceWorkbook = answering(ledger.trialBalanceWorkbook);
export const writeStatementBook = answering(statements.writeStatementBook);
export const writeXlsxSheet = answering(versions.writeXlsxSheet);
