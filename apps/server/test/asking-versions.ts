import type {
  FigureCell,
  FiguresView,
  NewVersion,
  SavedFigures,
  StatementView,
  VersionView,
} from '@margin-lens/contract';
import type { asking } from './asking';

/** Combinations of values: none, and the red team. */
export const NONE = '\u001f';
export const RED = '\u001f\u001fteam=red';

export const line = (view: FiguresView, account: string, combination = NONE) =>
  view.lines.find((each) => each.account === account && each.combination === combination)?.figures;

export const cell = (
  account: string,
  month: number,
  before: number,
  after: number,
  combination = NONE,
): FigureCell => ({
  account,
  combination,
  period: `FY2026-P${String(month).padStart(2, '0')}`,
  before,
  after,
});

/** What a person asks of versions and their figures. */
export function askingVersions(ask: ReturnType<typeof asking>) {
  const versions = async () => (await ask<VersionView[]>('GET', '/versions')).body;
  const version = async (code: string) => (await versions()).find((each) => each.code === code)!;
  const make = (more: Partial<NewVersion>) =>
    ask<{ code: string }>('POST', '/versions', {
      name: 'Outlook',
      kind: 'forecast',
      from: 'FY2026-P01',
      to: 'FY2026-P12',
      cutOver: 'FY2026-P02',
      parent: '',
      copyOf: '',
      opening: null,
      ...more,
    });
  const figures = async (code: string, scope = 'ONE') =>
    (await ask<FiguresView>('GET', `/figures?version=${code}&scope=${scope}&from=FY2026-P01&to=FY2026-P12`)).body;
  const save = (code: string, cells: FigureCell[], label = '') =>
    ask<SavedFigures>('PUT', `/versions/${code}/figures`, { scope: 'ONE', how: 'typed', label, cells });
  const move = (code: string, to: string, reason = '') =>
    ask<{ code: string }>('POST', `/versions/${code}/state`, { to, reason });
  const sales = async (code: string, asAt: string) => {
    const query = new URLSearchParams({ scope: 'ONE', as_at: asAt, version: code });
    return (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body.rows[0]!.cells[1]!.amount; // behind last year's
  };
  return { versions, version, make, figures, save, move, sales };
}
