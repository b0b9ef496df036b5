import type Database from 'better-sqlite3';

export type Cell = string | number | null;

/** Rows a statement: more only makes statements that are slower to read. */
const ROWS = 50; // 10 to 200

/** Collects rows and inserts many with one statement; row by row would be slower. */
export class RowBatch {
  private readonly cells: Cell[];
  private filled = 0;
  private readonly full: Database.Statement<[Cell[]]>;

  constructor(
    private readonly db: Database.Database,
    private readonly into: string,
    private readonly columns: readonly string[],
    private readonly tail = '',
  ) {
    this.full = this.prepare(ROWS);
    this.cells = new Array<Cell>(ROWS * columns.length).fill(null);
  }

  /** Takes the cells of a row one after the other. */
  add(cell: Cell): void {
    this.cells[this.filled++] = cell;
    if (this.filled < this.cells.length) return;
    this.full.run(this.cells);
    this.filled = 0;
  }

  flush(): void {
    if (this.filled > 0) this.prepare(this.filled / this.columns.length).run(this.cells.slice(0, this.filled));
    this.filled = 0;
  }

  private prepare(rows: number): Database.Statement<[Cell[]]> {
    const names = this.columns.map((column) => `\`${column}\``).join(', ');
    const one = `(${this.columns.map(() => '?').join(', ')})`;
    return this.db.prepare<[Cell[]]>(`${this.into} (${names}) values ${Array(rows).fill(one).join(', ')} ${this.tail}`);
  }
}
