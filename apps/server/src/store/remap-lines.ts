import type Database from 'better-sqlite3';
import {
  accountOfLine,
  attributesOf,
  combinationOf,
  issue,
  localValuesOf,
  localValuesText,
  type AccountOfLine,
  type Issue,
  type LocalCodes,
  type PostingContext,
  type PostingEntity,
} from '@margin-lens/core';
import { combinationId } from './balances';
import { LINE_NUMBERS, LINE_TEXTS } from './journal-batch';
import { postJournals, type Posting } from './post-journals';

/** Tables that say which accounts and values lines stand on: maps of all lines, the others of those on codes of their own. */
const MAPS: readonly string[] = ['account_map', 'value_map'];
const MOVES_LINES: readonly string[] = [...MAPS, 'accounts', 'dimensions'];

/** Whether lines can stand elsewhere once a table was written. */
export const movesLines = (table: string): boolean => MOVES_LINES.includes(table);

/** Months named in findings at most. */
const NAMED = 20;

/** Lines of an entity that stand on the same codes since the same change of what is said of them. */
interface Stand {
  day: string;
  localAccount: string;
  localValues: string;
  account: number;
  number: string;
  combination: number;
  parts: string;
}

/** Where lines stand, and where they go. */
type Move = [stand: Stand, account: number, combination: number, localAccount: string, localValues: string];

/**
 * Moves lines that stand on accounts and values of an entity's own books to what stands for these now. Their journals end
 * and begin anew; nothing moves in closed months.
 * @param changed names of the tables that were written
 * @param closed closed periods as `entity|period` of their ids
 */
export function remapLines(
  posting: Posting,
  changed: readonly string[],
  context: PostingContext,
  closed: ReadonlySet<string>,
  report: (found: Issue) => void,
): void {
  if (!changed.some(movesLines)) return;
  const { db } = posting;
  const isOfAll = changed.some((name) => MAPS.includes(name));
  const withOwn = new Set(
    db
      .prepare("select distinct entity from journal_line where local_account <> '' or local_values <> ''")
      .pluck()
      .all(),
  );
  for (const entity of context.entities.values()) {
    if (!withOwn.has(entity.id) && !(isOfAll && hasOwnCodes(context, entity.code))) continue;
    const { dayOf, stands } = standsOf(db, entity, context.local, isOfAll);
    const moves = stands.flatMap((stand) => {
      const move = moveOf(stand, entity, context, db, report);
      return move ? [move] : [];
    });
    if (moves.length > 0) new MovedLines(posting, entity, dayOf, moves).settle(closed, report);
  }
}

const hasOwnCodes = ({ local, dimensions }: PostingContext, entity: string) =>
  local.hasOwnAccounts(entity) || [...dimensions.keys()].some((dimension) => local.hasOwnValues(entity, dimension));

/** What lines of an entity stand on. Adjustments are made in the accounts of the group. */
function standsOf(db: Database.Database, { id, code }: PostingEntity, local: LocalCodes, isOfAll: boolean) {
  const days = local.changesOf(code).reverse();
  const dayOf =
    days.length === 0
      ? "''"
      : `case ${days.map((day) => `when l.date >= '${day}' then '${day}'`).join(' ')} else '' end`;
  const stands = db
    .prepare(
      `select s.*, a.number, c.parts from (
         select distinct ${dayOf} as day, l.local_account as localAccount, l.local_values as localValues, l.account, l.combination
         from journal_line l join journal j on j.id = l.journal and j.until is null
         where l.entity = ? and l.basis <> 1 ${isOfAll ? '' : "and (l.local_account <> '' or l.local_values <> '')"}) s
       join account a on a.id = s.account and a.until is null join combination c on c.id = s.combination`,
    )
    .all(id) as Stand[];
  return { dayOf, stands };
}

/** Where lines go; undefined where they stay. */
function moveOf(
  stand: Stand,
  { code: entity }: PostingEntity,
  context: PostingContext,
  db: Database.Database,
  report: (found: Issue) => void,
): Move | undefined {
  const delivered = stand.localAccount || stand.number;
  const found = accountOfLine(context, entity, delivered, stand.day) ?? notMapped(context, delivered);
  if (!found) {
    report(issue('CORE_MAP_STILL_NEEDED', { entity, code: delivered }, { file: 'account_map.csv' }));
    return undefined;
  }
  const { account, local: localAccount } = found;
  const { parts, localValues } = valuesOf(stand, entity, context);
  const stays = account.id === stand.account && parts === stand.parts && localValues === stand.localValues;
  if (stays && localAccount === stand.localAccount) return undefined;
  const combination = parts === stand.parts ? stand.combination : combinationId(db, parts);
  return [stand, account.id, combination, localAccount, localValues];
}

/** The last map of an entity may have gone, and its accounts are there still. */
const notMapped = ({ unmapped }: PostingContext, local: string): AccountOfLine | undefined =>
  unmapped && { account: unmapped, local };

/** The values that stand for those of the entity's own. */
function valuesOf({ parts, localValues, day }: Stand, entity: string, { local, dimensions }: PostingContext) {
  const values = new Map(attributesOf(parts));
  const own = localValuesOf(localValues);
  const told = new Map<string, string>();
  for (const dimension of new Set([...own.keys(), ...values.keys()])) {
    if (dimension === 'partner' || dimension === 'flow') continue;
    const delivered = own.get(dimension) ?? values.get(dimension)!;
    const mapped = local.value(entity, dimension, delivered, day);
    const isKnown = dimensions.get(dimension)?.has(delivered) === true;
    values.set(dimension, mapped ?? (isKnown ? delivered : ''));
    if (mapped === undefined ? !isKnown : mapped !== delivered) told.set(dimension, delivered);
  }
  return { parts: combinationOf(values), localValues: localValuesText(told) };
}

const COLUMNS = [...LINE_NUMBERS, ...LINE_TEXTS];
/** Columns that a move gives anew. */
const MOVED: readonly string[] = ['account', 'combination', 'local_account', 'local_values'];

class MovedLines {
  private readonly db: Database.Database;

  constructor(
    private readonly posting: Posting,
    private readonly entity: PostingEntity,
    /** In SQL: the day of the change that a line is behind. */
    private readonly dayOf: string,
    moves: readonly Move[],
  ) {
    this.db = posting.db;
    this.db.exec(`
      drop table if exists temp.moved_line;
      create temp table moved_line (day text, local_account text, local_values text, account integer, combination integer,
        to_account integer, to_combination integer, to_local_account text, to_local_values text,
        primary key (account, combination, local_account, local_values, day)) without rowid`);
    const insert = this.db.prepare('insert into temp.moved_line values (?, ?, ?, ?, ?, ?, ?, ?, ?)');
    for (const [stand, ...to] of moves) {
      const { day, localAccount, localValues, account, combination } = stand;
      insert.run(day, localAccount, localValues, account, combination, ...to);
    }
  }

  settle(closed: ReadonlySet<string>, report: (found: Issue) => void): void {
    if (!this.reportClosed(closed, report)) this.move();
    this.db.exec('drop table temp.moved_line');
  }

  /** A line with where it goes, if it goes. */
  private get joined(): string {
    return `temp.moved_line m on m.account = l.account and m.combination = l.combination
      and m.local_account = l.local_account and m.local_values = l.local_values and m.day = ${this.dayOf} and l.basis <> 1`;
  }

  /** Amounts of closed months stay where they are. */
  private reportClosed(closed: ReadonlySet<string>, report: (found: Issue) => void): boolean {
    if (closed.size === 0) return false;
    const rows = this.db
      .prepare(
        `select distinct coalesce(nullif(l.local_account, ''), a.number) as code, printf('FY%d-P%02d', p.fiscal_year, p.period) as period
         from journal_line l join journal j on j.id = l.journal and j.until is null join ${this.joined}
         join account a on a.id = l.account and a.until is null join fiscal_period p on p.id = l.period and p.until is null
         where l.entity = ? and (m.to_account <> l.account or m.to_combination <> l.combination)
           and l.entity || '|' || l.period in (select value from json_each(?)) order by 2, 1 limit ${NAMED}`,
      )
      .all(this.entity.id, JSON.stringify([...closed])) as { code: string; period: string }[];
    for (const { code, period } of rows)
      report(issue('CORE_MAP_PERIOD_CLOSED', { entity: this.entity.code, code, period }, { file: 'account_map.csv' }));
    return rows.length > 0;
  }

  private move(): void {
    const { db, posting, entity } = this;
    const { revision } = posting;
    const highest = db.prepare('select max(id) from journal').pluck().get() as number;
    const own = (column: string) => (MOVED.includes(column) ? `coalesce(m.to_${column}, l.${column})` : `l.${column}`);
    db.exec(`
      create temp table moved_journal as
        select l.journal as old, ${highest} + row_number() over (order by l.journal) as id
        from journal_line l join journal j on j.id = l.journal and j.until is null join ${this.joined}
        where l.entity = ${entity.id} group by l.journal;
      update journal set until = ${revision} where id in (select old from temp.moved_journal);
      insert into journal (id, entity, fiscal_year, number, kind, since)
        select t.id, j.entity, j.fiscal_year, j.number, j.kind, ${revision}
        from temp.moved_journal t join journal j on j.id = t.old;
      insert into journal_line (${COLUMNS.join(', ')})
        select t.id, ${COLUMNS.slice(1).map(own).join(', ')}
        from temp.moved_journal t join journal_line l on l.journal = t.old left join ${this.joined} order by t.id, l.line`);
    postJournals(posting, 'select old from temp.moved_journal', -1);
    postJournals(posting, 'select id from temp.moved_journal', 1);
    db.exec('drop table temp.moved_journal');
  }
}
