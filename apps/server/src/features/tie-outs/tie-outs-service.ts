import { setImmediate as nextTurn } from 'node:timers/promises';
import type { TieOutsQuery, TieOutsView } from '@margin-lens/contract';
import {
  ACTUAL_ID,
  type Books,
  type FiscalPeriod,
  type LedgerSlice,
  type Scope,
  consolidationTieOuts,
  debitsOf,
  layoutTieOuts,
  movementTieOut,
  openProof,
  tieOut,
  tieOutsAt,
  translationTieOuts,
  type TieOut,
  WHOLE_BOOKS,
} from '@margin-lens/core';
import { readInTurns } from '../workspace/read-in-turns';
import { scopeRead, surroundingsOf } from '../statements/surroundings-of';
import { requireAllValues } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import { debitsOfBalances } from '../../store/cube-rows';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';
import type { LineSums } from './line-sums';
import { tieOutWords } from '../../base/words';

/** Runs the tie-outs of the books and of all layouts for a scope; each is a test of the books that runs on every change. */
export class TieOutsService {
  constructor(private readonly lines: LineSums) {}

  async view(snapshot: Snapshot, { scope, as_at: asAt }: TieOutsQuery): Promise<TieOutsView> {
    const model = snapshot.filled;
    const opened = openScope(model, snapshot.viewer, scope);
    const at = openPeriod(opened, asAt);
    requireAllValues(snapshot.viewer);
    const books = await snapshot.books();
    const slice = books.ofScope(opened);
    const layouts = model.documentsOf('row_layout');
    const surroundings = surroundingsOf(snapshot, books, opened, layouts, []);
    const base = { slice, at, currency: opened.currency };
    const ties = tieOutsAt({ ...base, surroundings, layouts: [] }); // of the books alone
    for (const rowLayout of layouts.filter(({ archived }) => !archived)) {
      const proof = openProof(rowLayout, { ...base, surroundings });
      await readInTurns(books, proof.books.selections, (each) => scopeRead(snapshot, opened, each));
      ties.push(...layoutTieOuts(rowLayout, proof));
    }
    const entity = model.entity(scope);
    if (entity) {
      ties.push(await movementsByCode(books, opened, at), ...(await this.ofTheStore(snapshot, books, entity)));
    }
    const rates = books.balances.ratesAt();
    ties.push(
      ...translationTieOuts(opened, { slice, at, rates }, ({ entity: { code } }) =>
        books.ofScope(opened, { ...WHOLE_BOOKS, member: code }),
      ),
    );
    await nextTurn();
    ties.push(...consolidationTieOuts(opened, slice, at));
    const statementOf = (layout: string) =>
      model.documentsOf('statement').find(({ rows }) => rows === layout)?.id ?? null;
    return {
      scope: { code: opened.code, name: opened.name, currency: opened.currency.code },
      asAt: at.key,
      ties: ties.map((tie) => ({ ...tie, statement: tie.subject === '' ? null : statementOf(tie.subject) })),
    };
  }

  /** What statements read, the balances that are kept and the journal lines: each is made in another way. */
  private async ofTheStore({ db, revision }: Snapshot, books: Books, { id }: Entity): Promise<TieOut[]> {
    const balances = debitsOfBalances(db, id);
    const kept = { words: tieOutWords.debitsOfBalances, amount: balances };
    const lines = { words: tieOutWords.debitsOfLines, amount: await this.lines.debits(id, revision) };
    const read = {
      words: tieOutWords.debitsOfStatements,
      amount: debitsOf(books.balances.cubeAt().rows(ACTUAL_ID, id)),
    };
    return [
      tieOut('balances', { id: '', name: tieOutWords.balancesAndLines }, kept, lines),
      tieOut('statements', { id: '', name: tieOutWords.statementsAndBalances }, read, kept),
    ];
  }
}

/** The books of an entity against the same by movement code, each read in a turn of its own. */
async function movementsByCode(books: Books, scope: Scope, at: FiscalPeriod): Promise<TieOut> {
  const carried = [...books.movementCodes(scope).values()].flatMap((codes) => [...codes]);
  const parts: LedgerSlice[] = [];
  for (const values of [[], ...[...new Set(carried)].map((code) => [code])]) {
    const condition = { dimension: 'flow', has: values.length === 0 ? ('none' as const) : ('in' as const), values };
    parts.push(books.ofScope(scope, { ...WHOLE_BOOKS, where: [condition] }));
    await nextTurn(); // others are answered in between
  }
  return movementTieOut(scope.name, books.ofScope(scope), parts, at);
}
