import type { PackDocument, PackPage } from '../layout/pack-document';
import { textBlocks } from './text-blocks';

/** An entity or group by its name. */
export interface Named {
  code: string;
  name: string;
}

/** What binds a pack to an entity or group: a page that is read for it alone, or words that name it. */
export interface Bound {
  /** Id of the page; empty where it is the head or foot of all sheets. */
  page: string;
  by: 'scope' | 'words';
  scope: Named;
}

/** All that would say something of one entity or group while the pack is read for another. */
export function boundOf({ pages, header = '', footer = '', name }: PackDocument, scopes: readonly Named[]): Bound[] {
  const words = (page: string, texts: readonly string[]) =>
    namedIn(texts.join('\n'), scopes).map((scope): Bound => ({ page, by: 'words', scope }));
  return [
    ...words('', [name, header, footer]),
    ...pages.flatMap((page) => {
      const own = scopes.find(({ code }) => code === page.differs?.scope);
      return [...(own ? [{ page: page.id, by: 'scope' as const, scope: own }] : []), ...words(page.id, textsOf(page))];
    }),
  ];
}

/** Those whose names stand in a text as words of their own; a name within a longer one does not count. */
function namedIn(text: string, scopes: readonly Named[]): Named[] {
  const longestFirst = scopes.filter(({ name }) => name !== '').sort((a, b) => b.name.length - a.name.length);
  let left = text;
  return longestFirst.filter(({ name }) => {
    const pattern = new RegExp(
      `(?<![\\p{L}\\p{N}])${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}\\p{N}])`,
      'gu',
    );
    const without = left.replace(pattern, ' ');
    const isNamed = without !== left;
    left = without;
    return isNamed;
  });
}

/** What was written on a page itself. */
function textsOf(page: PackPage): string[] {
  const title = page.title ?? '';
  switch (page.kind) {
    case 'cover':
      return [title, ...(page.lines ?? [])];
    case 'section':
      return [title, page.says ?? ''];
    case 'tiles':
      return [title, ...page.tiles.map(({ label = '' }) => label)];
    case 'text':
      return [
        title,
        ...textBlocks(page.body, () => undefined).map((block) =>
          block.kind === 'heading'
            ? block.text
            : block.kind === 'paragraph'
              ? block.runs.map(({ text }) => text).join('')
              : '',
        ),
      ];
    default:
      return [title];
  }
}
