import type { TieOutsQuery, TieOutsView } from '@margin-lens/contract';
import { layoutTieOuts, PROOF_COLUMNS, tieOut, tieOutsAt, type TieOut } from '@margin-lens/core';
import type { Viewer } from '../../base/viewer';
import { surroundingsOf, withBooks } from '../statements/surroundings-of';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** Sums of postings as they are kept, and as the journal lines give them. */
const BALANCES_AND_LINES = `
  select (select coalesce(sum(debit), 0) from balance where version = 0 and entity = :entity) as kept,
    (select coalesce(sum(l.debit), 0) from journal j join journal_line l on l.journal = j.id
      where j.entity = :entity and j.until is null) as lines`;

/** Runs the tie-outs of the books and of all layouts for a scope; each is a test of the books that runs on every change. */
export class TieOutsService {
  /** Balances against lines, once a revision and entity: it reads every line. */
  private readonly sums = new Map<string, Promise<TieOut>>();

  constructor(private readonly workspace: WorkspaceCache) {}

  async view(viewer: Viewer, { scope, as_at: asAt }: TieOutsQuery): Promise<TieOutsView> {
    const model = await this.workspace.books();
    const entity = openScope(model, viewer, scope);
    const at = openPeriod(entity, asAt);
    const em = this.workspace.em();
    const slice = await model.slice(em, entity);
    const layouts = model.documentsOf('row_layout');
    const plain = surroundingsOf(model, viewer, entity, layouts, []);
    const base = { slice, at, currency: entity.currency };
    const ties = tieOutsAt({ ...base, surroundings: plain, layouts: [] }); // of the books alone
    for (const rowLayout of layouts.filter(({ archived }) => !archived)) {
      const source = { ...base, rowLayout, columnLayout: PROOF_COLUMNS, surroundings: plain };
      const { surroundings } = await withBooks(em, model, viewer, entity, source);
      ties.push(...layoutTieOuts(rowLayout, { ...base, surroundings }));
    }
    ties.push(await this.balancesAndLines(model, entity));
    const statementOf = (layout: string) =>
      model.documentsOf('statement').find(({ rows }) => rows === layout)?.id ?? null;
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      asAt: at.key,
      ties: ties.map((tie) => ({ ...tie, statement: tie.subject === '' ? null : statementOf(tie.subject) })),
    };
  }

  private balancesAndLines({ revision }: WorkspaceModel, { id }: Entity): Promise<TieOut> {
    const key = `${revision}|${id}`;
    const known = this.sums.get(key);
    if (known) return known;
    const made = this.workspace.reading
      .execute<{ kept: number; lines: number }>(BALANCES_AND_LINES.replaceAll(':entity', String(id)))
      .then(([sums]) =>
        tieOut(
          'balances',
          { id: '', name: 'Balances and journal lines' },
          { words: 'Debits in the balances', amount: sums!.kept },
          { words: 'Debits of the journal lines', amount: sums!.lines },
        ),
      );
    for (const old of this.sums.keys()) if (!old.startsWith(`${revision}|`)) this.sums.delete(old);
    this.sums.set(key, made);
    made.catch(() => this.sums.delete(key));
    return made;
  }
}
