import type Database from 'better-sqlite3';
import { FIGURES_FILE, issue, type FigureRow, type Issue } from '@margin-lens/core';
import { ADDED_UP, type Posting } from './post-journals';
import { RowBatch } from './row-batch';
import { FINDINGS_LISTED } from './staged-journals';

const PLACE = ['version', 'entity', 'account', 'period', 'combination'] as const;
const COLUMNS = [...PLACE, 'amount', 'quantity', 'line'] as const;
export interface FigureCounts {
  figures: number;
  changedFigures: number;
  unchangedFigures: number;
}

/**
 * The figures of a delivery: set aside as they are read, while others write; then brought into the books in one go. New
 * ones are added, changed ones end and begin anew, equal ones stay.
 */
export class StagedFigures {
  private readonly rows: RowBatch;

  constructor(private readonly db: Database.Database) {
    db.exec(`create table temp.staged_figure (${COLUMNS.map((column) => `${column} integer not null`).join(', ')})`);
    this.rows = new RowBatch(db, 'insert into temp.staged_figure', COLUMNS);
  }

  add({ version, entity, account, period, amount, quantity }: FigureRow, combination: number, line: number): void {
    for (const cell of [version, entity.id, account, period.id, combination, amount, quantity, line])
      this.rows.add(cell);
  }

  /** Call when all are added; places that the delivery fills twice are findings. */
  finish(report: (found: Issue) => void): void {
    this.rows.flush();
    for (const line of this.linesTwice()) report(issue('CORE_FIGURE_TWICE', {}, { file: FIGURES_FILE, line }));
  }

  /** Brings them into the books under a revision. */
  settle({ db, revision, touches }: Posting): FigureCounts {
    db.exec(`
      create table temp.figure_change as
        select s.*, f.id as held, s.amount - coalesce(f.amount, 0) as moved, s.quantity - coalesce(f.quantity, 0) as more
        from temp.staged_figure s left join figure f on ${PLACE.map((column) => `f.${column} = s.${column}`).join(' and ')}
          and f.until is null;
      drop table temp.staged_figure`);
    const count = db.prepare(
      `select count(*) filter (where held is null) as figures,
         count(*) filter (where held is not null and (moved <> 0 or more <> 0)) as changedFigures,
         count(*) filter (where held is not null and moved = 0 and more = 0) as unchangedFigures
       from temp.figure_change`,
    );
    const counts = count.get() as FigureCounts;
    if (counts.figures + counts.changedFigures > 0) {
      touches.add('figures');
      putInPlace(db, revision);
    }
    db.exec('drop table temp.figure_change');
    return counts;
  }

  private linesTwice(): number[] {
    const places = PLACE.join(', ');
    return this.db
      .prepare(
        `select line from (select line, row_number() over (partition by ${places} order by line) as time from temp.staged_figure)
         where time > 1 order by line limit ${FINDINGS_LISTED}`,
      )
      .pluck()
      .all() as number[];
  }
}

function putInPlace(db: Database.Database, revision: number): void {
  const differs = '(held is null or moved <> 0 or more <> 0)';
  const place = PLACE.join(', ');
  db.exec(`
    update figure set until = ${revision} where id in (select held from temp.figure_change where ${differs});
    insert or ignore into figure (${place}, amount, quantity, since)
      select ${place}, amount, quantity, ${revision} from temp.figure_change where ${differs} order by line;
    insert into balance (${place}, basis, entry_kind, debit, credit, quantity)
      select ${place}, 0, 0, max(moved, 0), max(-moved, 0), more from temp.figure_change where ${differs} ${ADDED_UP}`);
}
