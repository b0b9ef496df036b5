import { RowBatch } from './row-batch';
import type { Write } from './store';

/** What posting needs of a write. */
export type Posting = Pick<Write, 'db' | 'revision' | 'touches'>;

interface BalanceSum {
  cells: number[];
  debit: number;
  credit: number;
  quantity: number;
}

/** Sums kept in memory before they are written; bounds memory whatever the size of the file. */
const SUMS_HELD = 200_000;
/** Room for each part of the packed key; ids beyond it fall back to a text key. */
const RADIX = { entity: 4096, account: 65_536, period: 4096, kinds: 16 } as const;

/** Adds postings to the balances, many at a time, inside the transaction that writes the postings. */
export class BalanceLedger {
  private readonly sums = new Map<number | string, BalanceSum>();
  private readonly batch: RowBatch;
  private readonly firsts: RowBatch;
  /** Months of entities that actuals were added to, as `entity.period`. */
  private readonly months = new Set<string>();

  constructor(private readonly write: Posting) {
    const { db } = write;
    this.firsts = new RowBatch(db, 'insert or ignore into first_posting', ['entity', 'period', 'revision'], '');
    const columns = [
      'version',
      'entity',
      'period',
      'account',
      'combination',
      'basis',
      'entry_kind',
      'debit',
      'credit',
      'quantity',
    ];
    this.batch = new RowBatch(
      db,
      'insert into balance',
      columns,
      'on conflict do update set debit = debit + excluded.debit, credit = credit + excluded.credit, quantity = quantity + excluded.quantity',
    );
  }

  add(
    version: number,
    entity: number,
    account: number,
    period: number,
    combination: number,
    basis: number,
    entryKind: number,
    debit: number,
    credit: number,
    quantity: number,
  ): void {
    const kinds = basis * 3 + entryKind;
    const packed =
      (((combination * RADIX.entity + entity) * RADIX.account + account) * RADIX.period + period) * RADIX.kinds + kinds;
    const fits = version === 0 && entity < RADIX.entity && account < RADIX.account && period < RADIX.period;
    const key =
      fits && packed <= Number.MAX_SAFE_INTEGER ? packed : `${version}.${packed}.${entity}.${account}.${period}`;
    const sum = this.sums.get(key);
    if (sum) {
      sum.debit += debit;
      sum.credit += credit;
      sum.quantity += quantity;
      return;
    }
    const cells = [version, entity, period, account, combination, basis, entryKind];
    this.write.touches.add(version === 0 ? 'ledger' : 'figures');
    if (version === 0) this.months.add(`${entity}.${period}`);
    this.sums.set(key, { cells, debit, credit, quantity });
    if (this.sums.size >= SUMS_HELD) this.flush();
  }

  flush(): void {
    const inKeyOrder = [...this.sums.values()].sort((a, b) => compareCells(a.cells, b.cells));
    for (const { cells, debit, credit, quantity } of inKeyOrder) this.batch.add(...cells, debit, credit, quantity);
    this.batch.flush();
    this.sums.clear();
    for (const month of this.months) this.firsts.add(...month.split('.').map(Number), this.write.revision);
    this.firsts.flush();
    this.months.clear();
  }
}

function compareCells(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return a[i]! - b[i]!;
  return 0;
}

/**
 * Adds the lines of whole journals to the balances, or takes them out again; balances that come to nothing go.
 *
 * Shape: `journals` is a query that gives journal ids.
 */
export function postJournals({ db, touches }: Posting, journals: string, sign: 1 | -1): void {
  touches.add('ledger');
  db.exec(`
    insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
      select 0, l.entity, l.period, l.account, l.combination, l.basis, j.kind,
        ${sign} * sum(l.debit), ${sign} * sum(l.credit), ${sign} * sum(l.quantity)
      from journal_line l join journal j on j.id = l.journal where l.journal in (${journals})
      group by 2, 3, 4, 5, 6, 7
      on conflict do update set debit = debit + excluded.debit, credit = credit + excluded.credit,
        quantity = quantity + excluded.quantity;
    delete from balance where version = 0 and debit = 0 and credit = 0 and quantity = 0
      and (entity, period) in (select distinct entity, period from journal_line where journal in (${journals}))`);
  if (sign === 1)
    db.exec(
      `insert or ignore into first_posting (entity, period, revision)
       select l.entity, l.period, min(j.since) from journal_line l join journal j on j.id = l.journal
       where l.journal in (${journals}) group by 1, 2`,
    );
}

/** Adds the lines of the journals that a revision made and that hold to the balances, or takes them out again. */
export const postJournalsOf = (posting: Posting, revision: number, sign: 1 | -1): void =>
  postJournals(posting, `select id from journal where since = ${revision} and until is null`, sign);
