import type { FiguresPage, PackDocument, PackPage, RowLayout } from '@margin-lens/core';
import { packWords } from '../../base/words';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** Breakdowns that a proposal takes. */
const BREAKDOWNS = 2;

const PURPOSES = ['income', 'balance_sheet', 'cash_flow'] as const satisfies readonly RowLayout['purpose'][];

/** A pack to begin with, of what the workspace has: its main statements, what moved in its income, and breakdowns. */
export function proposedPack(model: WorkspaceModel): PackDocument {
  const shown = (pages: readonly FiguresPage[]) => pages.filter(({ archived }) => archived !== true);
  const purposeOf = new Map(model.documentsOf('row_layout').map(({ id, purpose }) => [id, purpose]));
  const usual = model.settings?.defaults?.statement;
  const statements = [...shown(model.documentsOf('statement'))].sort(
    (a, b) => Number(b.id === usual) - Number(a.id === usual),
  );
  const [income, ...others] = PURPOSES.map((purpose) => statements.find(({ rows }) => purposeOf.get(rows) === purpose));
  const page = (of: string): PackPage => ({ kind: 'figures', id: of, of });
  const pages: PackPage[] = [
    { kind: 'cover', id: 'cover' },
    { kind: 'contents', id: 'contents' },
    ...(income ? [page(income.id), { kind: 'exceptions' as const, id: 'what_moved', of: income.id }] : []),
    ...others.flatMap((each) => (each ? [page(each.id)] : [])),
    ...shown(model.documentsOf('breakdown'))
      .slice(0, BREAKDOWNS)
      .map(({ id }) => page(id)),
  ];
  return { schema: 1, kind: 'pack', id: 'new', name: packWords.proposed, orientation: 'landscape', pages };
}
