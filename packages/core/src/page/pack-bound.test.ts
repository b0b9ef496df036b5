import type { PackDocument, PackPage } from '../layout/pack-document';
import { boundOf } from './pack-bound';

const SCOPES = [
  { code: 'LM', name: 'Larkmoor' },
  { code: 'LMT', name: 'Larkmoor Tile' },
  { code: 'LMS', name: 'Larkmoor Studio' },
];
const pack = (pages: PackPage[], more: Partial<PackDocument> = {}): PackDocument => ({
  ...{ schema: 1, kind: 'pack', id: 'monthly', name: 'Monthly', pages },
  ...more,
});
const text = (...words: string[]): PackPage => ({
  ...{ kind: 'text', id: 'words', title: 'Outlook' },
  body: { type: 'doc', content: [{ type: 'paragraph', content: words.map((each) => ({ type: 'text', text: each })) }] },
});
const told = (document: PackDocument) => boundOf(document, SCOPES).map(({ page, by, scope }) => [page, by, scope.code]);

describe('what binds a pack to an entity', () => {
  it('is a page that is read for it alone, and words that name it, on pages and at the foot', () => {
    const pages = [text('Sales of Larkmoor Tile, and of ', 'Larkmoor Studio.')];
    const figures: PackPage = { kind: 'figures', id: 'costs', of: 'costs', differs: { scope: 'LMS' } };
    expect(told(pack([...pages, figures], { footer: 'Larkmoor Tile' }))).toEqual([
      ['', 'words', 'LMT'],
      ['words', 'words', 'LMS'],
      ['words', 'words', 'LMT'],
      ['costs', 'scope', 'LMS'],
    ]);
  });

  it('is no name within another, and no part of a word', () => {
    expect(told(pack([text('Larkmoor Tiles are sold by Larkmoor Tile')]))).toEqual([
      ['words', 'words', 'LMT'],
      ['words', 'words', 'LM'],
    ]);
    expect(told(pack([text('Larkmoors')]))).toEqual([]);
  });
});
