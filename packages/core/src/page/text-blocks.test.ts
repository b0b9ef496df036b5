import type { TextBody } from '../layout/text-body';
import { textBlocks } from './text-blocks';

const paragraph = (text: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] });

it('written text is blocks of a page: headings, lists as deep as they stand, figures as they are now', () => {
  const body: TextBody = {
    type: 'doc',
    content: [
      { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Outlook' }] },
      {
        type: 'paragraph',
        content: [
          { type: 'text', text: 'Sales of ', marks: [{ type: 'bold' }] },
          { type: 'figure', attrs: { key: 'f1' } },
          { type: 'figure', attrs: { key: 'gone' } },
        ],
      },
      {
        type: 'orderedList',
        attrs: { start: 3 },
        content: [
          {
            type: 'listItem',
            content: [
              paragraph('first'),
              { type: 'bulletList', content: [{ type: 'listItem', content: [paragraph('below')] }] },
            ],
          },
          { type: 'listItem', content: [paragraph('second'), paragraph('goes on')] },
        ],
      },
    ],
  };
  const read = textBlocks(body, (key) => (key === 'f1' ? { text: '8,453', moved: 'was 8,400' } : undefined));
  const plain = read.map((block) =>
    block.kind === 'paragraph' ? [block.mark, block.depth, block.runs.map(({ text }) => text).join('')] : block,
  );
  expect(plain).toEqual([
    { kind: 'heading', text: 'Outlook' },
    [undefined, undefined, 'Sales of 8,453 (was 8,400)'],
    ['3.', 0, 'first'],
    ['–', 1, 'below'],
    ['4.', 0, 'second'],
    ['', 0, 'goes on'],
  ]);
});
