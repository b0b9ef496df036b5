import fc from 'fast-check';
import type { Page, PageBlock, PageCell, PageColumn, PageRow } from '../page/page';
import { laySheets as laid, type PaperPage } from './lay-sheets';
import { MARGIN, marksOfParts, type Mark, type Measure, type Sheet } from './sheet';
import { wrapText } from './wrap-text';
import { runs } from '../../test/runs';

/** Every letter half as wide as it is high: near enough to a font, and simple to count with. */
const measure: Measure = (text, _font, size) => text.length * size * 0.5;
const foot = { says: 'Pack', sheet: (number: number, of: number) => `${number} of ${of}` };

const laySheets = (pages: readonly PaperPage[]) => laid(pages, foot, measure).sheets;

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const cell = (text: string): PageCell => ({
  ...{ figure: { amount: 1, unit: EUR }, text, unit: EUR, decimals: 0, note: '', address: '' },
});
const column = (id: string, block: string, label: string): PageColumn => ({
  ...{ id, block, blockLabel: block, label, note: '', dates: '', isDated: true, flags: [], notation: 'none' },
});
const row = (id: string, texts: readonly string[]): PageRow => ({
  ...{ id, label: id, note: '', style: 'detail', kind: 'figures', depth: 0, startsPage: false, cells: texts.map(cell) },
});
const pageOf = (title: string, blocks: readonly PageBlock[]): Page => ({
  ...{ title, subtitle: 'Whose figures', asAt: '', header: '', footer: '', blocks },
});
const table = (columns: number, rows: number, texts = (at: number, of: number) => `f${at}-${of}`): PageBlock => ({
  kind: 'table',
  table: {
    ...{ labelHead: '', look: {} },
    columns: Array.from({ length: columns }, (_, at) =>
      column(`c${at}`, `Block ${Math.floor(at / 4)}`, `Column ${at}`),
    ),
    rows: Array.from({ length: rows }, (_, at) =>
      row(
        `r${at}`,
        Array.from({ length: columns }, (__, of) => texts(at, of)),
      ),
    ),
  },
});
const marksOf = ({ parts }: Sheet): Mark[] => marksOfParts(parts);
type TextMark = Extract<Mark, { kind: 'text' }>;
const textsOf = (sheet: Sheet): TextMark[] => marksOf(sheet).filter((mark) => mark.kind === 'text');
const said = (sheet: Sheet): string[] => textsOf(sheet).map(({ text }) => text);

/** Left and right of a text, as it is aligned. */
function reach({ x, text, font, size, align }: TextMark): [number, number] {
  const width = measure(text, font, size);
  const left = align === 'left' ? x : align === 'right' ? x - width : x - width / 2;
  return [left, left + width];
}

/** What is wrong with a sheet: texts beyond its margins or over each other, rows without the head of their table. */
function faultsOf(sheet: Sheet): string[] {
  const marks = textsOf(sheet);
  const beyond = marks.filter((mark) => {
    const [left, right] = reach(mark);
    return left < MARGIN - 1 || right > sheet.width - MARGIN + 1 || mark.y > sheet.height - 10;
  });
  const lines = new Map<number, [number, number][]>();
  for (const mark of marks) lines.set(mark.y, [...(lines.get(mark.y) ?? []), reach(mark)]);
  const over = [...lines.values()].filter((line) => {
    const spans = line.sort((a, b) => a[0] - b[0]);
    return spans.some(([left], at) => at > 0 && left < spans[at - 1]![1] - 0.01);
  });
  const has = (test: RegExp) => marks.some(({ text }) => test.test(text));
  const isHeaded = !has(/^\d+\.\d+$/) || has(/^Column/);
  return [
    ...beyond.map(({ text }) => `${text} is beyond the margins`),
    ...over.map(() => 'texts stand over each other'),
    ...(has(/^Title$/) ? [] : ['no title']),
    ...(isHeaded ? [] : ['no head']),
  ];
}

describe('pages on sheets', () => {
  it('have each figure once, none beyond the margins, none on another, labels and heads on each sheet (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 30 }),
        fc.integer({ min: 0, max: 120 }),
        fc.integer({ min: 1, max: 14 }),
        (columns, rows, digits) => {
          const texts = (at: number, of: number) => `${at}.${of}`.padStart(digits, '9');
          const sheets = laySheets([{ id: 'a', page: pageOf('Title', [table(columns, rows, texts)]) }]);
          const figures = sheets.flatMap(said).filter((text) => /\d\.\d/.test(text));
          const wanted = Array.from({ length: rows }, (_, at) =>
            Array.from({ length: columns }, (__, of) => texts(at, of)),
          );
          expect(figures.sort()).toEqual(wanted.flat().sort());
          expect(sheets.flatMap(faultsOf)).toEqual([]);
        },
      ),
      runs(40),
    );
  });

  it('tell in the contents on which sheet each page begins', () => {
    const entries = ['one', 'two', 'three'].map((page) => ({
      page,
      title: `Page ${page}`,
      note: '',
      isSection: false,
    }));
    const sheets = laySheets([
      { id: 'contents', page: pageOf('Contents', [{ kind: 'contents', entries }]) },
      { id: 'one', page: pageOf('First', [table(3, 120)]) },
      { id: 'two', page: pageOf('Second', [table(3, 5)]) },
      { id: 'three', page: pageOf('Third', [table(3, 5)]), follows: true },
    ]);
    const begins = (title: string) => sheets.findIndex((sheet) => said(sheet).includes(title)) + 1;
    const told = entries.map(({ title }) => {
      const marks = textsOf(sheets[0]!);
      const { y } = marks.find(({ text }) => text === title)!;
      return Number(marks.find((mark) => mark.y === y && mark.align === 'right')!.text);
    });
    expect(told).toEqual([begins('First'), begins('Second'), begins('Third')]);
    expect(told[2]).toBe(told[1]);
    expect(told[1]).toBeGreaterThan(3);
    expect(said(sheets.at(-1)!)).toContain(`${sheets.length} of ${sheets.length}`);
  });

  it('begin anew where a page that stands below another does not fit, and where a row says so', () => {
    const page = (id: string, follows: boolean, rows: number) => ({ id, page: pageOf(id, [table(2, rows)]), follows });
    const both = laySheets([page('a', false, 40), page('b', true, 3)]);
    expect(both.map((sheet) => sheet.page)).toEqual(['a']);
    const apart = laySheets([page('a', false, 46), page('b', true, 3)]);
    expect(apart.map((sheet) => sheet.page)).toEqual(['a', 'b']);
    expect(said(apart[1]!).filter((text) => text === 'b')).toHaveLength(1);
    const broken = table(2, 4) as Extract<PageBlock, { kind: 'table' }>;
    const rows = broken.table.rows.map((each, at) => ({ ...each, startsPage: at === 2 }));
    const sheets = laySheets([{ id: 'a', page: pageOf('a', [{ kind: 'table', table: { ...broken.table, rows } }]) }]);
    expect(sheets.map((sheet) => said(sheet).filter((text) => /^r\d$/.test(text)))).toEqual([
      ['r0', 'r1'],
      ['r2', 'r3'],
    ]);
  });

  it('lie as they are told, and a table of many columns goes on rather than turn the sheet', () => {
    const wide = pageOf('Wide', [table(13, 3)]);
    const [turned] = laySheets([{ id: 'a', page: wide }]);
    expect(turned!.width).toBeGreaterThan(turned!.height);
    const upright = laySheets([{ id: 'a', page: wide, orientation: 'portrait' }]);
    expect(upright.length).toBeGreaterThan(1);
    expect(upright.every(({ width, height }) => width < height)).toBe(true);
  });
});

describe('words over lines', () => {
  it('stay the same words in their order, no line wider than it may be but for one word (property)', () => {
    const word = fc.stringMatching(/^[a-z]{1,12}$/);
    fc.assert(
      fc.property(fc.array(word, { maxLength: 40 }), fc.integer({ min: 20, max: 300 }), (words, width) => {
        const text = words.join(' ');
        const lines = wrapText([{ text, font: 'sans' }], 10, width, measure).map((line) =>
          line.map((run) => run.text).join(''),
        );
        expect(lines.join(' ').trim()).toBe(text);
        for (const line of lines) if (line.includes(' ')) expect(measure(line, 'sans', 10)).toBeLessThanOrEqual(width);
      }),
    );
  });

  it('keep how they are set, and break where they are told', () => {
    const lines = wrapText(
      [
        { text: 'Sales of ', font: 'sans' },
        { text: '8,453', font: 'strong' },
        { text: '\nbelow', font: 'sans' },
      ],
      10,
      400,
      measure,
    );
    expect(lines).toEqual([
      [
        { text: 'Sales of ', font: 'sans', x: 0 },
        { text: '8,453', font: 'strong', x: 45 },
      ],
      [{ text: 'below', font: 'sans', x: 0 }],
    ]);
  });
});
