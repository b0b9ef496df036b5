import type { SheetRow } from '@margin-lens/core';
import { blockEntries, blockText, fillEntries, headedText, pastedEntries } from './sheet-block';
import type { Block } from '../shared/grid/grid-place';
import type { SheetModel } from './sheet-model';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const row = (id: string) => ({ id, label: id, unit: EUR, shownSign: 1 }) as SheetRow;
const FIGURES: Record<string, number[]> = { a: [100, 200, 300, 600], b: [1000, 2000, 3000, 6000] };
/** Two rows over three months and their year. */
const model = {
  rows: [row('a'), row('b')],
  columns: ['month', 'month', 'month', 'year'].map((grain) => ({ grain })),
  figures: ({ id }: SheetRow) => FIGURES[id]!,
} as unknown as SheetModel;
const block = (top: number, bottom: number, left: number, right: number): Block => ({
  ...{ top, bottom, left, right },
});
const shown = (entries: ReturnType<typeof blockEntries>) =>
  entries.map(({ row: { id }, column, text }) => `${id}${column}=${text}`);

describe('a block of the sheet', () => {
  it('goes to a spreadsheet as text, in the unit that is shown', () => {
    expect(blockText(model, block(0, 1, 0, 1), 1)).toBe('1\t2\n10\t20\n');
  });

  it('takes the names of its rows and months along where it is wanted, and is pasted back without them', () => {
    const text = headedText(model, block(0, 1, 1, 2), 1, ['April', 'May', 'June', 'FY27']);
    expect(text).toBe('\tMay\tJune\na\t2\t3\nb\t20\t30\n');
    const { entries } = pastedEntries(model, block(0, 0, 0, 0), text);
    expect(shown(entries!)).toEqual(['a0=2', 'a1=3', 'b0=20', 'b1=30']);
  });

  it('is repeated to the right, down and back, months into months alone', () => {
    expect(shown(fillEntries(model, block(0, 0, 0, 0), block(0, 0, 0, 3), 1))).toEqual(['a1=1', 'a2=1']);
    expect(shown(fillEntries(model, block(1, 1, 1, 2), block(0, 1, 1, 2), 1))).toEqual(['a1=20', 'a2=30']);
    expect(shown(fillEntries(model, block(0, 0, 1, 1), block(0, 0, 0, 1), 1))).toEqual(['a0=2']);
  });

  it('is cleared without the total that its months make', () => {
    expect(shown(blockEntries(model, block(0, 0, 2, 3), '0'))).toEqual(['a2=0']);
    expect(shown(blockEntries(model, block(0, 0, 3, 3), '0'))).toEqual(['a3=0']);
  });
});

describe('text from a spreadsheet, where comparisons stand below each row', () => {
  it('falls on the rows of the sheet alone', () => {
    const below = { ...row('below'), comparison: 0, of: row('a') };
    const wide = { ...model, rows: [row('a'), below, row('b')] } as unknown as SheetModel;
    const pasted = pastedEntries(wide, block(0, 0, 0, 0), '1\t2\n3\t4\n');
    expect(shown(pasted.entries!)).toEqual(['a0=1', 'a1=2', 'b0=3', 'b1=4']);
    expect(pasted).toMatchObject({ size: { rows: 3, columns: 2 } });
    expect(pastedEntries(wide, block(0, 0, 0, 0), '1\t2\n3\t4\n5\t6\n').problem).toContain('room for 2 rows');
  });
});

describe('text from a spreadsheet', () => {
  const paste = (text: string, at = block(0, 0, 0, 0)) => pastedEntries(model, at, text);

  const entriesOf = (text: string, at?: Block) => {
    const { entries, problem } = paste(text, at);
    if (problem !== undefined) throw new Error(problem);
    return shown(entries);
  };

  it('is a grid from the corner on; empty cells are passed over', () => {
    expect(entriesOf('1\t\t3\r\n4\t5\t6\r\n')).toEqual(['a0=1', 'a2=3', 'b0=4', 'b1=5', 'b2=6']);
    expect(paste('1\t\t3\n4\t5\t6')).toMatchObject({ size: { rows: 2, columns: 3 } });
  });

  it('is refused whole where it goes beyond the rows, or beyond the months into their total', () => {
    expect(paste('1\n2\n3').problem).toContain('room for 2 rows by 3 columns');
    expect(paste('1\t2\t3\t4').problem).toContain('Nothing was pasted');
    expect(paste('1\t2\t3', block(0, 0, 1, 1)).problem).toContain('room for 2 rows by 2 columns');
  });

  it('leaves out heads above and labels before the figures, and is refused whole with other words in it', () => {
    expect(entriesOf('\tApr\tMay\nSales\t1\t2\nCosts\t3\t4')).toEqual(['a0=1', 'a1=2', 'b0=3', 'b1=4']);
    expect(entriesOf('Apr\tMay\n1\t2\n3\t4')).toEqual(['a0=1', 'a1=2', 'b0=3', 'b1=4']);
    expect(paste('1\t2\n3\tn/a').problem).toContain('“n/a” is not a figure');
  });

  it('reads brackets, dashes and spaces as a spreadsheet shows them', () => {
    expect(entriesOf('(1,430)\t–\t1 200')).toEqual(['a0=-1,430', 'a1=0', 'a2=1200']);
    expect(entriesOf('−5\t6')).toEqual(['a0=-5', 'a1=6']);
    expect(entriesOf('(n/a)')).toEqual(['a0=(n/a)']); // a single cell says itself what is wrong with it
  });

  it('fills a block with a single figure', () => {
    expect(entriesOf('7', block(0, 1, 0, 1))).toEqual(['a0=7', 'a1=7', 'b0=7', 'b1=7']);
  });
});
