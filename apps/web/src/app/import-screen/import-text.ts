import type { ImportCountsView, ImportJobView } from '@margin-lens/contract';
import { countText, inWords, readablePlain } from '@margin-lens/core/shown';

const many = (count: number, one: string, more = `${one}s`) => `${countText(count)} ${count === 1 ? one : more}`;

/** One row and several of the tables of master data that come most often. */
const MASTER_WORDS: Record<string, readonly [string, string]> = {
  accounts: ['account', 'accounts'],
  calendars: ['period', 'periods'],
  dimensions: ['dimension value', 'dimension values'],
  entities: ['entity', 'entities'],
  groups: ['group', 'groups'],
  partners: ['partner', 'partners'],
  rates: ['rate', 'rates'],
  versions: ['version', 'versions'],
};

/** Kinds of changes of master data that are named; the rest is counted. */
const NAMED = 4; // 2 to 10

/** Which master data came, the most of it first. */
function mastersInWords(masters: ImportCountsView['masters']): string[] {
  const changes = Object.entries(masters)
    .flatMap(([table, { added, changed }]) => {
      const [one, more] = MASTER_WORDS[table] ?? [`row of ${inWords(table)}`, `rows of ${inWords(table)}`];
      return [
        { count: added, words: many(added, one, more) },
        { count: changed, words: `${many(changed, one, more)} changed` },
      ];
    })
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count);
  const rest = changes.slice(NAMED).reduce((sum, { count }) => sum + count, 0);
  return [
    ...changes.slice(0, NAMED).map(({ words }) => words),
    ...(rest > 0 ? [`${many(rest, 'row')} of other master data`] : []),
  ];
}

/** What a delivery brought, in one line. */
export function countsInWords(counts: ImportCountsView): string {
  const parts = [
    counts.journals > 0 ? `${many(counts.journals, 'journal')} with ${many(counts.lines, 'line')}` : '',
    (counts.changedJournals ?? 0) > 0 ? `${many(counts.changedJournals, 'journal')} changed` : '',
    (counts.removedJournals ?? 0) > 0 ? `${many(counts.removedJournals, 'journal')} removed` : '',
    counts.unchangedJournals > 0 ? `${many(counts.unchangedJournals, 'journal')} already there` : '',
    counts.figures > 0 ? `${many(counts.figures, 'plan and forecast figure')}` : '',
    counts.changedFigures > 0 ? `${many(counts.changedFigures, 'figure')} changed` : '',
    ...mastersInWords(counts.masters),
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
