import type Database from 'better-sqlite3';

type Cell = string | number | null;

/** Collects rows and inserts many with one statement; row by row would be several times slower. */
export class RowBatch {
  private readonly cells: Cell[];
  private filled = 0;
  private rows = 0;
  private readonly full: Database.Statement<[Cell[]]>;

  constructor(
    private readonly db: Database.Database,
    private readonly into: string,
    private readonly columns: readonly string[],
    private readonly tail = '',
    private readonly rowsPerStatement = 200,
  ) {
    this.full = this.prepare(rowsPerStatement);
    this.cells = new Array<Cell>(rowsPerStatement * columns.length).fill(null);
  }

  add(...cells: Cell[]): void {
    for (let i = 0; i < cells.length; i++) this.cells[this.filled++] = cells[i]!;
    if (++this.rows === this.rowsPerStatement) this.insert(this.full, this.cells);
  }

  flush(): void {
    if (this.rows > 0) this.insert(this.prepare(this.rows), this.cells.slice(0, this.filled));
  }

  private insert(statement: Database.Statement<[Cell[]]>, cells: Cell[]): void {
    statement.run(cells);
    this.filled = 0;
    this.rows = 0;
  }

  private prepare(rows: number): Database.Statement<[Cell[]]> {
    const names = this.columns.map((column) => `\`${column}\``).join(', ');
    const one = `(${this.columns.map(() => '?').join(', ')})`;
    return this.db.prepare<[Cell[]]>(`${this.into} (${names}) values ${Array(rows).fill(one).join(', ')} ${this.tail}`);
  }
}
