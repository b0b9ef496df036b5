import type { PackDocument, PackPage } from './pack-document';
import { withShared } from './shared-pages';

const pack = (id: string, ...pages: PackPage[]): PackDocument => ({ schema: 1, kind: 'pack', id, name: id, pages });
const shared = (id: string, of: string, page: string, more: object = {}): PackPage => ({
  ...{ kind: 'shared', id, pack: of, page },
  ...more,
});
const INCOME: PackPage = { kind: 'figures', id: 'income', of: 'income', follows: true, differs: { unit: 1000 } };

describe('pages that a pack shares with others', () => {
  const board = pack('board', INCOME, shared('again', 'entity', 'there'));

  it('stand as they do there, under ids of their own, with what is said of them here', () => {
    const own = pack('own', shared('a', 'board', 'income', { title: 'Result', differs: { scope: 'ONE' } }));
    expect(withShared(own, [board]).pages).toEqual([
      { kind: 'figures', id: 'a', of: 'income', title: 'Result', differs: { unit: 1000, scope: 'ONE' } },
    ]);
  });

  it('stay as they are where the other has no such page, or shares it back', () => {
    const own = pack('own', shared('a', 'board', 'gone'), shared('b', 'none', 'income'), shared('c', 'board', 'again'));
    const entity = pack('entity', shared('there', 'board', 'again'));
    expect(withShared(own, [board, entity])).toEqual(own);
  });

  it('are followed through another pack', () => {
    const entity = pack('entity', shared('there', 'board', 'income'));
    const own = pack('own', shared('a', 'entity', 'there'));
    expect(withShared(own, [board, entity]).pages).toEqual([
      { kind: 'figures', id: 'a', of: 'income', differs: { unit: 1000 } },
    ]);
  });
});
