import type { WorkspaceModel } from './workspace-model';

export const isShown = ({ archived }: { archived?: boolean | undefined }) => archived !== true;

export const byName = <T extends { name: string }>(documents: readonly T[]): T[] =>
  [...documents].sort((a, b) => (a.name < b.name ? -1 : 1));

/** Id of the statement that opens when nothing is said: that of the settings, else one of income, which every controller has. */
export function firstStatement(model: WorkspaceModel): string | undefined {
  const said = model.settings?.defaults?.statement;
  if (said !== undefined) return said;
  const layouts = new Set(
    model
      .documentsOf('row_layout')
      .filter(({ purpose }) => purpose === 'income')
      .map(({ id }) => id),
  );
  return byName(model.documentsOf('statement').filter(isShown)).find(({ rows }) => layouts.has(rows))?.id;
}
