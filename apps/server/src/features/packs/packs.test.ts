import type { DocumentView, ErrorReply, KeptView } from '@margin-lens/contract';
import type { PackDocument, PackPage, StatementDocument } from '@margin-lens/core';
import JSZip from 'jszip';
import { onStore } from '../../../test/opened-store';
import { pdfBookmarks, pdfStructure, pdfWords } from '../../../test/pdf-text';
import { printed, recalculate } from '../../../test/recalculate';
import { CONTEXT, PACK, packFiles, page, servedPacks, text, wordsOf } from '../../../test/served-packs';
import { bringIn, workspaceOf } from '../../../test/tiny-package';
import { itWith } from '../../../test/tools';
import { buildApp } from '../../app';
import { RIGHTS } from '../../base/viewer';
import { Person } from '../../store/tables';

const { ask, serve, served, previewed, exported } = servedPacks();

const sorted = (words: readonly string[]) => [...words].sort();

describe('a pack', () => {
  itWith('pdftotext', 'prints as it is previewed: the same words on the same sheets', async () => {
    await serve(packFiles(PACK));
    const view = await previewed();
    const pdf = pdfWords(await exported('pdf'));
    const drawn = view.sheets.map(({ marks }) => marks.some(({ kind }) => kind === 'chart'));
    expect(pdf).toHaveLength(view.sheets.length);
    wordsOf(view).forEach((words, at) => {
      // a chart has words of its own
      if (drawn[at]) expect(pdf[at]).toEqual(expect.arrayContaining(words));
      else expect([at, sorted(pdf[at]!)]).toEqual([at, sorted(words)]);
    });
    expect(drawn.some(Boolean)).toBe(true);
  });

  itWith(
    'pdftotext',
    'tells in its contents where each page stands, and is tagged for who does not see it',
    async () => {
      await serve(packFiles(PACK));
      const { pages } = await previewed();
      const pdf = await exported('pdf');
      const [, contents = []] = pdfWords(pdf);
      for (const { title, sheet, id } of pages) {
        if (id === 'cover' || id === 'contents') continue;
        expect(contents.join(' ')).toMatch(new RegExp(`${title}( .*?)? ${sheet}( |$)`));
        expect(pdfWords(pdf)[sheet - 1]!.join(' ')).toContain(title);
      }
      const structure = pdfStructure(pdf).map((line) => line.trim().split(/[\s:]/)[0]);
      for (const tag of ['Document', 'H1', 'Table', 'THead', 'TBody', 'TR', 'TH', 'TD', 'Figure', 'TOCI', 'Link'])
        expect(structure).toContain(tag);
      expect(structure.filter((tag) => tag === 'H1')).toHaveLength(PACK.pages.length);
    },
  );

  itWith('qpdf', 'is a sound file, whose bookmarks lead to the sheet where each page begins', async () => {
    await serve(packFiles(PACK));
    const { pages } = await previewed();
    expect(pdfBookmarks(await exported('pdf'))).toEqual(pages.map(({ title, sheet }) => ({ title, sheet })));
  });

  it('shows the figures of its statements: sales of 1,000 less rent of 300, and the same in each file', async () => {
    await serve(packFiles(PACK));
    const view = await previewed();
    const words = wordsOf(view).flat().join(' ');
    expect(words).toMatch(/Profit for the period.*700/);
    expect(words).toContain('Sales are 1,000');
    const html = (await exported('html')).toString();
    expect(html).toMatch(/Profit for the period<\/th>.*?<td[^>]*>700<\/td>/s);
    expect(html).not.toMatch(/<script|https?:\/\/(?!www\.w3\.org)/);
    const csv = await JSZip.loadAsync(await exported('csv'));
    expect(Object.keys(csv.files)).toEqual(['04-income_statement.csv', '09-balance_sheet.csv']);
    const income = await csv.file('04-income_statement.csv')!.async('string');
    expect(income).toMatch(/^profit,Profit for the period,result,.*700\.00/m);
  });

  itWith('soffice', 'as a workbook has a sheet for each page, whose sums follow', async () => {
    await serve(packFiles({ ...PACK, pages: [page('income_statement'), page('balance_sheet')] }));
    const { cells = [] } = await recalculate({ cells: await exported('xlsx') });
    const profit = cells.find(([label]) => label === 'Profit for the period')!;
    expect(profit.map(Number)).toContain(700);
    const zip = await JSZip.loadAsync(await exported('xlsx'));
    const book = await zip.file('xl/workbook.xml')!.async('string');
    expect([...book.matchAll(/<sheet [^>]*name="([^"]*)"/g)].map(([, name]) => name)).toEqual([
      'Income statement',
      'Balance sheet',
    ]);
  });

  itWith(
    'soffice',
    'as a workbook has charts of cells, and single figures that follow the tables they stand in',
    async () => {
      const chart: PackPage = {
        kind: 'chart',
        id: 'drawn',
        title: "Sales' months",
        of: 'income_statement',
        row: 'goods',
      };
      const tile = { of: 'income_statement', cell: 'profit~ytd' };
      const glance: PackPage = { kind: 'tiles', id: 'glance', title: 'At a glance', tiles: [tile] };
      await serve(packFiles({ ...PACK, pages: [glance, chart, page('income_statement')] }));
      const file = await exported('xlsx');
      const zip = await JSZip.loadAsync(file);
      const part = await zip.file('xl/charts/chart1.xml')!.async('string');
      // January had 1,000 of sales, of which 900 were planned
      expect(part).toMatch(
        /<c:f>&#39;Sales&#39;&#39; months&#39;!\$C\$\d+:\$C\$\d+<\/c:f><c:numCache>.*?<c:v>1000<\/c:v>/,
      );
      const ranges = [...part.matchAll(/\$([A-Z])\$(\d+):\$[A-Z]\$(\d+)/g)].map(([, column, from, to]) => [
        column,
        Number(to) - Number(from) + 1,
      ]);
      expect(ranges).toEqual(
        [...Array<[string, number]>(2)].flatMap((_, at) => [
          ['A', 12],
          ['BC'[at], 12],
        ]),
      );
      expect(zip.files['xl/charts/']).toBeUndefined(); // no entry for the folder
      const glanced = await zip.file('xl/worksheets/sheet1.xml')!.async('string');
      expect(glanced).toMatch(/<f>(?:'|&apos;)Income statement(?:'|&apos;)!\$[A-Z]+\$\d+<\/f><v>700<\/v>/);
      const { cells = [] } = await recalculate({ cells: file });
      expect(cells.flat()).toContain('700');
    },
  );

  itWith(
    'soffice for documents and slides',
    'opens elsewhere as a document and as slides with the same figures',
    async () => {
      await serve(packFiles(PACK));
      const [docx, pptx] = [await exported('docx'), await exported('pptx')];
      const prints = printed({ 'document.docx': docx, 'slides.pptx': pptx });
      const wanted = wordsOf(await previewed())
        .flat()
        .filter((word) => /^[(]?[\d,]+\.?\d*[)]?$/.test(word) && word.length > 2);
      for (const pdf of Object.values(prints)) {
        const words = new Set(pdfWords(pdf).flat());
        expect(wanted.filter((word) => !words.has(word) && !/^20\d\d$/.test(word))).toEqual([]);
      }
      const slides = await JSZip.loadAsync(pptx);
      const chart = await slides.file('ppt/charts/chart1.xml')!.async('string');
      // sales of January
      expect(chart).toContain('<c:v>1000</c:v>');
      const body = await (await JSZip.loadAsync(docx)).file('word/document.xml')!.async('string');
      expect(body.match(/<w:tblHeader/g)!.length).toBeGreaterThan(2);
      // and so does the document, by a workbook of its own
      const document = await JSZip.loadAsync(docx);
      expect(await document.file('word/charts/chart1.xml')!.async('string')).toContain('<c:v>1000</c:v>');
      const data = await document.file('word/embeddings/chart1.xlsx')!.async('nodebuffer');
      const { cells = [] } = await recalculate({ cells: data });
      expect(
        cells
          .find(([month]) => month === 'Jan')
          ?.slice(1)
          .map(Number),
      ).toEqual([900, 1000]);
      expect(body).not.toContain('-of-this-document');
    },
  );

  // by hand: 700 reported, of which 40 come of what was said not to come again; cash of 1,200 shown by a bank as 1,150
  it('shows the result without one-offs, and balances beside their evidence', async () => {
    await serve(packFiles());
    const remark = {
      ...{ scope: 'ONE', period: 'FY2026-P02', statement: 'income_statement', row: 'goods', column: '', columns: '' },
      ...{ text: 'Scrap sold', quotes: [], state: 'open', carries: '' },
      explains: { kind: 'one_off', amount: 4_000, in: 'FY2026-P02', returns: '' },
    };
    expect((await ask('POST', '/remarks', remark)).status).toBe(200);
    const cash = {
      ...{ scope: 'ONE', account: '1000', period: 'FY2026-P02', source: 'bank', amount: 115_000, dated: '' },
      ...{ note: 'A cheque on its way', owner: 'Ines', accepted: false, files: [] },
    };
    expect((await ask('PUT', '/evidence', { base: 99, put: [cash], remove: [] })).status).toBe(204);
    const pages: PackPage[] = [
      { kind: 'underlying', id: 'underlying', of: 'income_statement' },
      { kind: 'balances', id: 'balances' },
    ];
    const view = await previewed({ ...PACK, pages });
    const words = wordsOf(view).map((sheet) => sheet.join(' '));
    expect(words[0]).toMatch(/reported 700 Scrap sold \(40\) .*underlying 660/);
    expect(words[1]).toMatch(/1000 Cash 1,200 1,150 50/);
    expect(words[1]).toContain('1000 Cash: differs since February 2026 · Ines · A cheque on its way');
    expect(view.pages.map(({ open }) => open)).toEqual([[], ['2 balances are open']]);
    const of = await previewed({ ...PACK, pages }, { ...CONTEXT, scope: 'ALL' });
    expect(wordsOf(of).at(-1)!.join(' ')).toContain('First Ltd: 0 of 2 balances are settled, one differs');
  });

  it('of another entity has no word of the first', async () => {
    await serve(packFiles(PACK));
    expect(JSON.stringify(await previewed())).toContain('First Ltd');
    const other = await previewed(PACK, { ...CONTEXT, scope: 'TWO' });
    expect(JSON.stringify(other)).not.toMatch(/First Ltd/);
    expect(wordsOf(other).flat().join(' ')).toMatch(/Profit for the period.*77/);
  });

  it('has pages in which it is read in another way, and says in which', async () => {
    await serve(packFiles());
    const pack = { ...PACK, pages: [page('income_statement', { differs: { scope: 'TWO', unit: 1000 } })] };
    const { pages, sheets } = await previewed(pack);
    expect(pages[0]!.differs).toEqual(['Second KK', 'thousands']);
    expect(JSON.stringify(sheets)).toContain('Second KK · EUR thousand');
  });

  it('that is held to an entity is read for no other', async () => {
    await serve(packFiles());
    const held = { ...PACK, readers: { scope: { may: false, usual: 'TWO' } } };
    const { scope, sheets } = await previewed(held);
    expect(scope.name).toBe('Second KK');
    expect(JSON.stringify(sheets)).not.toContain('First Ltd');
  });

  it('says on the page what a filter leaves out because nothing carries its value', async () => {
    await serve(packFiles());
    const balance = { ...PACK, pages: [page('income_statement'), page('balance_sheet')] };
    const view = await previewed(balance, { ...CONTEXT, where: 'team:red' });
    const [income, sheet] = wordsOf(view).map((words) => words.join(' '));
    // all of sales and rent were posted with a team; cash was paid with one, and received without
    expect(income).not.toContain('Postings without');
    expect(sheet).toMatch(/Postings without team are not on this page: Total assets 1,500 \(Jan\);/);
  });

  it('opens with a filter of its own, which readers may take off, or may not', async () => {
    await serve(packFiles());
    const isNarrowed = async (may: boolean, more: Record<string, string>) => {
      const readers = { dimensions: { may, usual: [{ dimension: 'team', has: 'in' as const, values: ['red'] }] } };
      const view = await previewed({ ...PACK, readers, pages: [page('balance_sheet')] }, { ...CONTEXT, ...more });
      return wordsOf(view).flat().join(' ').includes('Postings without team');
    };
    expect(await isNarrowed(true, {})).toBe(true);
    expect(await isNarrowed(true, { where: '' })).toBe(false);
    expect(await isNarrowed(false, { where: '' })).toBe(true);
  });

  it('has pages with filters of their own in words, also of what is not to count', async () => {
    await serve(packFiles());
    const where = [{ dimension: 'team', has: 'not_in' as const, values: ['red'] }];
    const { pages, sheets } = await previewed({ ...PACK, pages: [page('income_statement', { differs: { where } })] });
    expect(pages[0]!.differs).toEqual(['all but Red']);
    expect(JSON.stringify(sheets)).toContain('all but Red');
    // all of sales and rent were posted with a team
    expect(JSON.stringify((await previewed()).sheets)).toContain('"1,000"');
    expect(JSON.stringify(sheets)).not.toContain('"1,000"');
  });

  it('names what a statement keeps from following the pack', async () => {
    const held: StatementDocument = {
      ...{ schema: 1, kind: 'statement', id: 'held', name: 'Of the second', unit: 1 },
      ...{ rows: 'income_by_heading', columns: 'month_and_year_to_date' },
      readers: { scope: { may: false, usual: 'TWO' } },
    };
    await serve(packFiles());
    expect((await ask('POST', '/documents', { document: held })).status).toBe(200);
    const { pages, sheets } = await previewed({ ...PACK, pages: [page('held'), page('balance_sheet')] });
    expect(JSON.stringify(sheets[0])).toContain('Second KK');
    expect(pages.map(({ differs }) => differs)).toEqual([['Second KK'], []]);
  });

  it('shares pages of another pack, as they stand there', async () => {
    await serve(packFiles(PACK));
    const shared = (id: string, of: string): PackPage => ({ kind: 'shared', id, pack: 'monthly', page: of });
    const own: PackDocument = { ...PACK, id: 'own', pages: [shared('a', 'income_statement'), shared('b', 'gone')] };
    const { pages, sheets } = await previewed(own);
    expect(pages.map(({ title, differs }) => [title, differs])).toEqual([
      ['Income statement', ['as in Monthly']],
      ['Page of another pack', []],
    ]);
    expect(JSON.stringify(sheets[0])).toContain('"700"');
    expect(pages[1]!.problem).toContain('The pack “monthly” has no page “gone” that could be shared.');
  });

  it('says what it tells of one entity, whoever it is read for', async () => {
    await serve(packFiles());
    const body = text({ type: 'text', text: 'First Ltd sold more' });
    const pages = [
      { kind: 'text', id: 'words', title: 'Outlook', body },
      page('income_statement', { differs: { scope: 'ONE' } }),
    ] as PackPage[];
    const bound = async (scope: string) =>
      (await previewed({ ...PACK, footer: '', pages }, { ...CONTEXT, scope })).bound;
    const says = { by: 'words', says: 'names First Ltd' };
    expect(await bound('TWO')).toEqual([
      { page: 'words', title: 'Outlook', ...says, isOther: true },
      {
        page: 'income_statement',
        title: 'Income statement',
        by: 'scope',
        says: 'is read for First Ltd',
        isOther: true,
      },
    ]);
    // its own name, and that of one that belongs to a group, are no other's
    for (const scope of ['ONE', 'ALL'])
      expect((await bound(scope)).map(({ isOther }) => isOther)).toEqual([false, false]);
  });

  it('says of a page why it cannot be made, and makes the others', async () => {
    await serve(packFiles());
    const { pages, sheets } = await previewed({ ...PACK, pages: [page('gone'), page('income_statement')] });
    expect(pages.map(({ problem }) => problem !== '')).toEqual([true, false]);
    expect(pages[0]!.problem).toContain('There is no statement “gone”.');
    expect(JSON.stringify(sheets)).toContain('This page could not be made.');
  });

  it('stands as it was made for as long as nothing is written, and is made anew after each write', async () => {
    await serve(packFiles(PACK));
    const first = await previewed();
    const titled = {
      ...PACK,
      pages: PACK.pages.map((each) => (each.id === 'words' ? { ...each, title: 'Next' } : each)),
    };
    const { pages, sheets } = await previewed(titled);
    expect(pages.map(({ title }) => title).filter((title, at) => title !== first.pages[at]!.title)).toEqual(['Next']);
    const changed = first.sheets.filter((sheet, at) => JSON.stringify(sheet) !== JSON.stringify(sheets[at]));
    // the page itself, and the contents that name it
    expect(changed.map((sheet) => sheet.page)).toEqual(['contents', 'words']);
  });

  it('says what its text quoted where a figure moved since', async () => {
    await serve(packFiles(PACK));
    expect((await previewed()).pages.find(({ id }) => id === 'words')!.open).toEqual([]);
    const more = String(packFiles()['journals.csv']).replace(
      'J1,,1,2026-01-31,,1000,1000.00',
      'J1,,1,2026-01-31,,1000,1250.00',
    );
    const changed = more.replace('J1,,2,2026-01-31,,4000,,1000.00', 'J1,,2,2026-01-31,,4000,,1250.00');
    await bringIn(served.databaseFile, { ...packFiles(), 'journals.csv': changed }, undefined, {
      replacesChanged: true,
    });
    const view = await previewed();
    expect(view.pages.find(({ id }) => id === 'words')!.open).toEqual(['a figure moved']);
    expect(wordsOf(view).flat().join(' ')).toContain('Sales are 1,250 (was 1,000)');
    // in another month, and of another, it is another figure
    for (const context of [{ as_at: '2026-03' }, { scope: 'TWO' }])
      expect(
        wordsOf(await previewed(PACK, { ...CONTEXT, ...context }))
          .flat()
          .join(' '),
      ).not.toContain('was 1,000');
  });

  it('is proposed from what there is, kept, merged page by page where two change it, and carried in packages', async () => {
    await serve(packFiles());
    const { body: proposal } = await ask<PackDocument>('GET', '/packs/proposal');
    expect(proposal.pages.map(({ kind }) => kind)).toEqual([
      ...['cover', 'contents', 'figures', 'exceptions', 'figures', 'figures'],
    ]);
    const { body: made } = await ask<DocumentView>('POST', '/documents', { document: { ...PACK, id: 'monthly' } });
    const { document, base } = made as { document: PackDocument; base: number };
    const titled = (id: string, title: string): PackDocument => ({
      ...document,
      pages: document.pages.map((each) => (each.id === id ? { ...each, title } : each)),
    });
    const keep = (pack: PackDocument) =>
      ask<KeptView>('POST', '/documents/pack/monthly/keep', { document: pack, base });
    expect((await keep(titled('results', 'What came out'))).body.state).toBe('kept');
    const { body: second } = await keep(titled('words', 'What is next'));
    expect(second).toMatchObject({ state: 'conflict', conflicts: [] });
    const merged = (second as Extract<KeptView, { state: 'conflict' }>).merged as PackDocument;
    expect(merged.pages.flatMap(({ title }) => title ?? [])).toEqual(
      expect.arrayContaining(['What came out', 'What is next']),
    );
    expect(merged.pages).toHaveLength(PACK.pages.length);
  });

  it('tells no one what they may not see: not on a page of another entity, and not by name', async () => {
    const databaseFile = await workspaceOf(packFiles(PACK));
    await onStore(databaseFile, (store) =>
      store.aside(async ({ em }) => {
        const held = { rights: RIGHTS.filter((right) => right !== 'see_totals'), entities: ['ONE'] };
        em.assign(await em.findOneOrFail(Person, { id: 'local' }), held);
      }),
    );
    served.app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const { pages, sheets } = await previewed({
      ...PACK,
      pages: [page('income_statement', { differs: { scope: 'TWO' } })],
    });
    expect(pages[0]!.problem).not.toBe('');
    expect(JSON.stringify(sheets)).not.toContain('77');
    const { status } = await ask<ErrorReply>('POST', '/packs/preview', {
      pack: PACK,
      context: { ...CONTEXT, scope: 'TWO' },
    });
    expect(status).toBe(403);
  });
});
