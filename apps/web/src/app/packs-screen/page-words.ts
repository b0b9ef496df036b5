import type { PackPage, PackPageKind } from '@margin-lens/core';

/** A kind of page that can be added. `of` says what it shows: a statement, a breakdown, a pack's page, or nothing that is kept. */
export interface PageChoice {
  kind: PackPageKind;
  name: string;
  of?: 'statements' | 'breakdowns' | 'packs';
  /** Columns that it begins with. */
  columns?: string;
}

/** Kinds of pages, as they are added. */
export const PAGE_KINDS: readonly PageChoice[] = [
  { kind: 'figures', name: 'Statement', of: 'statements' },
  { kind: 'figures', name: 'Breakdown', of: 'breakdowns' },
  { kind: 'chart', name: 'Chart', of: 'statements' },
  { kind: 'figures', name: 'Group worksheet', of: 'statements', columns: 'group_worksheet' },
  { kind: 'exceptions', name: 'What moved', of: 'statements' },
  { kind: 'underlying', name: 'Underlying result', of: 'statements' },
  { kind: 'balances', name: 'Balances and evidence' },
  { kind: 'tiles', name: 'Key figures' },
  { kind: 'text', name: 'Text' },
  { kind: 'section', name: 'Section' },
  { kind: 'cover', name: 'Cover' },
  { kind: 'contents', name: 'Contents' },
  { kind: 'shared', name: 'Page of another pack', of: 'packs' },
];

/** What pages of a kind are called where nothing else is known of one. */
export const kindName = (kind: PackPageKind): string => PAGE_KINDS.find((each) => each.kind === kind)!.name;

/** A page of a kind, as it begins. @param of id of the statement, breakdown or pack that it shows, where it shows one */
export function newPage({ kind, columns }: PageChoice, id: string, of: string): PackPage {
  switch (kind) {
    case 'figures':
      return { kind, id, of, ...(columns !== undefined && { columns }) };
    case 'chart':
    case 'exceptions':
    case 'underlying':
      return { kind, id, of };
    case 'balances':
    case 'cover':
      return { kind, id };
    case 'shared':
      return { kind, id, pack: of, page: '' };
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
