import type { TextBody, TextList, TextPiece } from '../layout/text-body';
import type { PageBlock, TextRun } from './page';

/** How a figure in a text reads now, and what it was when it was quoted, where it moved since. */
export interface QuotedFigure {
  text: string;
  /** Empty where it stands as it was quoted. */
  moved: string;
}

/** Bullets by how deep a list stands. */
const BULLETS = ['•', '–', '·'];

/** Written text as blocks of a page, its figures as they are now. @param figure a quoted one, by its key; undefined where there is none */
export function textBlocks({ content }: TextBody, figure: (key: string) => QuotedFigure | undefined): PageBlock[] {
  return content.flatMap((block): PageBlock[] => {
    switch (block.type) {
      case 'heading':
        return [
          {
            kind: 'heading',
            text: runsOf(block.content, figure)
              .map(({ text }) => text)
              .join(''),
          },
        ];
      case 'paragraph':
        return [{ kind: 'paragraph', runs: runsOf(block.content, figure) }];
      case 'bulletList':
      case 'orderedList':
        return listBlocks(block, 0, figure);
    }
  });
}

function listBlocks(list: TextList, depth: number, figure: (key: string) => QuotedFigure | undefined): PageBlock[] {
  const first = list.attrs?.start ?? 1;
  return list.content.flatMap((item, at) =>
    item.content.flatMap((part, place): PageBlock[] => {
      if (part.type !== 'paragraph') return listBlocks(part, depth + 1, figure);
      const mark = list.type === 'orderedList' ? `${first + at}.` : BULLETS[depth % BULLETS.length]!;
      return [{ kind: 'paragraph', runs: runsOf(part.content, figure), mark: place === 0 ? mark : '', depth }];
    }),
  );
}

const runsOf = (pieces: readonly TextPiece[] = [], figure: (key: string) => QuotedFigure | undefined): TextRun[] =>
  pieces.flatMap((piece): TextRun[] => {
    const set = {
      isStrong: piece.marks?.some(({ type }) => type === 'bold') === true,
      isSlanted: piece.marks?.some(({ type }) => type === 'italic') === true,
    };
    switch (piece.type) {
      case 'text':
        return [{ text: piece.text, ...set }];
      case 'hardBreak':
        return [{ text: '\n', ...set }];
      case 'figure': {
        const quoted = figure(piece.attrs.key);
        if (!quoted) return [];
        const { text, moved } = quoted;
        return [
          { text, ...set, isStrong: true },
          ...(moved ? [{ text: ` (${moved})`, isSlanted: true, hasMoved: true }] : []),
        ];
      }
    }
  });
