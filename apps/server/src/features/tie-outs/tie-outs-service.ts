import type { TieOutsQuery, TieOutsView } from '@margin-lens/contract';
import { layoutTieOuts, tieOut, tieOutsAt, type TieOut } from '@margin-lens/core';
import { surroundingsOf } from '../statements/surroundings-of';
import { openPeriod, openScope } from '../workspace/open-scope';
import { debitsOfBalancesAndLines } from '../../store/lines';
import type { ReadingThread } from '../../store/reading-thread';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';

/** Runs the tie-outs of the books and of all layouts for a scope; each is a test of the books that runs on every change. */
export class TieOutsService {
  /** Balances against lines, once a state of the ledger and entity: it reads every line. */
  private readonly sums = new Map<string, Promise<TieOut>>();

  constructor(private readonly reading: ReadingThread) {}

  async view(snapshot: Snapshot, { scope, as_at: asAt }: TieOutsQuery): Promise<TieOutsView> {
    const model = snapshot.filled;
    const entity = openScope(model, snapshot.viewer, scope);
    const at = openPeriod(entity, asAt);
    const books = await snapshot.books();
    const slice = books.read(entity);
    const layouts = model.documentsOf('row_layout');
    const surroundings = surroundingsOf(snapshot, books, entity, layouts, []);
    const base = { slice, at, currency: entity.currency };
    const ties = tieOutsAt({ ...base, surroundings, layouts: [] }); // of the books alone
    for (const rowLayout of layouts.filter(({ archived }) => !archived))
      ties.push(...layoutTieOuts(rowLayout, { ...base, surroundings }));
    ties.push(await this.balancesAndLines(snapshot, entity));
    const statementOf = (layout: string) =>
      model.documentsOf('statement').find(({ rows }) => rows === layout)?.id ?? null;
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      asAt: at.key,
      ties: ties.map((tie) => ({ ...tie, statement: tie.subject === '' ? null : statementOf(tie.subject) })),
    };
  }

  private balancesAndLines({ generation: { ledger } }: Snapshot, { id }: Entity): Promise<TieOut> {
    const key = `${ledger}|${id}`;
    const known = this.sums.get(key);
    if (known) return known;
    const made = debitsOfBalancesAndLines(this.reading, id).then(({ kept, lines }) =>
      tieOut(
        'balances',
        { id: '', name: 'Balances and journal lines' },
        { words: 'Debits in the balances', amount: kept },
        { words: 'Debits of the journal lines', amount: lines },
      ),
    );
    for (const old of this.sums.keys()) if (!old.startsWith(`${ledger}|`)) this.sums.delete(old);
    this.sums.set(key, made);
    made.catch(() => this.sums.delete(key));
    return made;
  }
}
