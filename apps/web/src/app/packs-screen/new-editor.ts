import { Editor, Node } from '@tiptap/core';
import { Bold } from '@tiptap/extension-bold';
import { Document } from '@tiptap/extension-document';
import { HardBreak } from '@tiptap/extension-hard-break';
import { Heading } from '@tiptap/extension-heading';
import { Italic } from '@tiptap/extension-italic';
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Text } from '@tiptap/extension-text';
import { UndoRedo } from '@tiptap/extensions';
import type { TextBody } from '@margin-lens/core';

/** An editor of text with headings, lists and figures. @param shown what a figure reads as, by its key */
export const newEditor = (element: HTMLElement, body: TextBody, shown: (key: string) => string | undefined): Editor =>
  new Editor({
    element,
    // its styles stand with ours, as the content policy wants
    injectCSS: false,
    content: body as object,
    extensions: [
      ...[Document, Paragraph, Text, HardBreak, Bold, Italic, UndoRedo],
      ...[BulletList, OrderedList, ListItem, ListKeymap],
      Heading.configure({ levels: [2, 3] }),
      figureNode(shown),
    ],
    editorProps: { attributes: { 'aria-label': 'Text of the page', role: 'textbox', 'aria-multiline': 'true' } },
  });

/** A figure in the text: one thing, that is not written in. */
const figureNode = (shown: (key: string) => string | undefined) =>
  Node.create({
    ...{ name: 'figure', group: 'inline', inline: true, atom: true },
    parseHTML: () => [{ tag: 'span[data-figure]' }],
    addAttributes: () => ({
      key: {
        parseHTML: (element: HTMLElement) => element.getAttribute('data-figure'),
        renderHTML: ({ key }: Record<string, unknown>) => ({ 'data-figure': key }),
      },
    }),
    renderHTML: ({ HTMLAttributes }) => ['span', HTMLAttributes, shown(String(HTMLAttributes['data-figure'])) ?? '?'],
    renderText: ({ node }) => shown(String(node.attrs['key'])) ?? '',
    addNodeView:
      () =>
      ({ node }) => {
        const dom = document.createElement('span');
        dom.className = 'figure';
        dom.contentEditable = 'false';
        dom.textContent = shown(String(node.attrs['key'])) ?? '?';
        return { dom };
      },
  });
