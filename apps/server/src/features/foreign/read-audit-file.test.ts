import { newFolder } from '../../../test/tiny-package';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import type { Issue } from '@margin-lens/core';
import { readAuditFile } from './read-audit-file';
import { inspectFile } from './inspect-file';
import { surveyFile, wideCalendar } from './survey-file';

/**
 * Written by hand after the element names of the OECD schema, version 2.00, as remembered; with a prefix, since national
 * editions write one. Two entries: a sale of 1,250.00 with VAT of 250.00, paid in part in dollars.
 */
const FILE = `<?xml version="1.0" encoding="UTF-8"?>
<n1:AuditFile xmlns:n1="urn:OECD:StandardAuditFile-Tax:2.00">
 <n1:Header>
  <n1:AuditFileVersion>2.00</n1:AuditFileVersion>
  <n1:Company><n1:RegistrationNumber>914</n1:RegistrationNumber><n1:Name>Larkmoor &amp; Sons</n1:Name>
   <n1:Address><n1:City>Oslo</n1:City></n1:Address></n1:Company>
  <n1:DefaultCurrencyCode>EUR</n1:DefaultCurrencyCode>
  <n1:SelectionCriteria><n1:PeriodStart>1</n1:PeriodStart><n1:PeriodStartYear>2026</n1:PeriodStartYear><n1:PeriodEnd>3</n1:PeriodEnd><n1:PeriodEndYear>2026</n1:PeriodEndYear></n1:SelectionCriteria>
 </n1:Header>
 <n1:MasterFiles><n1:GeneralLedgerAccounts>
  <n1:Account><n1:AccountID>1500</n1:AccountID><n1:AccountDescription>Trade receivables</n1:AccountDescription><n1:AccountType>Asset</n1:AccountType><n1:OpeningDebitBalance>0.00</n1:OpeningDebitBalance><n1:ClosingDebitBalance>900.00</n1:ClosingDebitBalance></n1:Account>
  <n1:Account><n1:AccountID>1920</n1:AccountID><n1:AccountDescription>Bank</n1:AccountDescription><n1:AccountType>Asset</n1:AccountType><n1:OpeningDebitBalance>0.00</n1:OpeningDebitBalance><n1:ClosingDebitBalance>600.00</n1:ClosingDebitBalance></n1:Account>
  <n1:Account><n1:AccountID>2700</n1:AccountID><n1:AccountDescription>VAT payable</n1:AccountDescription><n1:AccountType>Liability</n1:AccountType><n1:OpeningDebitBalance>0.00</n1:OpeningDebitBalance><n1:ClosingCreditBalance>250.00</n1:ClosingCreditBalance></n1:Account>
  <n1:Account><n1:AccountID>3000</n1:AccountID><n1:AccountDescription>Sales</n1:AccountDescription><n1:AccountType>Sale</n1:AccountType><n1:OpeningDebitBalance>0.00</n1:OpeningDebitBalance><n1:ClosingCreditBalance>1250.00</n1:ClosingCreditBalance></n1:Account>
 </n1:GeneralLedgerAccounts></n1:MasterFiles>
 <n1:GeneralLedgerEntries>
  <n1:NumberOfEntries>2</n1:NumberOfEntries><n1:TotalDebit>2100.00</n1:TotalDebit><n1:TotalCredit>2100.00</n1:TotalCredit>
  <n1:Journal><n1:JournalID>SALES</n1:JournalID><n1:Description>Sales journal</n1:Description>
   <n1:Transaction><n1:TransactionID>1</n1:TransactionID><n1:Period>2</n1:Period><n1:PeriodYear>2026</n1:PeriodYear><n1:TransactionDate>2026-02-03</n1:TransactionDate><n1:Description>Invoice</n1:Description><n1:GLPostingDate>2026-02-04</n1:GLPostingDate><n1:CustomerID>C7</n1:CustomerID>
    <n1:Line><n1:RecordID>1</n1:RecordID><n1:AccountID>1500</n1:AccountID><n1:Description>To <![CDATA[R&D]]></n1:Description><n1:DebitAmount><n1:Amount>1500.00</n1:Amount></n1:DebitAmount></n1:Line>
    <n1:Line><n1:RecordID>2</n1:RecordID><n1:AccountID>3000</n1:AccountID><n1:SourceDocumentID>INV-1</n1:SourceDocumentID><n1:CreditAmount><n1:Amount>1250.00</n1:Amount></n1:CreditAmount></n1:Line>
    <n1:Line><n1:RecordID>3</n1:RecordID><n1:AccountID>2700</n1:AccountID><n1:CreditAmount><n1:Amount>250.00</n1:Amount></n1:CreditAmount></n1:Line>
   </n1:Transaction>
   <n1:Transaction><n1:TransactionID>2</n1:TransactionID><n1:Period>3</n1:Period><n1:PeriodYear>2026</n1:PeriodYear><n1:TransactionDate>2026-03-10</n1:TransactionDate><n1:Description>Paid</n1:Description>
    <n1:Line><n1:RecordID>1</n1:RecordID><n1:AccountID>1920</n1:AccountID><n1:DebitAmount><n1:Amount>600.00</n1:Amount><n1:CurrencyCode>USD</n1:CurrencyCode><n1:CurrencyAmount>700.00</n1:CurrencyAmount></n1:DebitAmount></n1:Line>
    <n1:Line><n1:RecordID>2</n1:RecordID><n1:AccountID>1500</n1:AccountID><n1:CreditAmount><n1:Amount>600.00</n1:Amount></n1:CreditAmount></n1:Line>
   </n1:Transaction>
  </n1:Journal>
 </n1:GeneralLedgerEntries>
</n1:AuditFile>
`;

const write = (text: string): string => {
  const file = path.join(newFolder(), 'ledger.xml');
  writeFileSync(file, text);
  return file;
};

async function read(text: string, part = 'Journals') {
  const rows: string[][] = [];
  const found: Issue[] = [];
  const sink = { row: (cells: (string | number)[]) => rows.push(cells.map(String)) === 1 };
  await readAuditFile(write(text), 'ledger.xml', part, sink, (each) => found.push(each));
  const [header = [], ...body] = rows;
  return { rows: body.map((cells) => Object.fromEntries(header.map((name, at) => [name, cells[at]!]))), found };
}

describe('readAuditFile', () => {
  it('gives the lines of its journals, with names of accounts, document, party and foreign amounts', async () => {
    const { rows, found } = await read(FILE);
    expect(found).toEqual([]);
    expect(rows).toHaveLength(5);
    expect(rows[0]).toEqual({
      Company: 'Larkmoor & Sons',
      JournalCode: 'SALES',
      TransactionID: '1',
      RecordID: '1',
      GLPostingDate: '2026-02-04',
      Period: '',
      AccountID: '1500',
      AccountDescription: 'Trade receivables',
      DebitAmount: '1500.00',
      CreditAmount: '',
      CurrencyCode: '',
      CurrencyAmount: '',
      Description: 'To R&D',
      SourceDocumentID: '',
      CustomerID: 'C7',
      SupplierID: '',
    });
    expect(rows[1]).toMatchObject({ CreditAmount: '1250.00', Description: 'Invoice', SourceDocumentID: 'INV-1' });
    expect(rows[3]).toMatchObject({ GLPostingDate: '2026-03-10', CurrencyCode: 'USD', CurrencyAmount: '700.00' });
  });

  it('gives the trial balance of its accounts at the end of its selection, debit positive', async () => {
    const { rows } = await read(FILE, 'Trial balance');
    expect(rows.map(({ AccountID, Month, ClosingBalance }) => [AccountID, Month, ClosingBalance])).toEqual([
      ['1500', '2026-03', '900.00'],
      ['1920', '2026-03', '600.00'],
      ['2700', '2026-03', '-250.00'],
      ['3000', '2026-03', '-1250.00'],
    ]);
  });

  it('puts periods behind the twelfth into adjustment periods', async () => {
    const { rows } = await read(FILE.replace('<n1:Period>3<', '<n1:Period>13<'));
    expect(rows.map(({ Period }) => Period)).toEqual(['', '', '', 'FY2026-P13', 'FY2026-P13']);
  });

  it('refuses a file whose control totals do not agree with what it holds', async () => {
    const { found } = await read(FILE.replace('<n1:TotalDebit>2100.00', '<n1:TotalDebit>2100.01'));
    expect(found).toMatchObject([
      { code: 'CORE_AUDIT_FILE_TOTALS', params: { what: 'debits', told: '2100.01', found: '2100.00' } },
    ]);
  });

  it('says of a variant which element was not found', async () => {
    const without = FILE.replace(/<n1:GeneralLedgerEntries>[\s\S]*<\/n1:GeneralLedgerEntries>/, '');
    expect((await read(without)).found).toMatchObject([
      { code: 'CORE_AUDIT_FILE_LACKS', params: { part: 'journals', element: 'GeneralLedgerEntries' } },
    ]);
    const other = FILE.replace(/n1:(Debit|Credit)?Line\b/g, 'n1:Posting');
    expect((await read(other)).found).toContainEqual(
      expect.objectContaining({
        code: 'CORE_AUDIT_FILE_LACKS',
        params: expect.objectContaining({ element: 'Line, DebitLine, CreditLine' }),
      }),
    );
  });

  it('refuses what is cut off, is no audit file, or declares a document type', async () => {
    expect((await read(FILE.slice(0, -200))).found).toMatchObject([{ code: 'CORE_AUDIT_FILE_BROKEN' }]);
    expect((await read('<invoice/>')).found).toMatchObject([
      { code: 'CORE_AUDIT_FILE_OTHER', params: { root: 'invoice' } },
    ]);
    const doctype = FILE.replace('<n1:AuditFile', '<!DOCTYPE x [<!ENTITY a "b">]><n1:AuditFile');
    expect((await read(doctype)).found).toMatchObject([{ code: 'CORE_XML_DOCTYPE' }]);
  });

  it('never throws on a damaged file', async () => {
    const damaged = fc
      .tuple(fc.nat(FILE.length - 1), fc.nat(60), fc.string({ maxLength: 5 }))
      .map(([at, length, put]) => FILE.slice(0, at) + put + FILE.slice(at + length));
    await fc.assert(
      fc.asyncProperty(damaged, async (text) => void (await read(text))),
      { numRuns: 60 },
    );
  });

  it('can start a workspace: columns recognised, nothing asked, accounts with their names', async () => {
    const location = write(FILE);
    const calendar = wideCalendar({ kind: 'months', firstMonth: 1, namedAfter: 'end', adjustments: 0 }, 2026);
    const known = {
      accounts: new Set<string>(),
      entities: new Set<string>(),
      versions: new Set<string>(),
      dimensions: new Map(),
      calendar,
    };
    const inspection = await inspectFile({ location, fileName: 'ledger.xml', known, kept: [] });
    if (!('mapping' in inspection)) throw new Error('cannot be read');
    expect(inspection.questions).toEqual([]);
    expect(inspection.mapping.columns).toEqual({
      entity: 'Company',
      journal: 'TransactionID',
      line: 'RecordID',
      date: 'GLPostingDate',
      period: 'Period',
      account: 'AccountID',
      account_name: 'AccountDescription',
      debit: 'DebitAmount',
      credit: 'CreditAmount',
      currency: 'CurrencyCode',
      currency_amount: 'CurrencyAmount',
      description: 'Description',
      document: 'SourceDocumentID',
    });
    const survey = await surveyFile(location, 'ledger.xml', inspection.mapping, calendar);
    expect(survey).toEqual({
      entities: ['Larkmoor & Sons'],
      accounts: [
        { number: '1500', name: 'Trade receivables', stand: 900 },
        { number: '1920', name: 'Bank', stand: 600 },
        { number: '2700', name: 'VAT payable', stand: -250 },
        { number: '3000', name: 'Sales', stand: -1250 },
      ],
      years: { from: 2026, to: 2026 },
      values: [],
      undated: 0,
    });
  });
});
