/** What an address of documents may hold in braces. */
export const LINK_PLACES = ['document', 'document_type', 'journal', 'entity', 'fiscal_year'] as const;

/** Where documents of an entity lie; an empty type is for those of every other type. */
export interface SourceLink {
  entity: string;
  documentType: string;
  pattern: string;
}

/** What of a posting an address is made of. */
export type SourceOf = Record<(typeof LINK_PLACES)[number], string>;

/** Whether a pattern is an address of the web that names the document, and nothing that no posting has. */
export const isLinkPattern = (pattern: string): boolean =>
  /^https?:\/\/[^\s/{}]+\//.test(pattern) &&
  pattern.includes('{document}') &&
  [...pattern.matchAll(/\{([^{}]*)\}/g)].every(([, place]) => LINK_PLACES.some((known) => known === place));

/**
 * The address at which the document of a posting opens: the pattern of its type, else the one for every type.
 *
 * Missing: undefined without a document, or without a pattern for it.
 * @example sourceAddress([{ entity: 'A', documentType: '', pattern: 'https://x/{document}' }], of) // https://x/INV%2F7
 */
export function sourceAddress(links: readonly SourceLink[], of: SourceOf): string | undefined {
  if (of.document === '') return undefined;
  const ofEntity = links.filter(({ entity }) => entity === of.entity);
  const found =
    ofEntity.find(({ documentType }) => documentType === of.document_type) ??
    ofEntity.find(({ documentType }) => documentType === '');
  return found?.pattern.replace(/\{(\w+)\}/g, (_, place: keyof SourceOf) => encodeURIComponent(of[place]));
}
