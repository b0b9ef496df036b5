import type Database from 'better-sqlite3';

type Cell = string | number | null;

/** Collects rows and inserts many with one statement; row by row would be several times slower. */
export class RowBatch {
  private cells: Cell[] = [];
  private rows = 0;
  private readonly full: Database.Statement<[Cell[]]>;

  constructor(
    private readonly db: Database.Database,
    private readonly into: string,
    private readonly columns: readonly string[],
    private readonly tail = '',
    private readonly rowsPerStatement = 50,
  ) {
    this.full = this.prepare(rowsPerStatement);
  }

  add(...cells: Cell[]): void {
    for (const cell of cells) this.cells.push(cell);
    if (++this.rows === this.rowsPerStatement) this.insert(this.full);
  }

  flush(): void {
    if (this.rows > 0) this.insert(this.prepare(this.rows));
  }

  private insert(statement: Database.Statement<[Cell[]]>): void {
    statement.run(this.cells);
    this.cells = [];
    this.rows = 0;
  }

  private prepare(rows: number): Database.Statement<[Cell[]]> {
    const names = this.columns.map((column) => `\`${column}\``).join(', ');
    const one = `(${this.columns.map(() => '?').join(', ')})`;
    return this.db.prepare<[Cell[]]>(`${this.into} (${names}) values ${Array(rows).fill(one).join(', ')} ${this.tail}`);
  }
}
