import { createWriteStream, mkdirSync, type WriteStream } from 'node:fs';
import { once } from 'node:events';
import path from 'node:path';

export type Cell = string | number;

const cellText = (cell: Cell): string => {
  const text = String(cell);
  return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** Writes a CSV file (RFC 4180) row by row, in large pieces; memory does not grow with it. */
export class CsvFile {
  private readonly stream: WriteStream;
  private held: string[] = [];
  rows = 0;

  constructor(file: string, columns: readonly string[]) {
    mkdirSync(path.dirname(file), { recursive: true });
    this.stream = createWriteStream(file);
    this.held.push(columns.join(','));
  }

  add(cells: readonly Cell[]): void {
    this.held.push(cells.map(cellText).join(','));
    this.rows++;
  }

  /** Gives the file system time to keep up. */
  async drain(): Promise<void> {
    const text = this.held.length === 0 ? '' : `${this.held.join('\n')}\n`;
    this.held = [];
    if (text !== '' && !this.stream.write(text)) await once(this.stream, 'drain');
  }

  async close(): Promise<void> {
    await this.drain();
    this.stream.end();
    await once(this.stream, 'finish');
  }
}
