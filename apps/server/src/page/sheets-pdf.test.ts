import type { FastifyInstance } from 'fastify';
import type { Page, PageCell, PageColumn, PageRow } from '@margin-lens/core';
import { pdfText } from '../../test/pdf-text';
import { workspaceOf } from '../../test/tiny-package';
import { itWith } from '../../test/tools';
import { buildApp } from '../app';
import { writePdf } from './sheets-pdf';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const cell = (text: string): PageCell => ({
  ...{ figure: { amount: 1, unit: EUR }, text, unit: EUR, decimals: 0, note: '', address: '' },
});
const column = (label: string, block = 'August 2026'): PageColumn => ({
  ...{
    id: label,
    block,
    blockLabel: block,
    label,
    note: '',
    dates: '1 Aug 2026 – 31 Aug 2026',
    isDated: false,
    flags: [],
  },
  notation: 'actual',
});
const row = (label: string, texts: readonly string[], more: Partial<PageRow> = {}): PageRow => ({
  ...{ id: label, label, note: '', style: 'detail', kind: 'figures', depth: 0, startsPage: false },
  cells: texts.map(cell),
  ...more,
});
const printed = (page: Page) => writePdf({ title: page.title, pages: [{ id: 'page', page }], says: 'Margin Lens' });
const pageOf = (columns: PageColumn[], rows: PageRow[], more: Partial<Page> = {}): Page => ({
  title: 'Income statement',
  subtitle: 'Zażółć Gęślą · EUR',
  asAt: 'as at 31 August 2026',
  header: '',
  footer: '',
  blocks: [{ kind: 'table', table: { labelHead: 'Account', columns, rows, look: {} } }],
  ...more,
});

/** Text of a document by poppler, a program that did not write it. */
const boxesOf = (pdf: Buffer) =>
  [...pdf.toString('latin1').matchAll(/\/MediaBox \[([\d. ]+)\]/g)].map(([, box]) =>
    box!.split(' ').map((part) => Math.round(Number(part))),
  );

describe('a page as a PDF document', () => {
  it('is A4, with the fonts embedded', async () => {
    const pdf = await printed(pageOf([column('Actual')], [row('Sales', ['(1,234.50)'])]));
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(boxesOf(pdf)).toEqual([[0, 0, 595, 842]]);
    expect(pdf.toString('latin1').match(/\/FontFile2 /g)!.length).toBeGreaterThanOrEqual(2);
  });

  itWith('pdftotext', 'heads, foots and numbers every sheet, in any Latin, Greek or Cyrillic text', async () => {
    const rows = Array.from({ length: 150 }, (_, at) => row(`Row ${at} Ωμέγα Ёлка`, ['1']));
    const page = pageOf([column('Actual')], rows, { header: 'Board', footer: 'Confidential' });
    const pdf = await printed(page);
    const count = boxesOf(pdf).length;
    expect(count).toBeGreaterThan(1);
    const text = pdfText(pdf);
    for (const words of ['Zażółć Gęślą · EUR · as at 31 August 2026', 'Board', 'Confidential', '1 Aug 2026 –'])
      expect([words, text.split(words).length - 1]).toEqual([words, count]);
    expect(text).toContain(`page ${count} of ${count}`);
    expect(text).toContain('Row 149 Ωμέγα Ёлка');
  });

  it('turns the page for many columns', async () => {
    const columns = Array.from({ length: 13 }, (_, at) => column(`M${at}`));
    const page = pageOf(columns, [row('Sales', Array<string>(13).fill('1,234'))]);
    expect(boxesOf(await printed(page))).toEqual([[0, 0, 842, 595]]);
  });

  itWith('pdftotext', 'goes on to further sheets with the labels repeated, and breaks no figure', async () => {
    const columns = Array.from({ length: 26 }, (_, at) => column(`M${at}`, `Block ${at < 12 ? 'A' : 'B'}`));
    const texts = columns.map((_, at) => `(98,765,432,10${at % 10}.25)`);
    const pdf = await printed(pageOf(columns, [row('Sales of goods', texts)]));
    const text = pdfText(pdf);
    const sheets = boxesOf(pdf).length;
    expect(sheets).toBeGreaterThan(1);
    expect(text.match(/Sales of goods/g)).toHaveLength(sheets);
    expect(text.match(/\([\d,]+\.25\)/g)).toEqual(texts);
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
    const texts = [statement, trialBalance].map((reply) => pdfText(reply.rawPayload));
    // 1,000 of sales less 300 of rent
    expect(texts[0]).toMatch(/Profit for the period.*700/);
    expect(texts[0]).toContain('The profit shown agrees with the trial balance.');
    expect(texts[1]).toContain('Debits and credits agree, balances come to nothing.');
    expect(texts[1]).toMatch(/1000 Cash +500\.00 +1,000\.00 +300\.00 +1,200\.00/);
  });
});
