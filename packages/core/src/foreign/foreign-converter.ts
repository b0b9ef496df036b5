import { DIMENSION_PREFIX } from '../intake/resources';
import type { PostingContext } from '../intake/posting-context';
import type { Issue } from '../issue/issue';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { FiguresConverter } from './figures-converter';
import { JournalConverter } from './journal-converter';
import type { Mapping } from './mapping';
import type { KnownOfTarget, RowConverter } from './row-converter';
import { TableConverter } from './table-converter';
import { resourceOf } from './targets';
import { TrialBalanceConverter, type StandBefore } from './trial-balance-converter';

/** What the conversion of a foreign file looks things up in. */
export interface ForeignContext {
  postings: PostingContext;
  /** Calendar by which months of rates are read. */
  calendar: FiscalCalendar | undefined;
  standBefore: StandBefore;
  /** Codes of entities by their names, as `nameKey` writes them; a file may call them by these. */
  entityNames: ReadonlyMap<string, string>;
}

/** The converter for what a mapping brings. */
export function foreignConverter(
  file: string,
  mapping: Mapping,
  fileHeader: readonly string[],
  context: ForeignContext,
  report: (found: Issue) => void,
): RowConverter {
  const { postings, calendar, standBefore, entityNames } = context;
  const { accounts, entities, partners, dimensions, versions } = postings;
  const known = new Map<string, KnownOfTarget>([
    ['entity', { has: (code) => entities.has(code), byName: entityNames }],
    ['partner', partners],
    ['account', accounts],
    ['version', versions],
  ]);
  for (const [dimension, values] of dimensions) known.set(`${DIMENSION_PREFIX}${dimension}`, values);
  // of a dimension that is not there yet, no value is
  for (const target of Object.keys(mapping.columns))
    if (target.startsWith(DIMENSION_PREFIX) && !known.has(target)) known.set(target, new Set());
  switch (mapping.purpose) {
    case 'journals':
      return new JournalConverter(postings, file, mapping, fileHeader, report, known);
    case 'trial_balance':
      return new TrialBalanceConverter(postings, standBefore, file, mapping, fileHeader, report, known);
    case 'figures':
      return new FiguresConverter(postings, file, mapping, fileHeader, report, known);
    default:
      return new TableConverter(resourceOf(mapping.purpose)!, calendar, file, mapping, fileHeader, report, new Map());
  }
}
