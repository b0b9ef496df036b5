import type { ImportCountsView, ImportJobView } from '@margin-lens/contract';
import { countText, readablePlain } from '@margin-lens/core/shown';

const many = (count: number, one: string, more = `${one}s`) => `${countText(count)} ${count === 1 ? one : more}`;

/** What a delivery brought, in one line. */
export function countsInWords(counts: ImportCountsView): string {
  const changedMasters = Object.values(counts.masters).reduce((sum, { added, changed }) => sum + added + changed, 0);
  const parts = [
    counts.journals > 0 ? `${many(counts.journals, 'journal')} with ${many(counts.lines, 'line')}` : '',
    (counts.changedJournals ?? 0) > 0 ? `${many(counts.changedJournals, 'journal')} changed` : '',
    (counts.removedJournals ?? 0) > 0 ? `${many(counts.removedJournals, 'journal')} removed` : '',
    counts.unchangedJournals > 0 ? `${many(counts.unchangedJournals, 'journal')} already there` : '',
    counts.figures > 0 ? `${many(counts.figures, 'plan and forecast figure')}` : '',
    counts.changedFigures > 0 ? `${many(counts.changedFigures, 'figure')} changed` : '',
    changedMasters > 0 ? `${many(changedMasters, 'row')} of master data` : '',
    counts.documents > 0 ? many(counts.documents, 'layout or statement', 'layouts and statements') : '',
  ].filter(Boolean);
  return parts.length === 0 ? 'Nothing new' : parts.join(', ');
}

/** Where a delivery stands, as a heading. */
export function stateWords({ state, fileName, findings, inspection }: ImportJobView): string {
  switch (state) {
    case 'preparing':
      return `Looking through ${fileName}`;
    case 'reading':
      return `Reading ${fileName}`;
    case 'asking':
      return `${fileName} was brought in before`;
    case 'mapping':
      return `How shall ${fileName} be read?`;
    case 'checked':
      return `What ${fileName} would change`;
    case 'done':
      return `${fileName} is in the books`;
    case 'refused':
      if (inspection) return `${fileName} cannot come in like this: ${many(findings?.errors ?? 0, 'error')}`;
      return `${fileName} was not brought in: ${many(findings?.errors ?? 0, 'error')}`;
    case 'cancelled':
      return `${fileName} was cancelled; the books are as they were`;
    case 'failed':
      return `${fileName} could not be read`;
  }
}

export const bytesInWords = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${readablePlain((bytes / 1e6).toFixed(1))} MB`;
