import type { CombinationTexts } from '../cube/combinations';
import type { LineColumns } from '../cube/line-columns';
import { allRuns, type Runs } from '../cube/segment';
import { SegmentBuilder } from '../cube/segment-builder';
import { LayeredBalances, type BalanceRows, type Balances } from './balances';
import { KINDS, NORMAL } from './book-rows';
import type { DerivedCash } from './derive-cash';
import { kept } from './kept';
import { withMoved, type MovedLines } from './moved-lines';
import { ACTUAL_ID, CASH_HELD, CASH_DERIVED } from './version-rows';

/** Where the cash basis of entities is derived from. */
export interface CashSource {
  /** What is derived for an entity as stored, at the moment or at an earlier revision. */
  derivedOf(entity: number, revision?: number): DerivedCash;
  /** Lines of an account of an entity, both as stored. */
  linesOf(entity: number, account: number, revision?: number): LineColumns;
  /** Revision that last moved journal lines: what they settle moves no balance. */
  ledgerAt: number;
}

const DERIVED_KIND = CASH_DERIVED * KINDS + NORMAL;

/** Entities and revisions that are kept. */
const KEPT_RUNS = 300; // 20 to 2,000

/**
 * Balances that also hold what the cash basis moves, as entries of a basis of its own: of entities whose books hold none of
 * the cash basis themselves. Whoever reads other bases reads the balances that they are made from.
 */
export class CashBalances extends LayeredBalances {
  private readonly runs = new Map<string, Runs>();
  private readonly moved = new Map<string, { lines: MovedLines | undefined }>();

  constructor(
    base: Balances,
    private readonly source: CashSource,
  ) {
    super(base);
  }

  get combinations(): CombinationTexts {
    return this.base.combinations;
  }

  cubeAt(revision?: number): BalanceRows {
    const cube = this.base.cubeAt(revision);
    const movedAt: BalanceRows['movedAt'] = (version, entity) =>
      version === ACTUAL_ID
        ? Math.max(cube.movedAt(version, entity), this.source.ledgerAt)
        : cube.movedAt(version, entity);
    return {
      movedAt,
      rows: (version, entity) => {
        if (version !== ACTUAL_ID) return cube.rows(version, entity);
        const key = [entity, movedAt(version, entity), revision].join('|');
        return kept(this.runs, key, KEPT_RUNS, () => this.rows(cube.rows(version, entity), entity, revision));
      },
    };
  }

  /** Whether the books of an entity hold entries of the cash basis themselves. */
  holdsCash(entity: number): boolean {
    return this.movedOf(entity) === undefined;
  }

  /** What is derived for an entity; undefined where its books hold the cash basis themselves. */
  private movedOf(entity: number, revision?: number): MovedLines | undefined {
    const key = [entity, revision].join('|');
    return kept(this.moved, key, KEPT_RUNS, () => {
      const isHeld = holdsCash(this.base.cubeAt(revision).rows(ACTUAL_ID, entity));
      return { lines: isHeld ? undefined : this.source.derivedOf(entity, revision).moved };
    }).lines;
  }

  /** The lines of an account with what the cash basis moves of them. */
  linesOf(entity: number, account: number, revision?: number): LineColumns {
    const lines = this.source.linesOf(entity, account, revision);
    const moved = this.movedOf(entity, revision);
    return moved ? withMoved(lines, moved, account, DERIVED_KIND) : lines;
  }

  private rows(runs: Runs, entity: number, revision: number | undefined): Runs {
    const moved = this.movedOf(entity, revision);
    if (!moved) return runs;
    const builder = new SegmentBuilder();
    const { segment } = runs;
    for (let run = runs.first; run < runs.end; run++)
      for (let row = segment.firstRow[run]!; row < segment.firstRow[run + 1]!; row++)
        builder.add(
          ...([ACTUAL_ID, entity, segment.account[run]!, segment.period[row]!] as const),
          ...([segment.combination[row]!, segment.kind[row]!, segment.debit[row]!, segment.credit[row]!] as const),
          ...([segment.quantity[row]!, segment.count[row]!] as const),
        );
    for (let row = 0; row < moved.id.length; row++)
      builder.add(
        ...([ACTUAL_ID, entity, moved.account[row]!, moved.period[row]!, moved.combination[row]!] as const),
        ...([DERIVED_KIND, moved.debit[row]!, moved.credit[row]!, moved.quantity[row]!, 0] as const),
      );
    return allRuns(builder.finish());
  }
}

function holdsCash({ segment, first, end }: Runs): boolean {
  for (let row = segment.firstRow[first]!; row < segment.firstRow[end]!; row++)
    if (Math.floor(segment.kind[row]! / KINDS) === CASH_HELD) return true;
  return false;
}
