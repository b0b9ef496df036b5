import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { issue, type Issue } from '@margin-lens/core';
import { GuardedXml, XmlProblem } from '../../workbook/guarded-xml';
import type { ForeignSink } from './read-foreign';
import { fileWords, fileWrong } from '../../base/words';

/** Parts of an audit file that can be read, as a workbook has sheets. */
export const AUDIT_FILE_PARTS = ['Journals', 'Trial balance', 'Accounts'] as const;
type Part = (typeof AUDIT_FILE_PARTS)[number];

const HEADERS: Record<Part, readonly string[]> = {
  Journals: [
    'Company',
    'JournalCode',
    'TransactionID',
    'RecordID',
    'GLPostingDate',
    'Period',
    'AccountID',
    'AccountDescription',
    'DebitAmount',
    'CreditAmount',
    'CurrencyCode',
    'CurrencyAmount',
    'Description',
    'SourceDocumentID',
    'CustomerID',
    'SupplierID',
  ],
  'Trial balance': ['Company', 'AccountID', 'AccountDescription', 'Month', 'OpeningBalance', 'ClosingBalance'],
  Accounts: ['AccountID', 'AccountDescription', 'AccountType'],
};

/** Months and quarters end here; periods behind this number are adjustments. */
const REGULAR_PERIODS = 12;
/** Decimals in which totals are compared. */
const TOTAL_DIGITS = 6;
const LINES = new Set(['Line', 'DebitLine', 'CreditLine']);
/** Elements that each part is read from, from the outermost to the innermost. */
const READ_FROM: Record<Part, readonly (readonly string[])[]> = {
  Journals: [['GeneralLedgerEntries'], ['Journal'], ['Transaction'], [...LINES]],
  'Trial balance': [['MasterFiles'], ['GeneralLedgerAccounts'], ['Account']],
  Accounts: [['MasterFiles'], ['GeneralLedgerAccounts'], ['Account']],
};

export const isAuditFile = (fileName: string): boolean => /\.xml$/i.test(fileName);

/** A plain decimal in millionths, exactly; undefined when it is none. */
function millionths(text: string): bigint | undefined {
  const found = /^([+-]?)(\d+)(?:\.(\d{1,6})0*)?$/.exec(text.trim());
  if (!found) return undefined;
  const size = BigInt(found[2]! + (found[3] ?? '').padEnd(TOTAL_DIGITS, '0'));
  return found[1] === '-' ? -size : size;
}

const wordsOf = (amount: bigint): string => {
  const digits = String(amount < 0n ? -amount : amount).padStart(TOTAL_DIGITS + 1, '0');
  const fraction = digits.slice(-TOTAL_DIGITS).replace(/0{1,4}$/, '');
  return `${amount < 0n ? '-' : ''}${digits.slice(0, -TOTAL_DIGITS)}.${fraction}`;
};

const minus = (text: string): string => (text.startsWith('-') ? text.slice(1) : `-${text}`);

/** The encoding that an XML file names; UTF-8 when it names none. @source XML 1.0, 4.3.3 and appendix F */
async function encodingOf(location: string): Promise<string> {
  const handle = await open(location);
  const head = Buffer.alloc(256);
  await handle.read(head, 0, head.length, 0);
  await handle.close();
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  const named = /^\s*<\?xml[^>]*encoding=["']([\w.-]+)["']/.exec(
    head.toString('latin1').replace(/^\u00ef\u00bb\u00bf/, ''),
  );
  return named?.[1] ?? 'utf-8';
}

type Fields = Record<string, string>;

/** Takes the elements of an audit file as they come and hands rows of one part on. */
class AuditFileReader {
  private readonly path: string[] = [];
  private text = '';
  private company = '';
  private ownCurrency = '';
  private month = '';
  private account: Fields = {};
  private transaction: Fields = {};
  private line: Fields = {};
  private isCredit = false;
  private readonly names = new Map<string, string>();
  private readonly told: Fields = {};
  private readonly found = { entries: 0, debit: 0n, credit: 0n };
  private isHeaderSent = false;
  private rows = 0;
  private readonly seen = new Set<string>();

  constructor(
    private readonly part: Part,
    private readonly sink: ForeignSink,
    private readonly lineNumber: () => number,
  ) {}

  open(name: string): void {
    if (this.path.length === 0 && name !== 'AuditFile') throw new NoAuditFile(name);
    this.path.push(name);
    this.seen.add(name);
    this.text = '';
    if (name === 'Account') this.account = {};
    else if (name === 'Transaction') this.transaction = {};
    else if (LINES.has(name)) this.line = { isCredit: String(name === 'CreditLine') };
    else if (name === 'DebitAmount' || name === 'CreditAmount') this.isCredit = name === 'CreditAmount';
  }

  addText(text: string): void {
    this.text += text;
  }

  close(name: string): void {
    const text = this.text.trim();
    this.text = '';
    this.path.pop();
    const within = this.path.at(-1) ?? '';
    if (this.path[1] === 'Header') this.takeHeader(name, within, text);
    else if (name === 'Account' && within === 'GeneralLedgerAccounts') this.endAccount();
    else if (within === 'Account') this.account[name] = text;
    else if (this.path[1] === 'GeneralLedgerEntries') this.takeEntry(name, within, text);
  }

  /** What the file says of itself against what it holds. */
  check(file: string, report: (found: Issue) => void): void {
    if (!this.isHeaderSent) this.sendHeader();
    const lacking =
      this.rows > 0 ? undefined : READ_FROM[this.part].find((names) => !names.some((name) => this.seen.has(name)));
    if (lacking) {
      const [part, element] = [this.part.toLowerCase(), lacking.join(', ')];
      report(issue('CORE_AUDIT_FILE_LACKS', { part, element }, { file }));
    }
    if (this.part !== 'Journals') return;
    const pairs: [what: string, told: string | undefined, found: string][] = [
      ['entries', this.told['NumberOfEntries'], String(this.found.entries)],
      ['debits', this.told['TotalDebit'], wordsOf(this.found.debit)],
      ['credits', this.told['TotalCredit'], wordsOf(this.found.credit)],
    ];
    for (const [what, told, found] of pairs) {
      if (told === undefined || millionths(told) === millionths(found)) continue;
      report(issue('CORE_AUDIT_FILE_TOTALS', { what, told, found }, { file }));
    }
  }

  private takeHeader(name: string, within: string, text: string): void {
    if (within === 'Company' && name === 'Name') this.company ||= text;
    else if (name === 'DefaultCurrencyCode' || name === 'CurrencyCode') this.ownCurrency ||= text;
    else if (name === 'SelectionEndDate' || name === 'EndDate') this.month = text.slice(0, 7);
    else if (name === 'PeriodEnd' && this.month === '') this.told['PeriodEnd'] = text;
    else if (name === 'PeriodEndYear' && this.month === '')
      this.month = `${text}-${(this.told['PeriodEnd'] ?? '12').padStart(2, '0')}`;
  }

  private endAccount(): void {
    const { AccountID: id = '', AccountDescription: name = '', AccountType: type = '' } = this.account;
    const balance = (which: string) => {
      const [debit, credit] = [this.account[`${which}DebitBalance`], this.account[`${which}CreditBalance`]];
      return debit ?? (credit === undefined ? '' : minus(credit));
    };
    this.names.set(id, name);
    if (this.part === 'Accounts') this.send([id, name, type]);
    else if (this.part === 'Trial balance')
      this.send([this.company, id, name, this.month, balance('Opening'), balance('Closing')]);
  }

  private takeEntry(name: string, within: string, text: string): void {
    if (within === 'GeneralLedgerEntries' && name !== 'Journal') this.told[name] = text;
    else if (within === 'Journal' && name === 'JournalID') this.told['JournalID'] = text;
    else if (name === 'Transaction') this.found.entries++;
    else if (LINES.has(name)) this.endLine();
    else if (within === 'Transaction') this.transaction[name] = text;
    else if (LINES.has(within) && (name === 'DebitAmount' || name === 'CreditAmount')) {
      if (text !== '') this.setAmount(text);
    } else if (within === 'DebitAmount' || within === 'CreditAmount') {
      if (name === 'Amount') this.setAmount(text);
      else this.line[name] = text;
    } else if (LINES.has(within)) this.line[name] = text;
  }

  private setAmount(text: string): void {
    this.line['amount'] = text;
    this.line['isCredit'] = String(this.isCredit);
  }

  private endLine(): void {
    const { transaction, line } = this;
    const isCredit = line['isCredit'] === 'true';
    const amount = line['amount'] ?? '';
    const size = millionths(amount) ?? 0n;
    if (isCredit) this.found.credit += size;
    else this.found.debit += size;
    if (this.part !== 'Journals') return;
    const period = Number(transaction['Period'] ?? 0);
    const adjustment = period > REGULAR_PERIODS ? `FY${transaction['PeriodYear'] ?? ''}-P${period}` : '';
    const isForeign = line['CurrencyCode'] !== undefined && line['CurrencyCode'] !== this.ownCurrency;
    const foreign = line['CurrencyAmount'] ?? '';
    this.send([
      this.company,
      this.told['JournalID'] ?? '',
      transaction['TransactionID'] ?? '',
      line['RecordID'] ?? '',
      transaction['GLPostingDate'] || transaction['TransactionDate'] || '',
      adjustment,
      line['AccountID'] ?? '',
      this.names.get(line['AccountID'] ?? '') ?? '',
      isCredit ? '' : amount,
      isCredit ? amount : '',
      isForeign ? line['CurrencyCode']! : '',
      isForeign && foreign !== '' ? (isCredit ? minus(foreign) : foreign) : '',
      line['Description'] || transaction['Description'] || '',
      line['SourceDocumentID'] ?? transaction['SourceID'] ?? '',
      line['CustomerID'] ?? transaction['CustomerID'] ?? '',
      line['SupplierID'] ?? transaction['SupplierID'] ?? '',
    ]);
  }

  private send(cells: string[]): void {
    if (!this.isHeaderSent) this.sendHeader();
    this.rows++;
    this.sink.row(cells, this.lineNumber());
  }

  private sendHeader(): void {
    this.isHeaderSent = true;
    this.sink.row([...HEADERS[this.part]], 1);
  }
}

class NoAuditFile extends Error {
  constructor(readonly root: string) {
    super();
  }
}

/**
 * Streams one part of a Standard Audit File for Tax: journals, the trial balance of its accounts, or its accounts.
 *
 * Shape: a header, then rows; `line` is the line of the file where the row ends; the header counts as line 1.
 * Missing: a document type is refused, since entities could be defined in it; control totals that do not agree with
 * what the file holds are errors.
 * @source OECD, Guidance for the Standard Audit File – Tax, version 2.0 (2010), general ledger part
 */
export async function readAuditFile(
  location: string,
  file: string,
  part: string | undefined,
  sink: ForeignSink & { pause?(bytes: number): void },
  report: (found: Issue) => void,
): Promise<void> {
  const wanted = AUDIT_FILE_PARTS.find((each) => each === part) ?? 'Journals';
  const reader: AuditFileReader = new AuditFileReader(wanted, sink, () => xml.line);
  const xml = new GuardedXml({
    open: (name) => reader.open(name),
    text: (text) => reader.addText(text),
    close: (name) => reader.close(name),
  });
  try {
    const decoder = new TextDecoder(await encodingOf(location), { fatal: true });
    let bytes = 0;
    for await (const chunk of createReadStream(location, { highWaterMark: 1 << 18 }) as AsyncIterable<Buffer>) {
      xml.write(decoder.decode(chunk, { stream: true }));
      sink.pause?.((bytes += chunk.length));
    }
    xml.write(decoder.decode());
    xml.close();
    reader.check(file, report);
  } catch (error) {
    const found = problemOf(error, file, xml.line);
    if (!found) throw error;
    report(found);
  }
}

function problemOf(error: unknown, file: string, line: number): Issue | undefined {
  if (error instanceof NoAuditFile) return issue('CORE_AUDIT_FILE_OTHER', { root: error.root }, { file });
  if (error instanceof XmlProblem && error.kind === 'doctype')
    return issue('CORE_XML_DOCTYPE', { part: fileWords.whole }, { file, line });
  if (error instanceof XmlProblem) {
    const problem = error.message.replace(/^\d+:\d+: /, '').replace(/\.$/, '');
    return issue('CORE_AUDIT_FILE_BROKEN', { problem }, { file, line });
  }
  const isEncoding = error instanceof TypeError || error instanceof RangeError;
  return isEncoding ? issue('CORE_AUDIT_FILE_BROKEN', { problem: fileWrong.encoding }, { file, line }) : undefined;
}
