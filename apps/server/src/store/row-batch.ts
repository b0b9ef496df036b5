import type Database from 'better-sqlite3';

export type Cell = string | number | null;

/** Rows a statement: more only makes statements that are slower to read. */
const ROWS = 50; // 10 to 200
/** Statements kept, by how many rows they take and which of their columns are the same throughout. */
const STATEMENTS = 500; // 1 to 2,000

/**
 * Collects rows and inserts many with one statement; row by row would be slower. What a column holds throughout these
 * rows is bound once: binding is most of the time of an insert, and half of the columns of a ledger seldom change.
 */
export class RowBatch {
  private readonly cells: Cell[];
  private filled = 0;
  private readonly statements = new Map<string, Database.Statement<Cell[]>>();

  constructor(
    private readonly db: Database.Database,
    private readonly into: string,
    private readonly columns: readonly string[],
    private readonly tail = '',
  ) {
    this.cells = new Array<Cell>(ROWS * columns.length).fill(null);
  }

  /** Takes the cells of a row one after the other. */
  add(cell: Cell): void {
    this.cells[this.filled++] = cell;
    if (this.filled === this.cells.length) this.flush();
  }

  flush(): void {
    const { cells, filled, columns } = this;
    if (filled === 0) return;
    const steady = columns.map((_, column) => this.isSteady(column));
    const bound = columns.flatMap((_, column) => (steady[column] ? [cells[column]!] : []));
    for (let at = 0; at < filled; at++) if (!steady[at % columns.length]) bound.push(cells[at]!);
    this.statementOf(filled / columns.length, steady).run(...bound);
    this.filled = 0;
  }

  private isSteady(column: number): boolean {
    const { cells, filled, columns } = this;
    for (let at = column + columns.length; at < filled; at += columns.length)
      if (cells[at] !== cells[column]) return false;
    return true;
  }

  private statementOf(rows: number, steady: readonly boolean[]): Database.Statement<Cell[]> {
    const key = `${rows} ${steady.map(Number).join('')}`;
    const known = this.statements.get(key);
    if (known) return known;
    if (this.statements.size >= STATEMENTS) this.statements.clear();
    const made = this.prepare(rows, steady);
    this.statements.set(key, made);
    return made;
  }

  /** A statement that is bound the cells of the steady columns first, then those of the others row by row. */
  private prepare(rows: number, steady: readonly boolean[]): Database.Statement<Cell[]> {
    const { columns } = this;
    const names = columns.map((column) => `\`${column}\``).join(', ');
    let moving = 0;
    const taken = steady.map((isSteady) => (isSteady ? '?' : `column${++moving}`)).join(', ');
    // a row needs a column, even where all of them are steady
    const row = moving === 0 ? '(0)' : `(${Array(moving).fill('?').join(', ')})`;
    const from = `from (values ${Array(rows).fill(row).join(', ')}) where true`;
    return this.db.prepare<Cell[]>(`${this.into} (${names}) select ${taken} ${from} ${this.tail}`);
  }
}
