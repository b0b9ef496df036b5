import type { ListedDocument } from '@margin-lens/contract';
import { foldersOf, shelved } from './statement-list';

const document = (id: string, folder = ''): ListedDocument => ({ id, folder }) as ListedDocument;
const DOCUMENTS = [document('a', 'Board'), document('b', 'Analysis'), document('c', 'Board'), document('d')];
const VIEW = {
  favourites: ['c', 'gone'],
  opened: { a: '2026-08-01T10:00:00Z', d: '2026-08-02T10:00:00Z', gone: '2026-08-03T10:00:00Z' },
};
const ids = (documents: readonly ListedDocument[]) => documents.map(({ id }) => id);

describe('shelved', () => {
  it('lists all, a folder, favourites, and what was opened, the last first', () => {
    expect(ids(shelved(DOCUMENTS, { kind: 'all' }, VIEW))).toEqual(['a', 'b', 'c', 'd']);
    expect(ids(shelved(DOCUMENTS, { kind: 'folder', name: 'Board' }, VIEW))).toEqual(['a', 'c']);
    expect(ids(shelved(DOCUMENTS, { kind: 'favourites' }, VIEW))).toEqual(['c']);
    expect(ids(shelved(DOCUMENTS, { kind: 'recent' }, VIEW))).toEqual(['d', 'a']);
    expect(ids(shelved(DOCUMENTS, { kind: 'recent' }, undefined))).toEqual([]);
  });
});

describe('foldersOf', () => {
  it('counts what stands on each shelf, folders by their names', () => {
    expect(foldersOf(DOCUMENTS, VIEW).map(({ name, count }) => `${name} ${count}`)).toEqual([
      'All 4',
      'Favourites 1',
      'Opened last 2',
      'Analysis 1',
      'Board 2',
    ]);
  });
});
