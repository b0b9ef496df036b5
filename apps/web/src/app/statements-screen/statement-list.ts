import type { ListedDocument, ShelfView } from '@margin-lens/contract';

/** Which statements are listed: all, those of a folder, favourites, or those opened last. */
export type Shelf = { kind: 'all' | 'favourites' | 'recent' } | { kind: 'folder'; name: string };

/** Statements that count as opened last. */
const RECENT = 12;

/** What stands on a shelf; what was opened last comes first there. */
export function shelved(
  documents: readonly ListedDocument[],
  shelf: Shelf,
  view: ShelfView | undefined,
): readonly ListedDocument[] {
  switch (shelf.kind) {
    case 'all':
      return documents;
    case 'folder':
      return documents.filter(({ folder }) => folder === shelf.name);
    case 'favourites':
      return documents.filter(({ id }) => view?.favourites.includes(id));
    case 'recent': {
      const opened = view?.opened ?? {};
      const at = ({ id }: ListedDocument) => opened[id] ?? '';
      return documents
        .filter(({ id }) => id in opened)
        .sort((a, b) => (at(a) < at(b) ? 1 : -1))
        .slice(0, RECENT);
    }
  }
}

/** The shelves there are, each with how much stands on it. */
export function foldersOf(
  documents: readonly ListedDocument[],
  view: ShelfView | undefined,
): { shelf: Shelf; name: string; count: number }[] {
  const folders = [...new Set(documents.map(({ folder }) => folder))].filter(Boolean).sort();
  const shelves: { shelf: Shelf; name: string }[] = [
    { shelf: { kind: 'all' }, name: 'All' },
    { shelf: { kind: 'favourites' }, name: 'Favourites' },
    { shelf: { kind: 'recent' }, name: 'Opened last' },
    ...folders.map((name) => ({ shelf: { kind: 'folder' as const, name }, name })),
  ];
  return shelves.map((each) => ({ ...each, count: shelved(documents, each.shelf, view).length }));
}
