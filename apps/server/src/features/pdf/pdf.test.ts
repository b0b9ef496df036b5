import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import { newFolder, workspaceOf } from '../../../test/tiny-package';
import { itWith } from '../../../test/tools';
import { buildApp } from '../../app';
import { COLUMNS_AT_MOST, pdfTable, type PdfTable } from './pdf-table';

const TABLE: PdfTable = {
  title: 'Income statement',
  subtitle: 'Zażółć Gęślą · EUR · as at 31 August 2026',
  labelHead: 'Account',
  columns: [{ block: 'August 2026', label: 'Actual', span: '1 Aug 2026 – 31 Aug 2026', notation: 'actual' }],
  rows: [{ label: 'Sales', depth: 0, style: 'detail', cells: [{ text: '(1,234.50)' }] }],
  proof: [],
  madeAt: new Date('2026-11-25T10:00:00Z'),
};

/** Text of a document by poppler, a program that did not write it. */
function textOf(pdf: Buffer): string {
  const file = path.join(newFolder(), 'a.pdf');
  writeFileSync(file, pdf);
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
}

const boxesOf = (pdf: Buffer) =>
  [...pdf.toString('latin1').matchAll(/\/MediaBox \[([\d. ]+)\]/g)].map(([, box]) =>
    box!.split(' ').map((part) => Math.round(Number(part))),
  );

describe('a table as a PDF document', () => {
  it('is A4, with the fonts embedded', async () => {
    const pdf = await pdfTable(TABLE);
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(boxesOf(pdf)).toEqual([[0, 0, 595, 842]]);
    expect(pdf.toString('latin1').match(/\/FontFile2 /g)!.length).toBeGreaterThanOrEqual(2);
  });

  itWith('pdftotext', 'heads and numbers every page, in any Latin, Greek or Cyrillic text', async () => {
    const rows = Array.from({ length: 150 }, (_, at) => ({ ...TABLE.rows[0]!, label: `Row ${at} Ωμέγα Ёлка` }));
    const pdf = await pdfTable({ ...TABLE, rows });
    const count = boxesOf(pdf).length;
    expect(count).toBeGreaterThan(1);
    const text = textOf(pdf);
    expect(text.match(/Zażółć Gęślą · EUR · as at 31 August 2026/g)).toHaveLength(count);
    expect(text.match(/1 Aug 2026 –/g)!.length).toBeGreaterThanOrEqual(count);
    expect(text).toContain(`page ${count} of ${count}`);
    expect(text).toContain('Row 149 Ωμέγα Ёлка');
  });

  it('turns the page for many columns, and refuses more than can be read', async () => {
    const columns = (count: number) =>
      Array.from({ length: count }, (_, at) => ({ ...TABLE.columns[0]!, label: String(at) }));
    const cells = (count: number) => [{ ...TABLE.rows[0]!, cells: columns(count).map(() => ({ text: '1' })) }];
    expect(boxesOf(await pdfTable({ ...TABLE, columns: columns(13), rows: cells(13) }))).toEqual([[0, 0, 842, 595]]);
    await expect(pdfTable({ ...TABLE, columns: columns(COLUMNS_AT_MOST + 1), rows: [] })).rejects.toMatchObject({
      code: 'SRV_PDF_TOO_WIDE',
    });
  });
});

describe('books on paper', () => {
  let app: FastifyInstance;
  beforeAll(async () => {
    const databaseFile = await workspaceOf();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  });
  afterAll(() => app.close());

  itWith('pdftotext', 'are a statement and a trial balance with what they show on screen', async () => {
    const statement = await app.inject('/api/v1/statements/income_statement/export?scope=ONE&as_at=2026-02&format=pdf');
    expect(statement.headers['content-type']).toBe('application/pdf');
    const trialBalance = await app.inject('/api/v1/ledger/trial-balance/export?scope=ONE&as_at=2026-02&format=pdf');
    const texts = [statement, trialBalance].map((reply) => textOf(reply.rawPayload));
    // 1,000 of sales less 300 of rent
    expect(texts[0]).toMatch(/Profit for the period.*700/);
    expect(texts[0]).toContain('The profit shown agrees with the trial balance.');
    expect(texts[1]).toMatch(/1000 Cash +500\.00 +1,000\.00 +300\.00 +1,200\.00/);
  });
});
