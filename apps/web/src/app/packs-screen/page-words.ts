import type { PackPage, PackPageKind } from '@margin-lens/core';

/** Kinds of pages, as they are added. `of` says what they show: a statement, a breakdown, or nothing that is kept. */
export const PAGE_KINDS: readonly { kind: PackPageKind; name: string; of?: 'statements' | 'breakdowns' }[] = [
  { kind: 'figures', name: 'Statement', of: 'statements' },
  { kind: 'figures', name: 'Breakdown', of: 'breakdowns' },
  { kind: 'chart', name: 'Chart', of: 'statements' },
  { kind: 'exceptions', name: 'What moved', of: 'statements' },
  { kind: 'underlying', name: 'Underlying result', of: 'statements' },
  { kind: 'balances', name: 'Balances and evidence' },
  { kind: 'tiles', name: 'Key figures' },
  { kind: 'text', name: 'Text' },
  { kind: 'section', name: 'Section' },
  { kind: 'cover', name: 'Cover' },
  { kind: 'contents', name: 'Contents' },
];

/** A page of a kind, as it begins. @param of id of the statement or breakdown that it shows, where it shows one */
export function newPage(kind: PackPageKind, id: string, of: string): PackPage {
  switch (kind) {
    case 'figures':
    case 'chart':
    case 'exceptions':
    case 'underlying':
      return { kind, id, of };
    case 'balances':
    case 'cover':
      return { kind, id };
    case 'tiles':
      return { kind, id, tiles: [] };
    case 'text':
      return { kind, id, title: 'Text', body: { type: 'doc', content: [{ type: 'paragraph' }] } };
    case 'section':
      return { kind, id, title: 'Section' };
    case 'contents':
      return { kind, id, title: 'Contents' };
  }
}
