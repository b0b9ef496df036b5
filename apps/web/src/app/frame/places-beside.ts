import type { WorkspaceView } from '@margin-lens/contract';

interface PlaceBeside {
  name: string;
  path: string;
}

/** What can stand beside another place, in groups: statements, planning sheets, and the lists that explain both. */
export const placesBeside = ({ statements, versions }: WorkspaceView): PlaceBeside[][] =>
  [
    statements.map(({ id, name }) => ({ name, path: `/statements/${id}` })),
    versions.map(({ code, name }) => ({ name, path: `/versions/${encodeURIComponent(code)}` })),
    [
      { name: 'Ledger lines', path: '/ledger/lines' },
      { name: 'Exceptions', path: '/exceptions' },
    ],
  ].filter((group) => group.length > 0);
